/**
 * White balance in kelvin and tint from a camera's own matrices, as the DNG specification (1.6, chapter 6) has it: what a
 * white of light is to the sensor, and back. Temperatures are correlated ones, tints distances from the Planckian locus in
 * CIE 1960 (u, v).
 */
import { uvOfXyz, xyzOfUv } from '../colour/uniform-chromaticity.ts';
import { type Matrix3, apply, invert3, multiply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';

export interface CameraWhite {
  /** Sensor's response to the white as shot, green 1. */
  neutral: Vector3;
  /** XYZ to the sensor's colours, each for the light of a temperature; one or two, coolest light last. */
  matrices: readonly { kelvin: number; xyzToCamera: Matrix3 }[];
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

/** The matrix for light of a temperature: interpolated by its reciprocal, and the nearer one beyond the two. */
function matrixAt({ matrices }: CameraWhite, kelvin: number): Matrix3 {
  const [warm, cool] = matrices;
  if (!cool) return warm.xyzToCamera;
  const share = (1 / kelvin - 1 / warm.kelvin) / (1 / cool.kelvin - 1 / warm.kelvin);
  const bounded = Math.min(1, Math.max(0, share));
  return warm.xyzToCamera.map(
    (value, i) => value * (1 - bounded) + cool.xyzToCamera[i] * bounded
  ) as unknown as Matrix3;
}

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

/** Working colours as shot to those of a white; `toWorking` is of the file. */
export function cameraBalance(camera: CameraWhite, toWorking: Matrix3, white: White): Matrix3 {
  const wanted = neutralOf(camera, white);
  const [r, g, b] = toGreen(camera.neutral).map((value, i) => value / wanted[i]);
  return multiply(toWorking, multiply([r, 0, 0, 0, g, 0, 0, 0, b], invert3(toWorking)));
}

/** The white that makes a working colour as shot neutral. */
export function whiteFor(camera: CameraWhite, toWorking: Matrix3, colour: Vector3): White {
  const seen = apply(invert3(toWorking), colour);
  return whiteOfNeutral(camera, toGreen(seen.map((value, i) => value * camera.neutral[i]) as Vector3));
}

/** The trade's presets. */
export const LIGHTS = {
  daylight: { kelvin: 5300, tint: 5 },
  cloudy: { kelvin: 6200, tint: 5 },
  shade: { kelvin: 7400, tint: 5 },
  tungsten: { kelvin: 2900, tint: 0 },
  fluorescent: { kelvin: 4100, tint: 25 },
  flash: { kelvin: 5600, tint: 0 }
} as const satisfies Record<string, White>;
