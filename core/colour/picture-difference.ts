/** What changed from one picture to another, place by place, as eyes see it. */
import type { FrameSize } from '../math/frame-geometry.ts';
import type { Vector3 } from '../math/vector3.ts';
import { ciede2000 } from './ciede2000.ts';
import { linearToLab } from './cielab.ts';
import { type OutputSpace, RGB_SPACES } from './rgb-spaces.ts';
import { srgbDecode } from './srgb-transfer.ts';

/** Pixels of four bytes: red, green and blue by sRGB's curve, and whether there is a picture. */
export interface ShownPicture extends FrameSize {
  pixels: ArrayLike<number>;
}

export interface PictureDifference extends FrameSize {
  /** CIEDE2000 of each block of pixels; NaN where one of the two has no picture. */
  values: Float32Array;
  /** Over all blocks: the mean, what 95 % of them stay within, and the most. */
  mean: number;
  mostly: number;
  most: number;
}

const LIGHT = Float64Array.from({ length: 256 }, (_, code) => srgbDecode(code / 255));

/** Pictures of one size and space, compared in blocks of `every` pixels across and down. */
export function pictureDifference(
  one: ShownPicture,
  other: ShownPicture,
  space: Extract<OutputSpace, 'srgb' | 'display-p3'>,
  every = 1
): PictureDifference {
  if (one.width !== other.width || one.height !== other.height)
    throw new Error('Only pictures of one size can be compared.');
  const width = Math.floor(one.width / every);
  const height = Math.floor(one.height / every);
  const values = new Float32Array(width * height);
  const toLab = linearToLab(RGB_SPACES[space]);
  const lightOf = ({ pixels, width: pitch }: ShownPicture, x: number, y: number): Vector3 | null => {
    const light: [number, number, number] = [0, 0, 0];
    for (let v = y * every; v < (y + 1) * every; v++)
      for (let u = x * every; u < (x + 1) * every; u++) {
        const at = 4 * (v * pitch + u);
        if (pixels[at + 3] === 0) return null;
        for (let c = 0; c < 3; c++) light[c] += LIGHT[pixels[at + c]] / every ** 2;
      }
    return light;
  };
  let [sum, most, count] = [0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [before, after] = [lightOf(one, x, y), lightOf(other, x, y)];
      const at = y * width + x;
      values[at] = before && after ? ciede2000(toLab(before), toLab(after)) : NaN;
      if (!(values[at] >= 0)) continue;
      sum += values[at];
      most = Math.max(most, values[at]);
      count++;
    }
  const sorted = values.filter((value) => value >= 0).sort();
  return {
    ...{ width, height, values, most },
    mean: count === 0 ? 0 : sum / count,
    mostly: count === 0 ? 0 : sorted[Math.min(count - 1, Math.floor(0.95 * count))]
  };
}
