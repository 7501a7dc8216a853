/** The small picture for viewing that a camera puts into its files: upright scene in stored order, plain sRGB. */
import { srgbEncode } from '../../core/colour/srgb-transfer.ts';
import { apply, invert3 } from '../../core/math/matrix3.ts';
import { BLACK, type Capture, WHITE } from './capture.ts';
import { CAMERA_FROM_SRGB } from './colour.ts';

/** Longest edge in pixels. */
const EDGE = 480;

export interface ViewingPicture {
  width: number;
  height: number;
  /** Interleaved RGB of 8 bits. */
  rgb: Uint8Array;
}

/** Means of the sites of each colour over squares, brightened as cameras do. */
export function viewingPicture({ data, width, height }: Capture): ViewingPicture {
  const step = Math.max(2, 2 * Math.ceil(Math.max(width, height) / EDGE / 2));
  const [columns, rows] = [Math.floor(width / step), Math.floor(height / step)];
  const rgb = new Uint8Array(columns * rows * 3);
  const toSrgb = invert3(CAMERA_FROM_SRGB);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const sums = [0, 0, 0];
      for (let y = row * step; y < (row + 1) * step; y++)
        for (let x = column * step; x < (column + 1) * step; x++)
          sums[(x & 1) + (y & 1)] += data[y * width + x] - BLACK;
      const sites = (step * step) / 4;
      const [red, green, blue] = sums.map((sum, c) => sum / (sites * (c === 1 ? 2 : 1)) / (WHITE - BLACK));
      const light = apply(toSrgb, [red, green, blue]);
      light.forEach((value, c) => {
        rgb[(row * columns + column) * 3 + c] = 255 * srgbEncode(Math.min(1, Math.max(0, value * 1.3))) + 0.5;
      });
    }
  return { width: columns, height: rows, rgb };
}
