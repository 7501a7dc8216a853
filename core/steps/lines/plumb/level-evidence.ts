/** Level lines: with a plumb direction given, each names an azimuth, and buildings have few of them. */
import type { Matrix3 } from '../../../math/matrix3.ts';
import { type Vector3, cross } from '../../../math/vector3.ts';
import { type Lines, RADIANS, UNIFORM, normal, offFrom, planeOf } from './picture-lines.ts';

/** Level directions: bins of azimuth, in degrees. */
const BINS = 180;
const MOST_LEVEL = 3;
/** A direction of level lines has to explain this much, in nats, to be one. */
export const LEAST_LEVEL = 8;
const LEVEL_SHARE = 0.3;
/** Spread of level edges about their direction in the building, in radians. */
const LEVEL_SPREAD = 0.35 * RADIANS;

/** A level direction of an azimuth, turned back into the camera. */
function levelInCamera(r: Matrix3, azimuth: number): Vector3 {
  const [c, s] = [Math.cos(azimuth), -Math.sin(azimuth)];
  return [c * r[0] + s * r[6], c * r[1] + s * r[7], c * r[2] + s * r[8]];
}

/** Image angle of a line to the level direction of an azimuth, in radians. */
export function offLevel(lines: Lines, i: number, r: Matrix3, azimuth: number, focal: number): number {
  return offFrom(lines, i, ...levelInCamera(r, azimuth), focal);
}

/**
 * Variance of that angle, in radians squared. What an edge is off in the building shows the more the nearer it lies to its
 * vanishing point: at the point itself every angle is possible.
 */
export function levelVariance(lines: Lines, i: number, r: Matrix3, azimuth: number, focal: number): number {
  const direction = levelInCamera(r, azimuth);
  const ray: Vector3 = [lines.mx[i], lines.my[i], focal];
  const across = Math.hypot(...cross(ray, direction)) / Math.hypot(...ray);
  return lines.variance[i] + (LEVEL_SPREAD / Math.max(across, LEVEL_SPREAD)) ** 2;
}

export interface LevelDirection {
  azimuth: number;
  members: number[];
  gain: number;
}

/** The directions, as azimuths in radians about the plumb line, that most level lines agree on, and what each explains in nats. */
export function levelDirections(
  lines: Lines,
  r: Matrix3,
  plumb: Float64Array,
  focal: number
): LevelDirection[] {
  const found: LevelDirection[] = [];
  const azimuths = new Float64Array(lines.count).fill(NaN);
  const spreads = new Float64Array(lines.count);
  for (let i = 0; i < lines.count; i++) {
    if (plumb[i] > 0.5) continue;
    const [x, , z] = planeOf(lines, i, r, focal);
    const azimuth = Math.atan(x / z);
    if (!Number.isFinite(azimuth)) continue;
    const step = 0.01;
    const slope =
      Math.abs(offLevel(lines, i, r, azimuth + step, focal) - offLevel(lines, i, r, azimuth - step, focal)) /
      (2 * step);
    const spread = Math.sqrt(levelVariance(lines, i, r, azimuth, focal)) / Math.max(slope, 1e-6);
    if (spread > 0.2) continue;
    azimuths[i] = azimuth;
    spreads[i] = Math.max(spread, (0.7 * Math.PI) / BINS);
  }
  const apartFrom = (i: number, azimuth: number): number => {
    const d = Math.abs(azimuths[i] - azimuth);
    return Math.min(d, Math.PI - d);
  };
  const gainOf = (i: number, off: number): number =>
    lines.weight[i] * Math.log(1 - LEVEL_SHARE + (LEVEL_SHARE * normal(off, spreads[i] ** 2)) / UNIFORM);
  const used = new Uint8Array(lines.count);
  const bins = new Float64Array(BINS);
  const count = (i: number, sign: number): void => {
    const reach = Math.ceil((2.5 * spreads[i] * BINS) / Math.PI);
    const at = Math.round(((azimuths[i] + Math.PI / 2) / Math.PI) * BINS - 0.5);
    for (let d = -reach; d <= reach; d++) {
      const bin = (((at + d) % BINS) + BINS) % BINS;
      bins[bin] += sign * gainOf(i, apartFrom(i, ((bin + 0.5) / BINS - 0.5) * Math.PI));
    }
  };
  for (let i = 0; i < lines.count; i++) if (!Number.isNaN(azimuths[i])) count(i, 1);
  for (let n = 0; n < MOST_LEVEL; n++) {
    const best = bins.indexOf(Math.max(...bins));
    if (bins[best] < LEAST_LEVEL) break;
    let azimuth = ((best + 0.5) / BINS - 0.5) * Math.PI;
    let members: number[] = [];
    // Centred on its members: a bin is a degree wide.
    for (let round = 0; round < 3; round++) {
      let [total, sum] = [0, 0];
      members = [];
      for (let i = 0; i < lines.count; i++) {
        if (used[i] || Number.isNaN(azimuths[i]) || apartFrom(i, azimuth) > 2.5 * spreads[i]) continue;
        members.push(i);
        let d = azimuths[i] - azimuth;
        if (d > Math.PI / 2) d -= Math.PI;
        if (d < -Math.PI / 2) d += Math.PI;
        const weight = lines.weight[i] / spreads[i] ** 2;
        total += weight;
        sum += weight * d;
      }
      if (total > 0) azimuth += sum / total;
    }
    for (const i of members) {
      used[i] = 1;
      count(i, -1);
    }
    const gain = members.reduce((sum, i) => sum + gainOf(i, apartFrom(i, azimuth)), 0);
    found.push({ azimuth, members, gain });
  }
  return found;
}
