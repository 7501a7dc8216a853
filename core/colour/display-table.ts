import { baseCurve } from './base-curve.ts';
import { srgbEncode } from './srgb-transfer.ts';

/**
 * How a picture's linear values relate to light: a raw file's are the scene's and take the base curve; a
 * finished picture's (JPEG, PNG, TIFF) are already those of a display and take none.
 */
export type Rendering = 'scene' | 'display';

export const TABLE_SIZE = 65536;

/** A function of linear values 0..1 in TABLE_SIZE steps, with one entry more to interpolate to, made once for each rendering. */
function tabled(make: (displayed: number) => number): (rendering: Rendering) => Float32Array {
  const tables = new Map<Rendering, Float32Array>();
  return (rendering) => {
    const known = tables.get(rendering);
    if (known) return known;
    const table = Float32Array.from({ length: TABLE_SIZE + 1 }, (_, i) => {
      const linear = Math.min(1, i / (TABLE_SIZE - 1));
      return make(rendering === 'scene' ? baseCurve(linear) : linear);
    });
    tables.set(rendering, table);
    return table;
  };
}

/** Display-linear values for linear ones. */
export const lightTable = tabled((displayed) => displayed);

/** Encoded sRGB values for linear ones. */
export const displayTable = tabled(srgbEncode);
