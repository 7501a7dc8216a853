/** Functions of light from 0 to 1 as tables: the curves of pictures are costly to evaluate for each pixel. */
import { type OutputSpace, RGB_SPACES, encodeValue } from './rgb-spaces.ts';

/**
 * Steps of a table, by the root of light, in which the curves of displays are nearly straight: fine enough for 16 bits
 * between them, and few enough for the processor's first cache.
 */
export const STEPS = 4096;

/** A function of 0..1, with one entry more to interpolate to. */
export const tabulate = (of: (linear: number) => number): Float32Array =>
  Float32Array.from({ length: STEPS + 2 }, (_, i) => of(Math.min(1, i / STEPS) ** 2));

const encodings = new Map<OutputSpace, Float32Array>();

/** Encoded values of a space for linear ones. */
export function encodingTable(space: OutputSpace): Float32Array {
  const known = encodings.get(space);
  if (known) return known;
  const table = tabulate((linear) => encodeValue(RGB_SPACES[space].transfer, linear));
  encodings.set(space, table);
  return table;
}
