import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { type PlacedPlanes, type Planes, givePlanesBack, takePlanes } from './planes.ts';

/** Size of the half of a picture. */
export const halfSize = ({ width, height }: FrameSize): FrameSize => ({
  width: Math.ceil(width / 2),
  height: Math.ceil(height / 2)
});

/** Rows [from, to) of half the size by the mean of 2 x 2 pixels; an odd last row or column is repeated. */
export function halveRows(source: Planes, out: Planes, from: number, to: number): void {
  for (const channel of ['r', 'g', 'b'] as const)
    kernels().halve(
      addressOf(source[channel]),
      source.width,
      source.height,
      addressOf(out[channel]),
      out.width,
      from,
      to
    );
}

/** Planes for the half of a picture, placed as it will be. */
export function emptyHalf({ originX, originY, scaleX, scaleY, ...size }: PlacedPlanes): PlacedPlanes {
  const { width, height } = halfSize(size);
  return { ...takePlanes(width, height), originX, originY, scaleX: scaleX / 2, scaleY: scaleY / 2 };
}

/** Half the size of a whole picture. */
export function halve(source: PlacedPlanes): PlacedPlanes {
  const out = emptyHalf(source);
  halveRows(source, out, 0, out.height);
  return out;
}

/** The picture and its successive halves, down to about `smallest` pixels on the long edge. */
export function pyramid(source: PlacedPlanes, smallest = 256): PlacedPlanes[] {
  const levels = [source];
  try {
    while (Math.max(levels[levels.length - 1].width, levels[levels.length - 1].height) > smallest * 2) {
      levels.push(halve(levels[levels.length - 1]));
    }
    return levels;
  } catch (error) {
    levels.slice(1).forEach(givePlanesBack);
    throw error;
  }
}
