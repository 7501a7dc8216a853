/** Oklab (Ottosson 2020) of linear Rec.2020: L, a, b from cube roots of cone-like responses. */
import { type Matrix3, apply, invert3, multiply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';
import { REC2020_TO_SRGB } from './primaries.ts';

const SRGB_TO_LMS: Matrix3 = [
  0.4122214708, 0.5363325363, 0.0514459929, 0.2119034982, 0.6806995451, 0.1073969566, 0.0883024619,
  0.2817188376, 0.6299787005
];

export const REC2020_TO_LMS: Matrix3 = multiply(SRGB_TO_LMS, REC2020_TO_SRGB);

/** Cube roots of LMS to L, a, b. */
export const ROOTS_TO_LAB: Matrix3 = [
  0.2104542553, 0.793617785, -0.0040720468, 1.9779984951, -2.428592205, 0.4505937099, 0.0259040371,
  0.7827717662, -0.808675766
];

/** L, a, b to cube roots of LMS. */
export const LAB_TO_ROOTS: Matrix3 = [
  1, 0.3963377774, 0.2158037573, 1, -0.1055613458, -0.0638541728, 1, -0.0894841775, -1.291485548
];

/** Lightness, a and b of a colour of the working space. */
export const toOklab = (colour: Vector3): Vector3 =>
  apply(ROOTS_TO_LAB, apply(REC2020_TO_LMS, colour).map(Math.cbrt) as Vector3);

/** Hue of a colour of the working space, in degrees from 0 to 360, and its chroma. */
export function hueAndChroma(colour: Vector3): { hue: number; chroma: number } {
  const [, a, b] = toOklab(colour);
  return { hue: ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360, chroma: Math.hypot(a, b) };
}

/** What the kernel that maps into a gamut takes of a space: to cone responses, their roots to Lab, and both back. */
export function gamutNumbers(fromWorking: Matrix3): number[] {
  const toLms = multiply(REC2020_TO_LMS, invert3(fromWorking));
  return [...toLms, ...ROOTS_TO_LAB, ...LAB_TO_ROOTS, ...invert3(toLms)];
}
