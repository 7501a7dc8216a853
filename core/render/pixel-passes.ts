import type { Arena } from '../picture/kernels/arena.ts';
import type { ReadingTile, Rows } from '../picture/tile/tile.ts';
import { type AnyPixel, PIXEL_STAGES, type StageInputs } from './stages.ts';

/** Changes rows in place. */
export type Pass = (rows: Rows) => void;

/** The passes of those pixel stages that have something to do, in their order, where they are wanted. */
export const passesOf = (
  stages: StageInputs,
  tile: ReadingTile,
  arena: Arena,
  wanted: (stage: AnyPixel) => boolean
): Pass[] =>
  PIXEL_STAGES.flatMap((stage) => {
    const data: unknown = stages[stage.name];
    return data === null || !wanted(stage) ? [] : [stage.begin(tile, data, arena)];
  });

/** Memory for some rows, of a tile or of colours alone. */
export function takeRows(width: number, height: number, arena: Arena): Rows {
  const plane = (): Float32Array => arena.float32(width * height);
  return {
    width,
    height,
    top: 0,
    left: 0,
    r: plane(),
    g: plane(),
    b: plane(),
    valid: arena.uint8(width * height)
  };
}
