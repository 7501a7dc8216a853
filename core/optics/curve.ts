import type { Point } from '../math/frame-geometry.ts';

/** Points along an edge that should be straight; field positions as the glass put them. */
export interface Curve {
  id: string;
  points: Point[];
}

/** At most as many of the points, evenly chosen: hundreds along one edge say no more than dozens. */
export function thinned(points: readonly Point[], most: number): Point[] {
  if (points.length <= most) return [...points];
  return Array.from({ length: most }, (_, i) => points[Math.round((i * (points.length - 1)) / (most - 1))]);
}
