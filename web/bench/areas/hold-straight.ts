/** Where a drag goes to when it is held: straight up or across, or square to a line. */
import type { Point } from '$core/math/frame-geometry.ts';

/** The place nearest to one that lies straight above, below or beside another. */
export const heldStraight = (from: Point, to: Point): Point =>
  Math.abs(to[0] - from[0]) >= Math.abs(to[1] - from[1]) ? [to[0], from[1]] : [from[0], to[1]];

/** The place nearest to one that lies square to a line from another. */
export function heldSquare(from: Point, to: Point, [a, b]: readonly [Point, Point]): Point {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.max(1e-6, Math.hypot(dx, dy));
  const [nx, ny] = [-dy / length, dx / length];
  const away = (to[0] - from[0]) * nx + (to[1] - from[1]) * ny;
  return [from[0] + away * nx, from[1] + away * ny];
}

/** Both ways as far as the farther of them: a circle on the sheet. */
export function heldRound(from: Point, to: Point): Point {
  const far = Math.max(Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1]));
  return [from[0] + far, from[1] + far];
}
