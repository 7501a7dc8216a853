/**
 * RGB spaces that pictures leave in, all with a D65 white: sRGB (IEC 61966-2-1), Display P3 (SMPTE EG 432-1 primaries
 * with sRGB's curve), opRGB (IEC 61966-2-5) and Rec.2020 (ITU-R BT.2020-2).
 */
import { type Matrix3, multiply } from '../math/matrix3.ts';
import { invert3 } from '../math/matrix3.ts';

export const SPACES = ['srgb', 'display-p3', 'oprgb', 'rec2020'] as const;
export type OutputSpace = (typeof SPACES)[number];

/** Chromaticity x, y. */
export type Chromaticity = readonly [number, number];

/**
 * A transfer function in the form of ICC.1 parametric curves of type 3: linear = (a · v + b) ^ gamma from `from` upwards,
 * c · v below.
 */
export interface Transfer {
  gamma: number;
  a: number;
  b: number;
  c: number;
  from: number;
}

export interface RgbSpace {
  name: string;
  /** Red, green, blue. */
  primaries: readonly [Chromaticity, Chromaticity, Chromaticity];
  transfer: Transfer;
}

const SRGB_CURVE: Transfer = { gamma: 2.4, a: 1 / 1.055, b: 0.055 / 1.055, c: 1 / 12.92, from: 0.04045 };
/** BT.2020's constants at full precision. */
const [ALPHA, BETA] = [1.09929682680944, 0.018053968510807];

export const RGB_SPACES: Record<OutputSpace, RgbSpace> = {
  srgb: {
    name: 'sRGB',
    primaries: [
      [0.64, 0.33],
      [0.3, 0.6],
      [0.15, 0.06]
    ],
    transfer: SRGB_CURVE
  },
  'display-p3': {
    name: 'Display P3',
    primaries: [
      [0.68, 0.32],
      [0.265, 0.69],
      [0.15, 0.06]
    ],
    transfer: SRGB_CURVE
  },
  oprgb: {
    name: 'opRGB',
    primaries: [
      [0.64, 0.33],
      [0.21, 0.71],
      [0.15, 0.06]
    ],
    transfer: { gamma: 563 / 256, a: 1, b: 0, c: 0, from: 0 }
  },
  rec2020: {
    name: 'Rec.2020',
    primaries: [
      [0.708, 0.292],
      [0.17, 0.797],
      [0.131, 0.046]
    ],
    transfer: { gamma: 1 / 0.45, a: 1 / ALPHA, b: (ALPHA - 1) / ALPHA, c: 1 / 4.5, from: 4.5 * BETA }
  }
};

/** X, Y, Z with Y = 1. */
export const xyzOf = ([x, y]: Chromaticity): [number, number, number] => [x / y, 1, (1 - x - y) / y];

export const D65: Chromaticity = [0.3127, 0.329];

/** Linear RGB to XYZ (white at Y = 1), from the primaries (SMPTE RP 177). */
export function rgbToXyz({ primaries }: Pick<RgbSpace, 'primaries'>): Matrix3 {
  const [r, g, b] = primaries.map(xyzOf);
  const columns: Matrix3 = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const [sr, sg, sb] = scalesOf(columns);
  return [0, 1, 2].flatMap((row) => [
    columns[row * 3] * sr,
    columns[row * 3 + 1] * sg,
    columns[row * 3 + 2] * sb
  ]) as Matrix3;
}

/** How much of each primary makes white. */
function scalesOf(columns: Matrix3): [number, number, number] {
  const m = invert3(columns);
  const [x, y, z] = xyzOf(D65);
  return [0, 3, 6].map((row) => m[row] * x + m[row + 1] * y + m[row + 2] * z) as [number, number, number];
}

/** Between linear colours of two spaces. */
export const betweenSpaces = (from: RgbSpace, to: RgbSpace): Matrix3 =>
  multiply(invert3(rgbToXyz(to)), rgbToXyz(from));

/** Linear value, 0..1, to an encoded one. */
export function encodeValue({ gamma, a, b, c, from }: Transfer, linear: number): number {
  const encoded = (linear ** (1 / gamma) - b) / a;
  return encoded >= from ? encoded : linear / c;
}
