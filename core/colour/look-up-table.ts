/** Functions of light from 0 to 1 as tables: the curves of pictures are costly to evaluate for each pixel. */
import { type OutputSpace, RGB_SPACES, encodeValue } from './rgb-spaces.ts';

/** Steps of a table: fine enough for 16 bits between them, and few enough for the processor's cache. */
const STEPS = 16384;

/** A function of 0..1, with one entry more to interpolate to. */
export const tabulate = (of: (linear: number) => number): Float32Array =>
  Float32Array.from({ length: STEPS + 2 }, (_, i) => of(Math.min(1, i / STEPS)));

/** A table's value between its entries, for 0..1 (beyond: its ends). */
export function lookUp(table: Float32Array, value: number): number {
  if (value <= 0) return table[0];
  if (value >= 1) return table[STEPS];
  const position = value * STEPS;
  const i = position | 0;
  const below = table[i];
  return below + (table[i + 1] - below) * (position - i);
}

const encodings = new Map<OutputSpace, Float32Array>();

/** Encoded values of a space for linear ones. */
export function encodingTable(space: OutputSpace): Float32Array {
  const known = encodings.get(space);
  if (known) return known;
  const table = tabulate((linear) => encodeValue(RGB_SPACES[space].transfer, linear));
  encodings.set(space, table);
  return table;
}
