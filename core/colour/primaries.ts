/**
 * Matrices between linear RGB spaces, all with a D65 white (IEC 61966-2-1, ITU-R BT.2020-2),
 * row by row, to seven places.
 */
import type { Matrix3 } from '../math/matrix3.ts';

export const SRGB_TO_REC2020: Matrix3 = [
  0.6274039, 0.329283, 0.0433131, 0.0690973, 0.9195404, 0.0113623, 0.0163914, 0.0880133, 0.8955953
];

export const REC2020_TO_SRGB: Matrix3 = [
  1.660491, -0.5876411, -0.0728499, -0.1245505, 1.1328999, -0.0083494, -0.0181508, -0.1005789, 1.1187297
];

/** Linear Rec.2020 to CIE XYZ (ITU-R BT.2020-2, white D65). */
export const REC2020_TO_XYZ: Matrix3 = [
  0.636958, 0.1446169, 0.168881, 0.2627002, 0.6779981, 0.0593017, 0, 0.0280727, 1.0609851
];

/** Weights of red, green and blue in luminance: the Y rows of the spaces' matrices to XYZ. */
export const LUMINANCE_REC2020 = [0.2627002, 0.6779981, 0.0593017] as const;
export const LUMINANCE_SRGB = [0.2126729, 0.7151522, 0.072175] as const;
