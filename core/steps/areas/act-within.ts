/** What areas do to rows: to a copy of the pixels that they reach, mixed in by weight. */
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

/**
 * Makes a change of rows from what each area does; those are begun once, and act on copies: of the rows themselves, or of those
 * that are kept beside them.
 */
export function actWithin(
  areas: readonly { id: string; changes: readonly Change[] }[],
  arena: Arena,
  from: (rows: Rows) => Planes = (rows) => rows
): Change {
  const { copyRows, mixRows } = kernels();
  let memory: Planes & { valid: Uint8Array; room: number } = {
    width: 0,
    height: 0,
    r: new Float32Array(0),
    g: new Float32Array(0),
    b: new Float32Array(0),
    valid: new Uint8Array(0),
    room: 0
  };
  return (rows) => {
    const { width, height } = rows;
    const count = width * height;
    if (memory.room < count) {
      const plane = (): Float32Array => arena.float32(count + BEYOND);
      const size = { width, height, room: count };
      memory = { ...size, r: plane(), g: plane(), b: plane(), valid: arena.uint8(count) };
    }
    for (const { id, changes } of areas) {
      const weights = rows.weights?.get(id);
      if (!weights) continue;
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
      const own = addresses(rows);
      const changed = addresses(other);
      addresses(from(rows)).forEach((plane, c) =>
        copyRows(plane + 4 * left, width, changed[c], wide, wide, height)
      );
      for (const change of changes) change(other);
      const weighed = addressOf(weights.values);
      for (let row = 0; row < height; row++) {
        const [from, to] = [weights.from[row], weights.to[row]];
        if (from >= to) continue;
        const at = 4 * (row * width + from);
        const there = 4 * (row * wide + from - left);
        for (let c = 0; c < 3; c++) mixRows(own[c] + at, changed[c] + there, weighed + at, to - from);
      }
    }
  };
}
