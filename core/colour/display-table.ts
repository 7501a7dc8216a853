import { baseCurve } from './base-curve.ts';
import { type OutputSpace, RGB_SPACES, encodeValue } from './rgb-spaces.ts';
import { srgbEncode } from './srgb-transfer.ts';

/**
 * How a picture's linear values relate to light: a raw file's are the scene's and take the base curve; a
 * finished picture's (JPEG, PNG, TIFF) are already those of a display and take none.
 */
export type Rendering = 'scene' | 'display';

export const TABLE_SIZE = 65536;

/** A function of linear values 0..1 in TABLE_SIZE steps, with one entry more to interpolate to. */
const tabulate = (of: (linear: number) => number): Float32Array =>
  Float32Array.from({ length: TABLE_SIZE + 1 }, (_, i) => of(Math.min(1, i / (TABLE_SIZE - 1))));

/** Tables that are made once for each key. */
function kept<K>(make: (key: K) => Float32Array): (key: K) => Float32Array {
  const tables = new Map<K, Float32Array>();
  return (key) => {
    const known = tables.get(key);
    if (known) return known;
    const table = make(key);
    tables.set(key, table);
    return table;
  };
}

const displayed = (rendering: Rendering, linear: number): number =>
  rendering === 'scene' ? baseCurve(linear) : linear;

/** Display-linear values for linear ones. */
export const lightTable = kept((rendering: Rendering) => tabulate((linear) => displayed(rendering, linear)));

/** Encoded sRGB values for linear ones. */
export const displayTable = kept((rendering: Rendering) =>
  tabulate((linear) => srgbEncode(displayed(rendering, linear)))
);

/** Encoded values of a space for display-linear ones. */
export const encodingTable = kept((space: OutputSpace) =>
  tabulate((linear) => encodeValue(RGB_SPACES[space].transfer, linear))
);
