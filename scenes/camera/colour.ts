/** The demo camera's colours. */
import type { Matrix3 } from '../../core/math/matrix3.ts';
import type { Vector3 } from '../../core/math/vector3.ts';
import { apply, multiply } from '../../core/math/matrix3.ts';

/** XYZ (D65) to camera, as written to the file's colour matrix. */
export const XYZ_TO_CAMERA: Matrix3 = [
  0.8189, -0.2563, -0.0874, -0.3817, 1.1822, 0.2259, -0.0582, 0.1604, 0.6215
];

/** Linear sRGB to XYZ (IEC 61966-2-1). */
const SRGB_TO_XYZ: Matrix3 = [
  0.4123908, 0.3575843, 0.1804808, 0.212639, 0.7151687, 0.0721923, 0.0193308, 0.1191948, 0.9505322
];

/** Camera response to linear sRGB light. */
export const CAMERA_FROM_SRGB: Matrix3 = multiply(XYZ_TO_CAMERA, SRGB_TO_XYZ);

/** Camera response to white: what the file names as neutral. */
export const WHITE_RESPONSE: Vector3 = apply(CAMERA_FROM_SRGB, [1, 1, 1]);
