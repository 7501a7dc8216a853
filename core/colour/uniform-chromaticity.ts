/** Chromaticity in CIE 1960 (u, v), in which temperatures of light are told. */
import type { Vector3 } from '../math/vector3.ts';
import { type Chromaticity, xyzOf } from './rgb-spaces.ts';

export type Uv = readonly [u: number, v: number];

export function toUv([x, y]: Chromaticity): [u: number, v: number] {
  const sum = -2 * x + 12 * y + 3;
  return [(4 * x) / sum, (6 * y) / sum];
}

export const uvOfXyz = ([X, Y, Z]: Vector3): [u: number, v: number] =>
  toUv([X / (X + Y + Z), Y / (X + Y + Z)]);

/** X, Y, Z with Y = 1. */
export function xyzOfUv([u, v]: Uv): Vector3 {
  const sum = 2 * u - 8 * v + 4;
  return xyzOf([(3 * u) / sum, (2 * v) / sum]);
}
