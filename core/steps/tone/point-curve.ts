/**
 * A smooth curve through points of 0..1, monotone wherever they are: cubic Hermite pieces with limited slopes
 * (Fritsch & Carlson, SIAM J. Numer. Anal. 17, 1980).
 */
import type { CurvePoint } from './step.ts';

/** Points nearer to each other than this count as one. */
const NEAREST = 1 / 1024;

/** A slope below this counts as none: divided by, it would be more than numbers hold. */
const FLAT = 1e-9;

/** The points in order, with the ends of the diagonal where none is given, and none upon another. */
export function curvePoints(points: readonly CurvePoint[]): CurvePoint[] {
  const sorted = [...points].sort((a, b) => a.x - b.x);
  const apart = sorted.filter((point, i) => i === 0 || point.x - sorted[i - 1].x >= NEAREST);
  if (apart.length === 0 || apart[0].x >= NEAREST) apart.unshift({ x: 0, y: 0 });
  if (apart[apart.length - 1].x <= 1 - NEAREST) apart.push({ x: 1, y: 1 });
  return apart;
}

/** The curve as a function of 0..1 to 0..1; without points it is the identity. */
export function pointCurve(points: readonly CurvePoint[]): (x: number) => number {
  if (points.length === 0) return (x) => x;
  const at = curvePoints(points);
  const last = at.length - 1;
  const secants = at.slice(1).map(({ x, y }, i) => (y - at[i].y) / (x - at[i].x));
  const slopes = at.map((_, i) => {
    if (i === 0) return secants[0];
    if (i === last) return secants[last - 1];
    const [before, after] = [secants[i - 1], secants[i]];
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  for (const [i, secant] of secants.entries()) {
    if (Math.abs(secant) < FLAT) {
      slopes[i] = slopes[i + 1] = 0;
      continue;
    }
    const [a, b] = [slopes[i] / secant, slopes[i + 1] / secant];
    const size = Math.hypot(a, b);
    if (size <= 3) continue;
    slopes[i] = (3 * a * secant) / size;
    slopes[i + 1] = (3 * b * secant) / size;
  }
  return (x) => {
    if (x <= at[0].x) return at[0].y;
    if (x >= at[last].x) return at[last].y;
    let i = 0;
    while (x > at[i + 1].x) i++;
    const width = at[i + 1].x - at[i].x;
    const t = (x - at[i].x) / width;
    const [t2, t3] = [t * t, t * t * t];
    const y =
      at[i].y * (2 * t3 - 3 * t2 + 1) +
      width * slopes[i] * (t3 - 2 * t2 + t) +
      at[i + 1].y * (3 * t2 - 2 * t3) +
      width * slopes[i + 1] * (t3 - t2);
    return Math.min(1, Math.max(0, y));
  };
}
