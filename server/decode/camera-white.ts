/** What a raw file says of its camera's colours under lights, for white balance in kelvin. */
import type { CameraMatrix, CameraWhite } from '../../core/optics/camera-white.ts';
import { IDENTITY, type Matrix3 } from '../../core/math/matrix3.ts';
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
/** That of daylight, for a matrix that names no light. */
const NOON = 5500;
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

/** The value of a tag, by the name that the reader gives it or by its number. */
const valueOf = (tags: Readonly<Record<string, unknown>>, name: string, number: number): unknown =>
  tags[name] ?? tags[String(number)];

/** Tags of the DNG specification, 1.6, for the first and the second light. */
const MATRIX = [50721, 50722];
const CALIBRATION = [50723, 50724];
const ANALOG_BALANCE = 50727;
const LIGHT = [50778, 50779];
const CALIBRATION_SIGNATURE = 50931;
const PROFILE_SIGNATURE = 50932;
const FORWARD = [50964, 50965];

const isIdentity = (m: Matrix3): boolean => m.every((value, i) => value === IDENTITY[i]);

/** The file's matrices, coolest light last; of a camera's own calibration only what is meant for this profile. */
function ownMatrices(tags: Readonly<Record<string, unknown>>): CameraMatrix[] {
  const signature = (number: number): string => {
    const value = tags[String(number)] ?? '';
    const text = value instanceof Uint8Array ? new TextDecoder().decode(value) : String(value as string);
    return text.replace(/\0.*$/s, '');
  };
  const calibrated = signature(CALIBRATION_SIGNATURE) === signature(PROFILE_SIGNATURE);
  const own = [0, 1].flatMap((i): CameraMatrix[] => {
    const n = i + 1;
    const xyzToCamera = matrixOf(valueOf(tags, `ColorMatrix${n}`, MATRIX[i]));
    const light = Number(valueOf(tags, `CalibrationIlluminant${n}`, LIGHT[i]));
    // A matrix without a light is for that of noon, as the specification takes it.
    const kelvin = SOURCES[light] ?? (i === 0 ? NOON : undefined);
    if (!xyzToCamera || !kelvin) return [];
    const calibration = calibrated ? matrixOf(valueOf(tags, `CameraCalibration${n}`, CALIBRATION[i])) : null;
    const forward = matrixOf(valueOf(tags, `ForwardMatrix${n}`, FORWARD[i]));
    return [
      {
        kelvin,
        xyzToCamera,
        ...(calibration && !isIdentity(calibration) && { calibration }),
        ...(forward && { forward })
      }
    ];
  });
  const [first, second] = own.sort((a, b) => a.kelvin - b.kelvin);
  if (!first) return [];
  return second && second.kelvin > first.kelvin ? [first, second] : [first];
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
  const own = ownMatrices(tags);
  if (own.length > 0) {
    const gains = numbers(valueOf(tags, 'AnalogBalance', ANALOG_BALANCE), 3);
    const analogBalance = gains?.every((gain) => gain > 0) && gains.some((gain) => gain !== 1) ? gains : null;
    return {
      neutral,
      matrices: own,
      fromFile: true,
      ...(analogBalance && { analogBalance: analogBalance as Vector3 })
    };
  }
  const library = matrixOf(fromLibrary?.slice(0, 3).flatMap((row) => row.slice(0, 3)));
  return library ? { neutral, matrices: [{ kelvin: LIBRARY, xyzToCamera: library }] } : null;
}
