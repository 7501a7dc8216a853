/** What areas do to rows: to a copy of the pixels that they reach, mixed in by weight. */
import { IDENTITY, type Matrix3 } from '../../math/matrix3.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { type Planes, addresses } from '../../picture/tile/planes.ts';
import type { RowWeights, Rows } from '../../picture/tile/tile.ts';

/** Values that kernels may write beyond the last of a run: they take four at once. */
const BEYOND = 3;

/** Changes rows in place. */
export type Change = (rows: Rows) => void;

/** The columns that an area reaches in any of some rows. */
function reachOf({ from, to }: RowWeights, height: number): { left: number; right: number } {
  let [left, right] = [Infinity, 0];
  for (let row = 0; row < height; row++) {
    if (from[row] >= to[row]) continue;
    left = Math.min(left, from[row]);
    right = Math.max(right, to[row]);
  }
  return { left, right };
}

/** What an area does: changes of a copy, begun once, and last a matrix on its colours. */
export interface Acting {
  id: string;
  changes: readonly Change[];
  matrix?: Matrix3;
}

/**
 * Makes a change of rows from what each area does, to copies of the rows themselves, or of those that are kept beside them; a matrix
 * alone needs no copy.
 */
export function actWithin(
  areas: readonly Acting[],
  arena: Arena,
  from: (rows: Rows) => Planes = (rows) => rows
): Change {
  const { copyRows } = kernels();
  let memory: Planes & { valid: Uint8Array; room: number } = {
    width: 0,
    height: 0,
    r: new Float32Array(0),
    g: new Float32Array(0),
    b: new Float32Array(0),
    valid: new Uint8Array(0),
    room: 0
  };
  const acting = areas.map(({ id, changes, matrix = IDENTITY }) => ({
    id,
    changes,
    matrix: arena.addressOf(matrix)
  }));
  return (rows) => {
    const { width, height } = rows;
    const count = width * height;
    if (memory.room < count && areas.some(({ changes }) => changes.length > 0)) {
      const plane = (): Float32Array => arena.float32(count + BEYOND);
      const size = { width, height, room: count };
      memory = { ...size, r: plane(), g: plane(), b: plane(), valid: arena.uint8(count) };
    }
    for (const { id, changes, matrix } of acting) {
      const weights = rows.weights?.get(id);
      if (!weights) continue;
      if (changes.length === 0) {
        mixIn(rows, weights, matrix, from(rows), width, 0);
        continue;
      }
      const { left, right } = reachOf(weights, height);
      const wide = right - left;
      if (wide <= 0) continue;
      const other: Rows = {
        ...rows,
        width: wide,
        left: rows.left + left,
        r: memory.r.subarray(0, wide * height),
        g: memory.g.subarray(0, wide * height),
        b: memory.b.subarray(0, wide * height),
        valid: memory.valid.subarray(0, wide * height)
      };
      const changed = addresses(other);
      addresses(from(rows)).forEach((plane, c) =>
        copyRows(plane + 4 * left, width, changed[c], wide, wide, height)
      );
      for (const change of changes) change(other);
      mixIn(rows, weights, matrix, other, wide, left);
    }
  };
}

/** Mixes what a matrix makes of other rows, `wide` columns from `left` on, into rows by weight. */
function mixIn(
  rows: Rows,
  { values, from, to }: RowWeights,
  matrix: number,
  other: Planes,
  wide: number,
  left: number
): void {
  const { mixRows } = kernels();
  const [r, g, b] = addresses(rows);
  const [r2, g2, b2] = addresses(other);
  const weights = addressOf(values);
  for (let row = 0; row < rows.height; row++) {
    if (from[row] >= to[row]) continue;
    const at = 4 * (row * rows.width + from[row]);
    const there = 4 * (row * wide + from[row] - left);
    const count = to[row] - from[row];
    mixRows(r + at, g + at, b + at, r2 + there, g2 + there, b2 + there, matrix, weights + at, count);
  }
}
