/**
 * Sharpening for the output at its own size: unsharp masking of the luma of encoded values, kept within what the
 * neighbourhood holds, so that it steepens edges without drawing halos along them. The luma's change is added to all three
 * colours: hues stay.
 */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { gaussianWeights } from '../../math/gaussian-weights.ts';
import { type Arena, inArena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { addresses } from '../tile/planes.ts';
import type { NeighbourhoodStage } from '../tile/stage.ts';
import type { Tile } from '../tile/tile.ts';
import type { SharpenOptions } from './sharpen-options.ts';

/** Most by which a value may leave the range of its neighbours, as a share of full scale. */
const OVERSHOOT = 0.012;

/** Memory that sharpening works in: four planes, a row, as many planes `more`, and room for each to begin at a round address. */
export const sharpeningRoom = (arena: Arena, { width, height }: FrameSize, more = 0): number =>
  addressOf(arena.float32(((4 + more) * height + 1) * width + (6 + more) * 16));

/** Sharpens planes of encoded values, 0..1, in place; where no pixel is real the nearest one stands for it. */
export function sharpen(
  planes: Pick<Tile, 'width' | 'height' | 'r' | 'g' | 'b' | 'valid'>,
  { radius, amount }: SharpenOptions
): void {
  const { width, height, valid } = planes;
  const { weights, reach } = gaussianWeights(radius);
  inArena((arena) => {
    kernels().sharpenPlanes(
      ...addresses(planes),
      addressOf(valid),
      width,
      height,
      arena.addressOf(weights),
      reach,
      amount,
      OVERSHOOT,
      sharpeningRoom(arena, planes)
    );
  });
}

interface Given {
  sharpening: SharpenOptions | null;
}

export const sharpenStage: NeighbourhoodStage<'sharpen', Given, SharpenOptions> = {
  name: 'sharpen',
  kind: 'neighbourhood',
  atRestOnly: () => true,
  prepare: ({ sharpening }) => sharpening,
  // One more than the blur reaches: the least and most of neighbours.
  reach: ({ radius }) => gaussianWeights(radius).reach + 1,
  apply: sharpen
};
