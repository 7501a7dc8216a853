/**
 * Snaps a roughly drawn polyline to the edge under it: at even steps along it, the place of the strongest change across
 * it, to a fraction of a pixel; stray samples are left out.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { bilinear } from '../../picture/tile/bilinear.ts';

export interface GreyPlane {
  width: number;
  height: number;
  data: Float32Array;
}

export interface TraceOptions {
  /** How far to either side the edge is looked for, in pixels (default 6). */
  reach?: number;
  /** Steps along the line, in pixels (default 3). */
  step?: number;
  most?: number;
}

/** Value at a place of the plane, between its pixels. */
export const valueAt = ({ width, height, data }: GreyPlane, x: number, y: number): number =>
  bilinear(data, width, height, x, y);

/** Brightness step across which an edge counts, against the brighter side. */
const LEAST_CONTRAST = 0.06;

/**
 * Offset along a direction of the strongest edge within reach of a place, or null when there is none. The change is the
 * slope of the profile, smoothed along the edge; its middle is the centre of weight of the peak.
 */
function edgeOffset(
  plane: GreyPlane,
  [x, y]: Point,
  [nx, ny]: Point,
  reach: number
): { offset: number; strength: number } | null {
  const steps = Math.round(reach * 2);
  const profile = new Float64Array(2 * steps + 1);
  for (let i = -steps; i <= steps; i++) {
    for (const along of [-1.5, -0.5, 0.5, 1.5])
      profile[i + steps] += valueAt(plane, x + (nx * i) / 2 - ny * along, y + (ny * i) / 2 + nx * along) / 4;
  }
  const slope = profile.map((_, i) => (i < 2 || i > 2 * steps - 2 ? 0 : profile[i + 2] - profile[i - 2]));
  let peak = 0;
  let best = 0;
  for (let i = 2; i <= 2 * steps - 2; i++) {
    // Nearer edges win over slightly stronger ones: the line was drawn there for a reason.
    const weight = Math.abs(slope[i]) * (1 - (0.4 * Math.abs(i - steps)) / steps);
    if (weight > best) {
      best = weight;
      peak = i;
    }
  }
  const level = Math.max(profile[Math.max(0, peak - 3)], profile[Math.min(2 * steps, peak + 3)]);
  if (peak < 3 || peak > 2 * steps - 3 || Math.abs(slope[peak]) < LEAST_CONTRAST * Math.max(level, 0.01))
    return null;
  const sign = Math.sign(slope[peak]);
  let sum = 0;
  let moment = 0;
  for (let i = peak - 3; i <= peak + 3; i++) {
    const weight = Math.max(0, sign * slope[i]) ** 2;
    sum += weight;
    moment += weight * i;
  }
  return sum > 0 ? { offset: (moment / sum - steps) / 2, strength: Math.abs(slope[peak]) } : null;
}

/** Samples whose offset departs from that of their neighbours by more than this, in pixels, are strays. */
const STRAY = 1.2;
const NEIGHBOURS = 7;

/** Points of the edge under a polyline, in the plane's pixels; empty when there is no edge. */
export function tracePolyline(
  plane: GreyPlane,
  polyline: readonly Point[],
  { reach = 6, step = 3, most = 160 }: TraceOptions = {}
): Point[] {
  const length = polyline
    .slice(1)
    .reduce((sum, p, i) => sum + Math.hypot(p[0] - polyline[i][0], p[1] - polyline[i][1]), 0);
  const spacing = Math.max(step, length / most);
  const found: { at: Point; normal: Point; offset: number }[] = [];
  for (let i = 1; i < polyline.length; i++) {
    const [ax, ay] = polyline[i - 1];
    const [bx, by] = polyline[i];
    const span = Math.hypot(bx - ax, by - ay);
    if (span === 0) continue;
    const normal: Point = [-(by - ay) / span, (bx - ax) / span];
    const count = Math.max(1, Math.floor(span / spacing));
    for (let n = 0; n < count; n++) {
      const t = (n + 0.5) / count;
      const at: Point = [ax + (bx - ax) * t, ay + (by - ay) * t];
      if (at[0] < 1 || at[1] < 1 || at[0] > plane.width - 1 || at[1] > plane.height - 1) continue;
      const edge = edgeOffset(plane, at, normal, reach);
      if (edge) found.push({ at, normal, offset: edge.offset });
    }
  }
  return found.flatMap(({ at, normal, offset }, i) => {
    const near = found
      .slice(Math.max(0, i - NEIGHBOURS), i + NEIGHBOURS + 1)
      .map((other) => other.offset)
      .sort((a, b) => a - b);
    const median = near[near.length >> 1];
    if (near.length < 4 || Math.abs(offset - median) > STRAY) return [];
    return [[at[0] + normal[0] * offset, at[1] + normal[1] * offset] as Point];
  });
}
