/** A rectangle whose width against height is known, as a check of the picture's proportions. */
import type { Point } from '../../math/frame-geometry.ts';
import { type Projection, fieldToUpright } from '../../picture/geometry/projection.ts';

export interface KnownRectangle {
  /** Field positions as the glass put them, clockwise from the upper left. */
  corners: [Point, Point, Point, Point];
  /** Width over height. */
  ratio: number;
}

export interface RectangleReading {
  /** Width over height in the corrected picture. */
  measured: number;
  /** How far too wide it is, in percent. */
  error: number;
}

const apart = (p: Point, q: Point): number => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** Width over height of four corners, clockwise from the upper left: means of opposite sides. */
export const sidesRatio = ([a, b, c, d]: readonly Point[]): number =>
  (apart(a, b) + apart(d, c)) / (apart(a, d) + apart(b, c));

/** What the rectangle is in the corrected picture; null when a corner lies behind the view or it has no height. */
export function rectangleReading(
  { corners, ratio }: KnownRectangle,
  projection: Projection
): RectangleReading | null {
  const placed = corners.map((corner) => fieldToUpright(corner, projection));
  if (placed.some((corner) => corner === null)) return null;
  const measured = sidesRatio(placed as Point[]);
  return Number.isFinite(measured) && measured > 0 ? { measured, error: (measured / ratio - 1) * 100 } : null;
}

/** Four corners in any order, made clockwise from the upper left. */
export function orderCorners(corners: readonly Point[]): [Point, Point, Point, Point] {
  const middle: Point = [
    corners.reduce((sum, [x]) => sum + x, 0) / corners.length,
    corners.reduce((sum, [, y]) => sum + y, 0) / corners.length
  ];
  const around = [...corners].sort(
    (p, q) => Math.atan2(p[1] - middle[1], p[0] - middle[0]) - Math.atan2(q[1] - middle[1], q[0] - middle[0])
  );
  // Clockwise from the left: the first is the one with the least x + y.
  const first = around.reduce((best, [x, y], i) => (x + y < around[best][0] + around[best][1] ? i : best), 0);
  return [0, 1, 2, 3].map((i) => around[(first + i) % 4]) as [Point, Point, Point, Point];
}
