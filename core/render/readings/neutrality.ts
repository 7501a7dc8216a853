/**
 * How far places that were picked as grey are from it: their chroma in CIELAB (ISO/CIE 11664-4), at one lightness, so that the
 * figure tells the cast and not how light a place is.
 */
import { REC2020_TO_XYZ } from '../../colour/primaries.ts';
import { type Matrix3, apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';

export interface Neutrality {
  /** Root mean square and greatest chroma. */
  rms: number;
  worst: number;
  places: number;
}

/** Luminance at which chroma is told: that of L* = 60. */
const LUMINANCE = 0.281;
/** CIE's (6/29)³ and what belongs to it: the straight piece near black. */
const KNEE = 216 / 24389;
const WHITE = apply(REC2020_TO_XYZ, [1, 1, 1]);

const root = (share: number): number => (share > KNEE ? Math.cbrt(share) : (841 / 108) * share + 4 / 29);

/** CIELAB chroma of a working colour, brought to one luminance. */
function chroma(colour: Vector3): number {
  const xyz = apply(REC2020_TO_XYZ, colour);
  if (!(xyz[1] > 0)) return 0;
  const [x, y, z] = xyz.map((value, i) => root((value / xyz[1]) * (LUMINANCE / WHITE[i])));
  return Math.hypot(500 * (x - y), 200 * (y - z));
}

/** `colours` of the places in the working space, as shot; `linear` is what balance and primaries make of them. */
export function neutrality(colours: readonly Vector3[], linear: Matrix3): Neutrality | null {
  if (colours.length === 0) return null;
  const found = colours.map((colour) => chroma(apply(linear, colour)));
  return {
    rms: Math.sqrt(found.reduce((sum, value) => sum + value * value, 0) / found.length),
    worst: Math.max(...found),
    places: found.length
  };
}
