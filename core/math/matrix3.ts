/** 3 x 3 matrices, row by row, and the vectors that they act on. */
import type { Vector3 } from './vector3.ts';

export type Matrix3 = [number, number, number, number, number, number, number, number, number];

export const IDENTITY: Matrix3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export const diagonal = ([x, y, z]: Vector3): Matrix3 => [x, 0, 0, 0, y, 0, 0, 0, z];

/** The sum of each row: what a matrix makes of white. */
export const rowSums = (m: Matrix3): Vector3 => apply(m, [1, 1, 1]);

/** A matrix each of whose rows is scaled so that it sums to 1. */
export function withRowsOfOne(m: Matrix3): Matrix3 {
  const sums = rowSums(m);
  return m.map((value, i) => value / sums[Math.floor(i / 3)]) as unknown as Matrix3;
}

export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const out = new Array(9) as Matrix3;
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 3; column++) {
      out[row * 3 + column] =
        a[row * 3] * b[column] + a[row * 3 + 1] * b[3 + column] + a[row * 3 + 2] * b[6 + column];
    }
  }
  return out;
}

export function transpose(m: Matrix3): Matrix3 {
  return [m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]];
}

export function apply(m: Matrix3, [x, y, z]: Vector3): Vector3 {
  return [m[0] * x + m[1] * y + m[2] * z, m[3] * x + m[4] * y + m[5] * z, m[6] * x + m[7] * y + m[8] * z];
}

/** Inverse; entries are not finite when there is none. */
export function invert3(m: Matrix3): Matrix3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const A = e * i - f * h;
  const B = f * g - d * i;
  const C = d * h - e * g;
  const determinant = a * A + b * B + c * C;
  return [
    A,
    c * h - b * i,
    b * f - c * e,
    B,
    a * i - c * g,
    c * d - a * f,
    C,
    b * g - a * h,
    a * e - b * d
  ].map((value) => value / determinant) as Matrix3;
}
