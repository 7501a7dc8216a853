/** The space in which colour profiles meet: XYZ under D50 (ICC.1:2022). */
import { apply, invert3, multiply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';
import { adaptation } from './chromatic-adaptation.ts';
import { REC2020_TO_XYZ } from './primaries.ts';

/** Its white, as the standard gives it. */
export const D50: Vector3 = [0.9642, 1, 0.8249];

/** XYZ under D50 to linear Rec.2020. */
export const D50_TO_REC2020 = multiply(
  invert3(REC2020_TO_XYZ),
  adaptation(D50, apply(REC2020_TO_XYZ, [1, 1, 1]))
);
