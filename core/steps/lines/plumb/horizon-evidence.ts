/** Long lines near the height of the horizon: far water, plains, terraces are level there whichever way they run. */
import type { Matrix3 } from '../../../math/matrix3.ts';
import { type Lines, RADIANS, normal, planeOf } from './picture-lines.ts';

/** A line that may be the horizon: as long as this, in field units, and as near to level height, in degrees. */
const HORIZON_LENGTH = 0.12;
const HORIZON_ELEVATION = 6;
const HORIZON_ERROR = 0.25;

/** Slope, in radians, that a line would have in the levelled picture at the height of the horizon. */
export function horizonSlope(lines: Lines, i: number, r: Matrix3, focal: number): number {
  const [x, y] = planeOf(lines, i, r, focal);
  return Math.atan(x / y);
}

/** Slope of a line and its error, in radians, where it runs near the height of the horizon. */
function horizonOff(
  lines: Lines,
  i: number,
  r: Matrix3,
  focal: number
): { slope: number; error: number } | null {
  if (lines.weight[i] < HORIZON_LENGTH / 0.12) return null;
  const [x, y] = [lines.mx[i], lines.my[i]];
  const slope = horizonSlope(lines, i, r, focal);
  const elevation = Math.asin((r[3] * x + r[4] * y + r[5] * focal) / Math.hypot(x, y, focal));
  if (Math.abs(elevation) > HORIZON_ELEVATION * RADIANS || !(Math.abs(slope) < 8 * RADIANS)) return null;
  return { slope, error: Math.hypot(HORIZON_ERROR * RADIANS, 1.2 * elevation, Math.sqrt(lines.variance[i])) };
}

const HORIZON_SHARE = 0.35;
/** Slopes that a line near the height of the horizon may have otherwise, as a density over radians. */
const SLOPES = 1 / (16 * RADIANS);

/** Lines near the height of the horizon, with the probability that they are level and what they explain, in nats. */
export function horizonLines(
  lines: Lines,
  r: Matrix3,
  focal: number
): { i: number; share: number; slope: number; error: number; gain: number }[] {
  const found = [];
  for (let i = 0; i < lines.count; i++) {
    const off = horizonOff(lines, i, r, focal);
    if (!off) continue;
    const ratio = (HORIZON_SHARE * normal(off.slope, off.error ** 2)) / ((1 - HORIZON_SHARE) * SLOPES);
    found.push({
      i,
      ...off,
      share: ratio / (1 + ratio),
      gain: Math.log(1 - HORIZON_SHARE + HORIZON_SHARE * (normal(off.slope, off.error ** 2) / SLOPES))
    });
  }
  return found;
}
