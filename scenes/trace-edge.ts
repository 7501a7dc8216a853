/** Measures a real edge in a finished picture: for tests that compare exports with the truth. */
import type { Point } from '../core/math/frame-geometry.ts';

export interface GreyPicture {
  width: number;
  height: number;
  data: ArrayLike<number>;
}

/** How far to either side of the expected place an edge is looked for, in pixels. */
const REACH = 5;
const DEGREES = 180 / Math.PI;

/**
 * Angle from vertical, in degrees, of a roughly vertical edge near an expected line: on each row the middle of the
 * strongest change, then a straight line through them by least squares, without the worst tenth. Null when fewer
 * than `fewest` rows show an edge.
 */
export function traceVerticalEdge(picture: GreyPicture, [a, b]: [Point, Point], fewest = 30): number | null {
  const [top, bottom] = a[1] < b[1] ? [a, b] : [b, a];
  const points: Point[] = [];
  for (let y = Math.ceil(Math.max(0, top[1])); y <= Math.min(picture.height - 1, bottom[1]); y++) {
    const expected = top[0] + ((y + 0.5 - top[1]) / (bottom[1] - top[1])) * (bottom[0] - top[0]);
    const from = Math.round(expected) - REACH;
    if (from < 1 || from + 2 * REACH + 1 >= picture.width) continue;
    const change: number[] = [];
    for (let x = from; x <= from + 2 * REACH; x++) {
      change.push(Math.abs(picture.data[y * picture.width + x] - picture.data[y * picture.width + x - 1]));
    }
    const peak = change.indexOf(Math.max(...change));
    if (change[peak] < 12 || peak === 0 || peak === change.length - 1) continue;
    const [l, m, r] = [change[peak - 1], change[peak], change[peak + 1]];
    // Vertex of the parabola through the three largest differences, which lie between pixels.
    const offset = (l - r) / (2 * (l - 2 * m + r) || 1);
    points.push([from + peak + offset, y + 0.5]);
  }
  if (points.length < fewest) return null;
  const fit = (of: Point[]): { slope: number; at: number } => {
    const my = of.reduce((sum, p) => sum + p[1], 0) / of.length;
    const mx = of.reduce((sum, p) => sum + p[0], 0) / of.length;
    const slope =
      of.reduce((sum, p) => sum + (p[1] - my) * (p[0] - mx), 0) /
      of.reduce((sum, p) => sum + (p[1] - my) ** 2, 0);
    return { slope, at: mx - slope * my };
  };
  let kept = points;
  for (let round = 0; round < 4; round++) {
    const { slope, at } = fit(kept);
    const distance = (p: Point): number => Math.abs(p[0] - slope * p[1] - at);
    kept = [...kept]
      .sort((p, q) => distance(p) - distance(q))
      .slice(0, Math.max(fewest, Math.floor(kept.length * 0.9)));
  }
  return kept.length < fewest ? null : Math.atan(fit(kept).slope) * DEGREES;
}
