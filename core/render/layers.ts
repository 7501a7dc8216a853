/**
 * Layers: other developments of the same frame, mixed into a picture by weights over its place. They share its geometry and
 * all that is done to the neighbourhood of a pixel, and the stages by which it leaves.
 */
import type { Arena } from '../picture/kernels/arena.ts';
import { type FieldWeights, mix, weighing } from '../picture/tile/field-weights.ts';
import type { ReadingTile } from '../picture/tile/tile.ts';
import { type Pass, firstRows, passesOf, takeRows } from './pixel-passes.ts';
import { type AnyPixel, LEAVING, PIXEL_STAGES, type StageInputs } from './stages.ts';

export interface Layer {
  stages: StageInputs;
  weights: FieldWeights;
}

const leaves = PIXEL_STAGES.findIndex(({ name }) => name === LEAVING);

/** Whether a stage is one of those that a layer has for itself. */
export const isLayered = (stage: AnyPixel): boolean => PIXEL_STAGES.indexOf(stage) < leaves;

/** The passes of a picture and of what is laid over it in turn, as one; `most`: values of the largest rows. */
export function layeredPass(
  base: readonly Pass[],
  layers: readonly Layer[],
  tile: ReadingTile,
  { width, most }: { width: number; most: number },
  arena: Arena
): Pass {
  const begun = layers.map(({ stages, weights }) => ({
    passes: passesOf(stages, tile, arena, isLayered),
    weigh: weighing(tile, weights, arena)
  }));
  const asCame = takeRows(width, most, arena);
  const memory = takeRows(width, most, arena);
  const weights = arena.float32(width * most);
  return (rows) => {
    const [kept, other] = [asCame, memory].map((taken) => ({
      ...firstRows(taken, rows.height),
      top: rows.top,
      left: rows.left
    }));
    const copy = (from: typeof rows, to: typeof rows): void => {
      for (const plane of ['r', 'g', 'b', 'valid'] as const) to[plane].set(from[plane]);
    };
    copy(rows, kept);
    for (const pass of base) pass(rows);
    for (const { passes, weigh } of begun) {
      copy(kept, other);
      for (const pass of passes) pass(other);
      weigh(rows, weights);
      mix(rows, other, weights);
    }
  };
}
