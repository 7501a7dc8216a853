import type { Point } from '../math/frame-geometry.ts';

/** Points along an edge that should be straight; field positions as the glass put them. */
export interface Curve {
  id: string;
  points: Point[];
}

/** As many places along an edge, each the mean of the points about it: they are placed better than single points. */
export function averaged(points: readonly Point[], most: number): Point[] {
  if (points.length <= most) return [...points];
  return Array.from({ length: most }, (_, i) => {
    const from = Math.floor((i * points.length) / most);
    const some = points.slice(from, Math.max(from + 1, Math.floor(((i + 1) * points.length) / most)));
    return [0, 1].map(
      (c) => some.reduce((sum, point) => sum + point[c], 0) / some.length
    ) as unknown as Point;
  });
}

/** At most as many of the points, evenly chosen: hundreds along one edge say no more than dozens. */
export function thinned(points: readonly Point[], most: number): Point[] {
  if (points.length <= most) return [...points];
  return Array.from({ length: most }, (_, i) => points[Math.round((i * (points.length - 1)) / (most - 1))]);
}
