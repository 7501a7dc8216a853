/** What areas do to rows: to a copy of the pixels that they reach, mixed in by weight. */
import type { Arena } from '../../picture/kernels/arena.ts';
import { mix } from '../../picture/tile/field-weights.ts';
import type { RowWeights, Rows } from '../../picture/tile/tile.ts';

/** Values that kernels may write beyond the last of a run: they take four at once. */
const BEYOND = 3;

/** Changes rows in place. */
export type Change = (rows: Rows) => void;

/** Rows, or a part of one, to be changed in place. */
function part(rows: Rows, row: number, height: number, from: number, to: number): Rows {
  const cut = <A extends Float32Array | Uint8Array>(of: A): A =>
    of.subarray(row * rows.width + from, (row + height - 1) * rows.width + to) as A;
  return {
    ...rows,
    width: to - from,
    height,
    top: rows.top + row,
    left: rows.left + from,
    r: cut(rows.r),
    g: cut(rows.g),
    b: cut(rows.b),
    valid: cut(rows.valid)
  };
}

/** The rows of each area are worked on together where it reaches all of them from end to end, and else one by one. */
function partsOf(rows: Rows, { from, to }: RowWeights): { part: Rows; at: number }[] {
  const { width, height } = rows;
  let whole = true;
  for (let row = 0; row < height && whole; row++) whole = from[row] === 0 && to[row] === width;
  if (whole) return [{ part: part(rows, 0, height, 0, width), at: 0 }];
  return Array.from({ length: height }, (_, row) => row)
    .filter((row) => from[row] < to[row])
    .map((row) => ({ part: part(rows, row, 1, from[row], to[row]), at: row * width + from[row] }));
}

/** Makes a change of rows from what each area does; those are begun once, and act on copies. */
export function actWithin(
  areas: readonly { id: string; changes: readonly Change[] }[],
  arena: Arena
): Change {
  let copy: Rows | null = null;
  return (rows) => {
    const count = rows.width * rows.height;
    if (!copy || copy.valid.length < count)
      copy = {
        ...rows,
        r: arena.float32(count + BEYOND),
        g: arena.float32(count + BEYOND),
        b: arena.float32(count + BEYOND),
        valid: arena.uint8(count)
      };
    for (const { id, changes } of areas) {
      const weights = rows.weights?.get(id);
      if (!weights) continue;
      for (const { part: own, at } of partsOf(rows, weights)) {
        const { length } = own.r;
        const other: Rows = {
          ...own,
          r: copy.r.subarray(0, length),
          g: copy.g.subarray(0, length),
          b: copy.b.subarray(0, length),
          valid: copy.valid.subarray(0, length)
        };
        for (const plane of ['r', 'g', 'b', 'valid'] as const) other[plane].set(own[plane]);
        for (const change of changes) change(other);
        mix(own, other, weights.values.subarray(at, at + length));
      }
    }
  };
}
