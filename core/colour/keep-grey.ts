import { type Matrix3, apply, multiply } from '../math/matrix3.ts';
import { REC2020_TO_XYZ } from './primaries.ts';

/** A matrix of working colours with the luminance of grey kept. */
export function keepGrey(matrix: Matrix3): Matrix3 {
  const [, luminance] = apply(multiply(REC2020_TO_XYZ, matrix), [1, 1, 1]);
  return matrix.map((value) => value / luminance) as unknown as Matrix3;
}
