import { baseCurve } from './base-curve.ts';
import { srgbEncode } from './srgb-transfer.ts';

/**
 * How a picture's linear values relate to light: a raw file's are the scene's and take the base curve; a
 * finished picture's (JPEG, PNG, TIFF) are already those of a display and take none.
 */
export type Rendering = 'scene' | 'display';

export const TABLE_SIZE = 65536;

const tables = new Map<Rendering, Float32Array>();

/** Encoded sRGB value (0..1) for linear values 0..1 in TABLE_SIZE steps, with one entry more to interpolate to. */
export function displayTable(rendering: Rendering): Float32Array {
  const known = tables.get(rendering);
  if (known) return known;
  const table = new Float32Array(TABLE_SIZE + 1);
  for (let i = 0; i <= TABLE_SIZE; i++) {
    const linear = Math.min(1, i / (TABLE_SIZE - 1));
    table[i] = srgbEncode(rendering === 'scene' ? baseCurve(linear) : linear);
  }
  tables.set(rendering, table);
  return table;
}
