import type { FrameSize } from '../math/frame-geometry.ts';
import { type PlacedPlanes, type Planes, allocatePlanes } from './planes.ts';

/** Size of the half of a picture. */
export const halfSize = ({ width, height }: FrameSize): FrameSize => ({
  width: Math.ceil(width / 2),
  height: Math.ceil(height / 2)
});

/** Half the size by the mean of 2 x 2 pixels, into planes of that size; an odd last row or column is repeated. */
export function halve(source: PlacedPlanes, out: Planes = emptyHalf(source)): PlacedPlanes {
  const { width, height } = out;
  for (const channel of ['r', 'g', 'b'] as const) {
    const from = source[channel];
    const to = out[channel];
    for (let y = 0; y < height; y++) {
      const above = y * 2 * source.width;
      const below = Math.min(y * 2 + 1, source.height - 1) * source.width;
      for (let x = 0; x < width; x++) {
        const left = x * 2;
        const right = Math.min(left + 1, source.width - 1);
        to[y * width + x] =
          (from[above + left] + from[above + right] + from[below + left] + from[below + right]) / 4;
      }
    }
  }
  return {
    ...out,
    originX: source.originX,
    originY: source.originY,
    scaleX: source.scaleX / 2,
    scaleY: source.scaleY / 2
  };
}

function emptyHalf(source: PlacedPlanes): Planes {
  const { width, height } = halfSize(source);
  return allocatePlanes(width, height);
}

/** The picture and its successive halves, down to about `smallest` pixels on the long edge. */
export function pyramid(source: PlacedPlanes, smallest = 256): PlacedPlanes[] {
  const levels = [source];
  while (Math.max(levels[levels.length - 1].width, levels[levels.length - 1].height) > smallest * 2) {
    levels.push(halve(levels[levels.length - 1]));
  }
  return levels;
}
