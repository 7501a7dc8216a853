/** What the sky is told by, on a grid over the frame: light, and blue against red. */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';

/** Cells along the longer edge that the look of the sky is told on. */
const LONG_EDGE = 640;
/** Stops are never more than this. */
const FOLDED = 64;

export interface Looks extends FrameSize {
  /** Stops of light, and of blue against red. */
  stops: Float32Array;
  hue: Float32Array;
}

export type Neighbours = (at: number, visit: (other: number) => void) => void;

/** Visits the cells beside, above and below one, as far as there are any. */
export function neighboursIn({ width, height }: FrameSize): Neighbours {
  const size = width * height;
  return (at, visit) => {
    const column = at % width;
    if (column > 0) visit(at - 1);
    if (column < width - 1) visit(at + 1);
    if (at >= width) visit(at - width);
    if (at < size - width) visit(at + width);
  };
}

/** Means on a coarser grid. */
export function reduced(fine: Looks): Looks {
  const share = Math.min(1, LONG_EDGE / Math.max(fine.width, fine.height));
  if (share === 1) return fine;
  const [width, height] = [Math.round(fine.width * share), Math.round(fine.height * share)];
  return inArena((arena) => {
    const work = addressOf(arena.float32(fine.width + 3));
    const mean = (of: Float32Array): Float32Array => {
      const [from, to] = [arena.float32(of.length), arena.float32(width * height)];
      // The kernel takes what is above 1 for light that is folded, and there is none.
      for (let i = 0; i < of.length; i++) from[i] = of[i] / FOLDED;
      kernels().averageOnto(addressOf(from), fine.width, fine.height, addressOf(to), width, height, work);
      return Float32Array.from(to, (value) => value * FOLDED);
    };
    return { width, height, stops: mean(fine.stops), hue: mean(fine.hue) };
  });
}
