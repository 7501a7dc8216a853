/** Softens a mask: three means of boxes come close to a Gaussian (Wells, IEEE PAMI 8, 1986). */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';

const PASSES = 3;

/** Softens in place; `reach` is how far the edge comes out of its place at most, in cells. */
export function softened(plane: Float32Array, { width, height }: FrameSize, reach: number): void {
  const radius = Math.round(reach / PASSES);
  if (radius < 1) return;
  inArena((arena) => {
    const across = addressOf(arena.float32(width * height + 2 * width + 16));
    const at = addressOf(plane);
    for (let pass = 0; pass < PASSES; pass++) kernels().boxMean(at, width, height, radius, across, at);
  });
}
