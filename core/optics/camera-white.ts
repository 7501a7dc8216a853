/**
 * A camera's colours from its own matrices, as the DNG specification (1.6, chapter 6, "Mapping Camera Color Space to CIE XYZ Space")
 * has it: what a white of light is to the sensor, and back, and what the sensor's colours are under it. Temperatures are
 * correlated ones, tints distances from the Planckian locus in CIE 1960 (u, v).
 */
import { adaptation } from '../colour/chromatic-adaptation.ts';
import { keepGrey } from '../colour/keep-grey.ts';
import { D50, D50_TO_REC2020 } from '../colour/profile-connection.ts';
import { daylight } from '../colour/daylight.ts';
import { xyzOf } from '../colour/rgb-spaces.ts';
import { uvOfXyz, xyzOfUv } from '../colour/uniform-chromaticity.ts';
import {
  IDENTITY,
  type Matrix3,
  apply,
  diagonal,
  invert3,
  multiply,
  withRowsOfOne
} from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';

/** What a file tells of its camera under the light of a temperature. */
export interface CameraMatrix {
  kelvin: number;
  /** XYZ to the sensor's colours. */
  xyzToCamera: Matrix3;
  /** What this very camera's colours are of those of its kind; left out: the same. */
  calibration?: Matrix3;
  /** The sensor's colours, balanced, to XYZ under D50. */
  forward?: Matrix3;
}

export interface CameraWhite {
  /** Sensor's response to the white as shot, green 1. */
  neutral: Vector3;
  /** One or two, coolest light last. */
  matrices: readonly CameraMatrix[];
  /** Gains that the camera gave its colours before they were stored; left out: none. */
  analogBalance?: Vector3;
  /**
   * Whether the matrices are the file's own: then its colours are reckoned by them. Frames that were added earlier, and files of which
   * only the raw library knows a matrix, have the library's colours.
   */
  fromFile?: boolean;
}

export interface White {
  /** 1,700 to 25,000. */
  kelvin: number;
  /** Above zero the light is greener than the locus, and the picture becomes more magenta. */
  tint: number;
}

export const KELVIN_RANGE = [1700, 25000] as const;
/** Distance across the locus that a tint of 100 stands for. */
const FULL_TINT = 0.02;

/** Planckian locus in CIE 1960 (u, v): Krystek, Color Research & Application 10 (1985). */
export function planckian(kelvin: number): [u: number, v: number] {
  const t = kelvin;
  return [
    (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) /
      (1 + 8.42420235e-4 * t + 7.08145163e-7 * t * t),
    (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) /
      (1 - 2.89741816e-5 * t + 1.61456053e-7 * t * t)
  ];
}

/** Direction across the locus, towards green (larger v), of length 1. */
function across(kelvin: number): [u: number, v: number] {
  const [one, other] = [planckian(kelvin * 0.999), planckian(kelvin * 1.001)];
  const [du, dv] = [one[0] - other[0], one[1] - other[1]];
  const length = Math.hypot(du, dv);
  return [-dv / length, du / length];
}

/** XYZ of a white, Y = 1. */
export function xyzOfWhite({ kelvin, tint }: White): Vector3 {
  const [u, v] = planckian(kelvin);
  const [du, dv] = across(kelvin);
  const away = (tint / 100) * FULL_TINT;
  return xyzOfUv([u + du * away, v + dv * away]);
}

/** Temperature and tint of XYZ, within the range. */
export function whiteOfXyz(xyz: Vector3): White {
  const [u, v] = uvOfXyz(xyz);
  const distance = (mired: number): number => {
    const [pu, pv] = planckian(1e6 / mired);
    return Math.hypot(pu - u, pv - v);
  };
  // One valley over reciprocal temperatures: the golden section finds its bottom.
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [1e6 / KELVIN_RANGE[1], 1e6 / KELVIN_RANGE[0]];
  while (high - low > 0.01) {
    const [a, b] = [high - golden * (high - low), low + golden * (high - low)];
    if (distance(a) < distance(b)) high = b;
    else low = a;
  }
  const kelvin = 1e6 / ((low + high) / 2);
  const [pu, pv] = planckian(kelvin);
  const [du, dv] = across(kelvin);
  return { kelvin, tint: (100 * ((u - pu) * du + (v - pv) * dv)) / FULL_TINT };
}

/** A matrix of each light as it is at a temperature: by its reciprocal between two, and the nearer one beyond them. */
function between(
  { matrices }: CameraWhite,
  kelvin: number,
  of: (matrix: CameraMatrix) => Matrix3 | undefined
): Matrix3 | null {
  const [warm, cool] = matrices;
  const [first, last] = [of(warm), cool && of(cool)];
  if (!cool || !first || !last) return first ?? last ?? null;
  const share = (1 / kelvin - 1 / warm.kelvin) / (1 / cool.kelvin - 1 / warm.kelvin);
  const bounded = Math.min(1, Math.max(0, share));
  return first.map((value, i) => value * (1 - bounded) + last[i] * bounded) as unknown as Matrix3;
}

/** What this camera's colours are of those that its kind's matrices are for. */
const ownColours = (camera: CameraWhite, kelvin: number): Matrix3 =>
  multiply(
    diagonal(camera.analogBalance ?? [1, 1, 1]),
    between(camera, kelvin, ({ calibration }) => calibration ?? IDENTITY)!
  );

/** XYZ to the sensor's colours under the light of a temperature. */
const matrixAt = (camera: CameraWhite, kelvin: number): Matrix3 =>
  multiply(
    ownColours(camera, kelvin),
    between(camera, kelvin, ({ xyzToCamera }) => xyzToCamera)!
  );

const toGreen = ([r, g, b]: Vector3): Vector3 => [r / g, 1, b / g];

/** The sensor's response to a white, green 1. */
export const neutralOf = (camera: CameraWhite, white: White): Vector3 =>
  toGreen(apply(matrixAt(camera, white.kelvin), xyzOfWhite(white)));

/** The white that gives the sensor a response. */
export function whiteOfNeutral(camera: CameraWhite, neutral: Vector3): White {
  let white: White = { kelvin: 5000, tint: 0 };
  // Which matrix holds depends on the temperature that it tells: a few rounds settle it.
  for (let i = 0; i < 20; i++) {
    const next = whiteOfXyz(apply(invert3(matrixAt(camera, white.kelvin)), neutral));
    if (Math.abs(next.kelvin - white.kelvin) < 0.5) return next;
    white = next;
  }
  return white;
}

/**
 * The sensor's colours, of which `neutral` is a white, to linear Rec.2020: by the matrices to XYZ under D50 where the file has them,
 * else by those from XYZ turned round and an adaptation to the white (linear Bradford).
 */
export function workingFromCamera(camera: CameraWhite, neutral: Vector3): Matrix3 {
  const { kelvin } = whiteOfNeutral(camera, neutral);
  const forward = between(camera, kelvin, ({ forward }) => forward);
  if (forward) {
    const toKind = invert3(ownColours(camera, kelvin));
    const white = apply(toKind, neutral);
    const balanced = multiply(diagonal(white.map((value) => 1 / value) as Vector3), toKind);
    return multiply(D50_TO_REC2020, multiply(forward, balanced));
  }
  const toXyz = invert3(matrixAt(camera, kelvin));
  const white = apply(toXyz, neutral);
  const scaled = toXyz.map((value) => value / white[1]) as Matrix3;
  return multiply(multiply(D50_TO_REC2020, adaptation(white, D50)), scaled);
}

const asNeutral = (neutral: Vector3): Matrix3 => diagonal(toGreen(neutral));

/** Developed colours, whose white as shot is grey, to linear Rec.2020, where the file has matrices of its own. */
export function workingAsShot(camera: CameraWhite): Matrix3 {
  // White is white, however a file's numbers were rounded.
  return withRowsOfOne(multiply(workingFromCamera(camera, camera.neutral), asNeutral(camera.neutral)));
}

/** Working colours as shot to those of a white, grey as light as it was; `toWorking` is of the file. */
export function cameraBalance(camera: CameraWhite, toWorking: Matrix3, white: White): Matrix3 {
  if (!camera.fromFile) return keepGrey(gainBalance(camera, toWorking, white));
  const balanced = multiply(workingFromCamera(camera, neutralOf(camera, white)), asNeutral(camera.neutral));
  return keepGrey(multiply(balanced, invert3(toWorking)));
}

/** The same by gains of the sensor's colours alone, green as it was. */
export function gainBalance(camera: CameraWhite, toWorking: Matrix3, white: White): Matrix3 {
  const wanted = neutralOf(camera, white);
  const gains = toGreen(camera.neutral).map((value, i) => value / wanted[i]) as Vector3;
  return multiply(toWorking, multiply(diagonal(gains), invert3(toWorking)));
}

/** The white that makes a working colour as shot neutral. */
export function whiteFor(camera: CameraWhite, toWorking: Matrix3, colour: Vector3): White {
  const seen = apply(invert3(toWorking), colour);
  return whiteOfNeutral(camera, toGreen(seen.map((value, i) => value * camera.neutral[i]) as Vector3));
}

/** A phase of daylight (CIE 015:2018) of a temperature. */
const daylightWhite = (kelvin: number): White => {
  const { tint } = whiteOfXyz(xyzOf(daylight(kelvin)));
  return { kelvin, tint: Math.round(tint * 10) / 10 };
};

/** The trade's presets: phases of daylight, and lamps. */
export const LIGHTS = {
  daylight: daylightWhite(5300),
  cloudy: daylightWhite(6200),
  shade: daylightWhite(7500),
  tungsten: { kelvin: 2856, tint: 0 },
  fluorescent: { kelvin: 4100, tint: 25 },
  flash: daylightWhite(5600)
} as const satisfies Record<string, White>;
