/**
 * The light of bright parts, spread about them, on a grid in field coordinates: a narrow Gaussian and a wide one, since light that is
 * scattered in a lens falls off ever more slowly.
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { gaussianWeights } from '../../../math/gaussian-weights.ts';
import { averageLight } from '../../../measure/light/average-light.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf, takeFloat32, takenTogether } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { gridOf } from '../../../picture/tile/grid.ts';
import { type Ask, type Resource, planesOn } from '../../../picture/tile/resource.ts';

export interface GlowSpec {
  /** Stops about white of the file from which on parts glow. */
  from: number;
  /** Deviation of the narrow spread, in halves of the diagonal. */
  reach: number;
  /** The resource whose light spreads; null: that of the frame as it was developed. */
  on: Ask | null;
}

export interface SpreadLight extends FrameSize {
  /** Red, green, blue and nothing of each cell. */
  values: Float32Array;
}

/** Cells along the longer edge that bright parts are told in, and that their light is spread on. */
const FINE_CELLS = 1536;
const CELLS = 384;
/** How much wider the wide spread is, and its share. */
const WIDER = 3;
const WIDE_SHARE = 0.4;
/** Deviations at which spreads end: about a bright lamp less would show where. */
const CUT = 4.5;
/** Stops below and above the one that is asked for between which parts begin to glow. */
const SOFT = 1;

/** Light of the working space between which parts begin to glow. */
export function glowsBetween(spec: Pick<GlowSpec, 'from'>): [low: number, high: number] {
  return [2 ** (spec.from - SOFT), 2 ** (spec.from + SOFT)];
}

export const glowResource: Resource<'glow', GlowSpec, SpreadLight> = {
  name: 'glow',
  of: 'frame',
  longEdge: FINE_CELLS,
  reads: ({ on }) => (on ? [on] : []),
  alike: ({ from, reach }) => [from, reach],
  stored: () => null,
  make(source, spec) {
    const planes = planesOn(source, spec.on);
    const [fine, grid] = [FINE_CELLS, CELLS].map((cells) => gridOf(planes, cells));
    const size = grid.width * grid.height;
    return takenTogether((own) => {
      const values = own(takeFloat32(4 * size)).fill(0);
      inArena((arena) => {
        const many = fine.width * fine.height;
        const [r, g, b] = [0, 1, 2].map(() => arena.float32(many));
        averageLight(planes, source.toWorking, fine, { colours: [r, g, b], stops: arena.float32(many) });
        const { averageOnto, blurPlane, keepBright } = kernels();
        keepBright(addressOf(r), addressOf(g), addressOf(b), many, ...glowsBetween(spec));
        const [narrow, wide] = [0, 1].map(() => arena.float32(size));
        const work = arena.float32(size + grid.width + 3);
        const deviation = spec.reach * grid.unit;
        const [near, far] = [deviation, deviation * WIDER].map((each) => gaussianWeights(each, CUT));
        const [nearWeights, farWeights] = [near, far].map(({ weights }) => arena.addressOf(weights));
        const rowOfWork = addressOf(arena.float32(fine.width + 3));
        [r, g, b].forEach((plane, c) => {
          averageOnto(
            addressOf(plane),
            fine.width,
            fine.height,
            addressOf(narrow),
            grid.width,
            grid.height,
            rowOfWork
          );
          wide.set(narrow);
          blurPlane(addressOf(narrow), grid.width, grid.height, nearWeights, near.reach, addressOf(work));
          blurPlane(addressOf(wide), grid.width, grid.height, farWeights, far.reach, addressOf(work));
          for (let i = 0; i < size; i++) values[4 * i + c] = narrow[i] + (wide[i] - narrow[i]) * WIDE_SHARE;
        });
      });
      return { width: grid.width, height: grid.height, values };
    });
  },
  memory: ({ values }) => [values],
  missing: 'The glow of this frame could not be made.'
};

export const glowAsk = (data: GlowSpec) => ({ resource: 'glow', data }) as const;
