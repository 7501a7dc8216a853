import type { Point } from '../math/frame-geometry.ts';

export interface FittedLine {
  /** A point of the line and its unit normal. */
  at: Point;
  normal: Point;
}

/** The line with the least sum of squared distances to points (total least squares). */
export function fitLine(points: readonly Point[]): FittedLine {
  let mx = 0;
  let my = 0;
  for (const [x, y] of points) {
    mx += x;
    my += y;
  }
  mx /= points.length;
  my /= points.length;
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (const [x, y] of points) {
    xx += (x - mx) ** 2;
    xy += (x - mx) * (y - my);
    yy += (y - my) ** 2;
  }
  // Direction of the larger principal axis, in closed form.
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  return { at: [mx, my], normal: [-Math.sin(angle), Math.cos(angle)] };
}

/** Signed distance of a point from a line. */
export const distanceFrom = ({ at, normal }: FittedLine, [x, y]: Point): number =>
  (x - at[0]) * normal[0] + (y - at[1]) * normal[1];
