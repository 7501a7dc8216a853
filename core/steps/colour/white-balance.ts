/**
 * White balance relative to as shot. A warmth and a tint name the white of a light, as seen in the picture as it was shot;
 * the picture is adapted so that this white becomes the display's.
 */
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

/** Linear Bradford cone responses (ICC.1:2022, annex E). */
const BRADFORD: Matrix3 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

/** Chromaticity of daylight (CIE 015:2018, 4.1.2), continued smoothly below 4000 K where it is of use. */
export function daylight(kelvin: number): [number, number] {
  const t = 1000 / kelvin;
  const x =
    kelvin <= 7000
      ? 0.244063 + 0.09911 * t + 2.9678 * t ** 2 - 4.607 * t ** 3
      : 0.23704 + 0.24748 * t + 1.9018 * t ** 2 - 2.0064 * t ** 3;
  return [x, -3 * x ** 2 + 2.87 * x - 0.275];
}

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
const FROM_CONES = invert3(BRADFORD);

/** Working colours as shot to those of the balance. */
export function balanceMatrix(balance: Balance): Matrix3 {
  const from = apply(BRADFORD, whiteOf(balance));
  const [l, m, s] = apply(BRADFORD, WHITE).map((cone, i) => cone / from[i]);
  const adapted = multiply(FROM_CONES, multiply([l, 0, 0, 0, m, 0, 0, 0, s], BRADFORD));
  return multiply(FROM_XYZ, multiply(adapted, REC2020_TO_XYZ));
}

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
