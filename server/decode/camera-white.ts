/** What a raw file says of its camera's colours under lights, for white balance in kelvin. */
import type { CameraWhite } from '../../core/optics/camera-white.ts';
import { type Matrix3, multiply } from '../../core/math/matrix3.ts';
import type { Vector3 } from '../../core/math/vector3.ts';

/** Temperatures of light sources by their codes (Exif 2.32, tag 37384). */
const SOURCES: Record<number, number> = {
  1: 5500,
  2: 4230,
  3: 2850,
  4: 5500,
  9: 5500,
  10: 6500,
  11: 7500,
  12: 6430,
  13: 5000,
  14: 4230,
  15: 3450,
  17: 2856,
  18: 4874,
  19: 6774,
  20: 5503,
  21: 6504,
  22: 7504,
  23: 5003,
  24: 3200
};
/** Temperature for which the raw library's own matrices are. */
const LIBRARY = 6504;

const numbers = (value: unknown, count: number): number[] | null => {
  const list = value instanceof Object && Symbol.iterator in value ? [...(value as Iterable<unknown>)] : [];
  return list.length === count && list.every((each) => typeof each === 'number' && Number.isFinite(each))
    ? (list as number[])
    : null;
};

/** A matrix that can be turned round, or null. */
function matrixOf(value: unknown): Matrix3 | null {
  const m = numbers(value, 9);
  if (!m) return null;
  const determinant =
    m[0] * (m[4] * m[8] - m[5] * m[7]) -
    m[1] * (m[3] * m[8] - m[5] * m[6]) +
    m[2] * (m[3] * m[7] - m[4] * m[6]);
  return Math.abs(determinant) > 1e-6 ? (m as unknown as Matrix3) : null;
}

/**
 * `tags`: of the file; `fromLibrary`: rows of the raw library's matrix from XYZ; `multipliers`: of red, green and blue as shot.
 * Null where the file tells nothing that can be reckoned with.
 */
export function cameraWhite(
  tags: Readonly<Record<string, unknown>>,
  fromLibrary: readonly (readonly number[])[] | undefined,
  multipliers: readonly number[]
): CameraWhite | null {
  const neutral = [0, 1, 2].map((i) => multipliers[1] / multipliers[i]) as Vector3;
  if (!neutral.every((value) => Number.isFinite(value) && value > 0)) return null;
  const own = ([1, 2] as const).flatMap((n) => {
    const matrix = matrixOf(tags[`ColorMatrix${n}`]);
    const kelvin = SOURCES[Number(tags[`CalibrationIlluminant${n}`])];
    if (!matrix || !kelvin) return [];
    // This very camera may differ from its kind.
    const single = matrixOf(tags[`CameraCalibration${n}`]);
    return [{ kelvin, xyzToCamera: single ? multiply(single, matrix) : matrix }];
  });
  if (own.length > 0) {
    const [first, second] = [...own].sort((a, b) => a.kelvin - b.kelvin);
    const matrices = second && second.kelvin > first.kelvin ? [first, second] : [first];
    return { neutral, matrices };
  }
  const library = matrixOf(fromLibrary?.slice(0, 3).flatMap((row) => row.slice(0, 3)));
  return library ? { neutral, matrices: [{ kelvin: LIBRARY, xyzToCamera: library }] } : null;
}
