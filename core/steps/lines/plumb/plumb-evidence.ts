/** What a plumb direction explains of the upright lines: each is plumb, nearly upright by chance, or anything. */
import type { Matrix3 } from '../../../math/matrix3.ts';
import { rotationFromAngles } from '../../../math/rotation.ts';
import { type Lines, RADIANS, UNIFORM, normal, offFrom } from './picture-lines.ts';

/** Spread of plumb edges about the plumb direction, by build and by batter, in degrees: looked for, and at last as found. */
export const BATTER = { usual: 0.35, least: 0.08, most: 0.5 };
/** Spread of what is nearly upright by chance. */
export const LEANING = 8;
const [PLUMB, LEANS, ANY] = [0.35, 0.25, 0.4];
const LEANING_VARIANCE = (LEANING * RADIANS) ** 2;

/** What the plumb direction explains of the upright lines, in nats; `batter`: variance of plumb edges, in radians squared. */
export function plumbScore(lines: Lines, roll: number, pitch: number, focal: number, batter: number): number {
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  let sum = 0;
  for (const i of lines.upright) {
    const off = offFrom(lines, i, r[3], r[4], r[5], focal);
    const near = normal(off, lines.variance[i] + batter);
    const leans = normal(off, LEANING_VARIANCE);
    const without = (LEANS * leans + ANY * UNIFORM) / (LEANS + ANY);
    sum += lines.weight[i] * Math.log((PLUMB * near) / without + (1 - PLUMB));
  }
  return sum;
}

/** Probability of each segment to be plumb, 0…1. */
export function plumbShares(lines: Lines, r: Matrix3, focal: number, batter: number): Float64Array {
  const shares = new Float64Array(lines.count);
  for (const i of lines.upright) {
    const off = offFrom(lines, i, r[3], r[4], r[5], focal);
    const near = PLUMB * normal(off, lines.variance[i] + batter);
    shares[i] = near / (near + LEANS * normal(off, LEANING_VARIANCE) + ANY * UNIFORM);
  }
  return shares;
}

/** Variance of plumb lines about a direction, in radians squared, less what their ends leave open. */
export function batterOf(lines: Lines, r: Matrix3, focal: number, batter: number): number {
  const shares = plumbShares(lines, r, focal, batter);
  const off = lines.upright
    .filter((i) => shares[i] > 0.5)
    .map((i) => {
      const lean = offFrom(lines, i, r[3], r[4], r[5], focal);
      return { squared: Math.max(0, lean * lean - lines.variance[i]), weight: lines.weight[i] };
    })
    .sort((a, b) => a.squared - b.squared);
  const half = off.reduce((sum, { weight }) => sum + weight, 0) / 2;
  let sum = 0;
  const middle = off.find(({ weight }) => (sum += weight) >= half)?.squared ?? 0;
  // The median of squares of a normal distribution is 0.455 of its variance.
  const spread = Math.sqrt(middle / 0.455) / RADIANS;
  return (Math.min(BATTER.most, Math.max(BATTER.least, spread)) * RADIANS) ** 2;
}
