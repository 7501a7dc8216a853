import { type Matrix3, apply, invert3, multiply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';

/** Linear Bradford cone responses (ICC.1:2022, annex E). */
const BRADFORD: Matrix3 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];
const FROM_CONES = invert3(BRADFORD);

/** XYZ under one white to XYZ under another (both XYZ), by cone responses. */
export function adaptation(from: Vector3, to: Vector3): Matrix3 {
  const seen = apply(BRADFORD, from);
  const [l, m, s] = apply(BRADFORD, to).map((cone, i) => cone / seen[i]);
  return multiply(FROM_CONES, multiply([l, 0, 0, 0, m, 0, 0, 0, s], BRADFORD));
}
