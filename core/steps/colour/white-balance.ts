/**
 * White balance relative to as shot. A warmth and a tint name the white of a light, as seen in the picture as it was shot;
 * the picture is adapted so that this white becomes the display's.
 */
import { adaptation } from '../../colour/chromatic-adaptation.ts';
import { daylight } from '../../colour/daylight.ts';
import { keepGrey } from '../../colour/keep-grey.ts';
import { REC2020_TO_XYZ } from '../../colour/primaries.ts';
import { toUv, uvOfXyz, xyzOfUv } from '../../colour/uniform-chromaticity.ts';
import { type Matrix3, apply, invert3, multiply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';

export interface Balance {
  /** -100 to 100 each. */
  warmth: number;
  tint: number;
}

/** Reciprocal megakelvins of the light that is balanced as shot, and of a full slider. */
const AS_SHOT = 1e6 / 6504;
const FULL_WARMTH = 80;
/** Distance across the locus that a full slider stands for, in CIE 1960 units. */
const FULL_TINT = 0.02;

/** White of the working space, which is what was balanced as shot. */
const WHITE = apply(REC2020_TO_XYZ, [1, 1, 1]);
const WHITE_UV = uvOfXyz(WHITE);
const LOCUS_AS_SHOT = toUv(daylight(1e6 / AS_SHOT));

/** CIE 1960 place of the white that a warmth names: as far from the working white as its daylight is from that as shot. */
function placeOf(warmth: number): [number, number] {
  const [u, v] = toUv(daylight(1e6 / (AS_SHOT - (warmth / 100) * FULL_WARMTH)));
  return [WHITE_UV[0] + u - LOCUS_AS_SHOT[0], WHITE_UV[1] + v - LOCUS_AS_SHOT[1]];
}

/** The white that a balance names, as XYZ with Y = 1. */
function whiteOf({ warmth, tint }: Balance): Vector3 {
  const [u, v] = placeOf(warmth);
  return xyzOfUv([u, v + (tint / 100) * FULL_TINT]);
}

const FROM_XYZ = invert3(REC2020_TO_XYZ);

/** Working colours as shot to those of the balance. */
export const balanceMatrix = (balance: Balance): Matrix3 =>
  multiply(FROM_XYZ, multiply(adaptation(whiteOf(balance), WHITE), REC2020_TO_XYZ));

/** The same, grey as light as it was. */
export const evenBalance = (balance: Balance): Matrix3 => keepGrey(balanceMatrix(balance));

/**
 * The balance that makes a working colour as shot neutral; `reached` is false where the sliders end before it. The colour
 * has to have light in it.
 */
export function balanceFor(colour: Vector3): Balance & { reached: boolean } {
  const [u, v] = uvOfXyz(apply(REC2020_TO_XYZ, colour));
  // Cooler light lies at a smaller u.
  let [low, high] = [-100, 100];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (placeOf(middle)[0] > u) low = middle;
    else high = middle;
  }
  const warmth = (low + high) / 2;
  const [onLocus, height] = placeOf(warmth);
  const tint = ((v - height) / FULL_TINT) * 100;
  const reached = Math.abs(tint) <= 100.01 && Math.abs(onLocus - u) < 1e-5;
  return { warmth, tint: Math.max(-100, Math.min(100, tint)), reached };
}
