/** A picture's light on a grid over the whole of it: mean colours of each cell in the working space, and their stops. */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { Matrix3 } from '../../math/matrix3.ts';
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { type PlacedPlanes, addresses } from '../../picture/tile/planes.ts';

/** Luminance that is added before its logarithm is taken: black is at -12 stops. */
export const FLOOR = 2 ** -12;

/** Fills `colours` and `stops`, planes of the grid's size; `toWorking` is of the picture's file. */
export function averageLight(
  source: PlacedPlanes,
  toWorking: Matrix3,
  { width, height }: FrameSize,
  { colours, stops }: { colours: readonly Float32Array[]; stops: Float32Array }
): void {
  const size = width * height;
  const [r, g, b] = colours.map(addressOf);
  const k = kernels();
  inArena((arena) => {
    const work = addressOf(arena.float32(source.width + 3));
    addresses(source).forEach((plane, i) =>
      k.averageOnto(plane, source.width, source.height, [r, g, b][i], width, height, work)
    );
    k.mixColours(r, g, b, size, arena.addressOf(toWorking), Infinity);
    k.logLight(r, g, b, size, arena.addressOf([...LUMINANCE_REC2020, FLOOR]), addressOf(stops));
  });
}
