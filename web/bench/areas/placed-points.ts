/** Drawn and painted parts moved, turned and scaled as a whole. */
import type { Point } from '$core/math/frame-geometry.ts';
import { PER_POINT } from '$core/steps/areas/parts/brush.ts';
import type { PartOf } from '$core/steps/areas/parts/part.ts';

type Drawn = PartOf<'polygon'> | PartOf<'lasso'> | PartOf<'brush'>;

/** Places beyond this, in field units, lie outside any frame. */
const FURTHEST = 1.5;
/** Least and greatest change of size in one go, and radii of strokes. */
const [SMALLEST, LARGEST] = [0.05, 20];
const RADII = [0.001, 1] as const;
/** The least way from the middle to where a part is turned by: two handles are told apart. */
const LEAST_ARM = 0.08;

const within = (value: number): number => Math.min(FURTHEST, Math.max(-FURTHEST, value));

export function pointsOf(part: Drawn): Point[] {
  if (part.kind !== 'brush') return [...part.points];
  return part.strokes.flatMap(({ points }) =>
    Array.from({ length: points.length / PER_POINT }, (_, i): Point => [
      points[i * PER_POINT],
      points[i * PER_POINT + 1]
    ])
  );
}

/** The middle of the box that holds a part, and half of its width, with what a brush paints beyond it. */
export function boxOfPart(part: Drawn): { middle: Point; half: number } {
  const points = pointsOf(part);
  const ends = (axis: 0 | 1): [number, number] =>
    points.reduce<[number, number]>(
      ([low, high], point) => [Math.min(low, point[axis]), Math.max(high, point[axis])],
      [Infinity, -Infinity]
    );
  const [[left, right], [top, bottom]] = [ends(0), ends(1)];
  const rim = part.kind === 'brush' ? Math.max(0, ...part.strokes.map(({ size }) => size)) : 0;
  return {
    middle: [(left + right) / 2, (top + bottom) / 2],
    half: Math.max(LEAST_ARM, (right - left) / 2 + rim)
  };
}

/** A part with all of its points moved; `size`: by what it grew. */
function withPoints(part: Drawn, place: (point: Point) => Point, size: number): object {
  const placed = (point: Point): Point => {
    const [x, y] = place(point);
    return [within(x), within(y)];
  };
  if (part.kind !== 'brush')
    return { points: part.points.map(placed), ...('front' in part && part.front && { front: false }) };
  return {
    strokes: part.strokes.map((stroke) => ({
      ...stroke,
      size: Math.min(RADII[1], Math.max(RADII[0], stroke.size * size)),
      points: stroke.points.flatMap((_, i, all) =>
        i % PER_POINT === 0 ? [...placed([all[i], all[i + 1]]), all[i + 2]] : []
      )
    }))
  };
}

export const movedBy = (part: Drawn, [dx, dy]: Point): object =>
  withPoints(part, ([x, y]) => [x + dx, y + dy], 1);

/** Turned and scaled about a middle, so that what was at one place is at another. */
export function turnedTo(part: Drawn, middle: Point, from: Point, to: Point): object {
  const [ax, ay] = [from[0] - middle[0], from[1] - middle[1]];
  const [bx, by] = [to[0] - middle[0], to[1] - middle[1]];
  const angle = Math.atan2(by, bx) - Math.atan2(ay, ax);
  const size = Math.min(LARGEST, Math.max(SMALLEST, Math.hypot(bx, by) / Math.max(1e-6, Math.hypot(ax, ay))));
  const [cos, sin] = [size * Math.cos(angle), size * Math.sin(angle)];
  return withPoints(
    part,
    ([x, y]) => [
      middle[0] + cos * (x - middle[0]) - sin * (y - middle[1]),
      middle[1] + sin * (x - middle[0]) + cos * (y - middle[1])
    ],
    size
  );
}
