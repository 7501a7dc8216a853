/** Glow: light of bright parts that spreads about them, added to the light of the scene before it is rendered. */
import type { Falloff } from '../../../optics/falloff.ts';
import type { Arena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { cellNodes } from '../../../picture/tile/cell-nodes.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import { type Ask, resourceFor } from '../../../picture/tile/resource.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import type { ReadingTile, Rows } from '../../../picture/tile/tile.ts';
import { gainNodes } from '../../lens/falloff-stage.ts';
import type { ToneSettings } from '../../tone/step.ts';
import type { FinishSettings } from '../step.ts';
import { type GlowSpec, glowAsk, glowResource, glowsBetween } from './glow-resource.ts';

export interface GlowGiven {
  plan: { falloff: Falloff | null };
  laid: Ask | null;
  recipe: { finish: FinishSettings; tone: ToneSettings };
}

export interface GlowData {
  spec: GlowSpec;
  falloff: Falloff | null;
  /** Share of the spread light that is added. */
  amount: number;
}

/** What is added at 100 %. */
const MOST = 0.8;
/** Deviations of the spread at no reach and at all of it, in halves of the diagonal. */
const [NEAR, FAR] = [0.004, 0.05];

export const glowAmount = (percent: number): number => (MOST * percent) / 100;

/** What glows, and how far: as the frame is exposed. */
export const glowSpecOf = ({ recipe: { finish, tone }, laid }: Omit<GlowGiven, 'plan'>): GlowSpec => ({
  from: Math.round(10 * (finish.glowFrom - (tone.enabled ? tone.exposure : 0))) / 10,
  reach: NEAR * (FAR / NEAR) ** (finish.glowReach / 100),
  on: laid
});

/** Adds glow to columns [from, to) of a row of rows; `weights`: the address of one for each of them, or 0. */
export type AddGlow = (
  rows: Rows,
  row: number,
  columns: { from: number; to: number },
  amount: number,
  weights: number
) => void;

/** Makes a function that adds glow to rows of a tile. */
export function addingGlow(
  tile: ReadingTile,
  { spec, falloff }: Pick<GlowData, 'spec' | 'falloff'>,
  arena: Arena
): AddGlow {
  const spread = resourceFor(tile.resources, glowResource, spec);
  const [x, y] = cellNodes(tile, spread, arena);
  const gains = falloff ? addressOf(gainNodes(tile, falloff, arena)[1]) : 0;
  const [low, high] = glowsBetween(spec);
  const { columns, step } = tile.mesh;
  const { addGlow } = kernels();
  return (rows, row, { from, to }, amount, weights) =>
    addGlow(
      ...addresses(rows, row * rows.width + from),
      to - from,
      x,
      y,
      gains,
      columns,
      step,
      rows.top + row,
      rows.left + from,
      addressOf(spread.values),
      spread.width,
      spread.height,
      low,
      high,
      amount,
      weights
    );
}

export const glowStage: PixelStage<'glow', GlowGiven, GlowData> = {
  name: 'glow',
  kind: 'pixel',
  prepare({ recipe, plan: { falloff }, laid }) {
    const { enabled, glow } = recipe.finish;
    if (!enabled || glow === 0) return null;
    return { spec: glowSpecOf({ recipe, laid }), falloff, amount: glowAmount(glow) };
  },
  reads: ({ spec }) => [glowAsk(spec)],
  begin(tile, data, arena) {
    const add = addingGlow(tile, data, arena);
    return (rows) => {
      const all = { from: 0, to: rows.width };
      for (let row = 0; row < rows.height; row++) add(rows, row, all, data.amount, 0);
    };
  }
};
