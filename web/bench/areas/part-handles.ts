/** What of a part can be taken hold of: a place on the frame, and what the part is when it is moved. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Part, PartOf } from '$core/steps/areas/parts/part.ts';
import { boxOfPart, movedBy, pointsOf, turnedTo } from './placed-points.ts';

export interface PartHandle {
  name: string;
  /** Field position. */
  at: Point;
  moved(to: Point): object;
}

const LEAST_RADIUS = 0.005;
const moved = (of: Point, [dx, dy]: Point): Point => [
  Math.min(1.5, Math.max(-1.5, of[0] + dx)),
  Math.min(1.5, Math.max(-1.5, of[1] + dy))
];
const between = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];

/** Both ends of a line, and its middle, which takes both along. */
function ends(a: Point, b: Point, [first, second]: readonly [string, string]): PartHandle[] {
  const middle = between(a, b);
  return [
    { name: first, at: a, moved: (to) => ({ a: to }) },
    { name: second, at: b, moved: (to) => ({ b: to }) },
    {
      name: 'all of it',
      at: middle,
      moved(to) {
        const by: Point = [to[0] - middle[0], to[1] - middle[1]];
        return { a: moved(a, by), b: moved(b, by) };
      }
    }
  ];
}

/** A place on the axes of an ellipse, in shares of its radii. */
export function onEllipse(
  { centre, across, down, angle }: { centre: Point; across: number; down: number; angle: number },
  u: number,
  v: number
): Point {
  const turn = (angle * Math.PI) / 180;
  const [x, y] = [u * across, v * down];
  return [
    centre[0] + x * Math.cos(turn) - y * Math.sin(turn),
    centre[1] + x * Math.sin(turn) + y * Math.cos(turn)
  ];
}

/** What moves a drawn part, and what turns and scales it about its middle. */
function asWhole(part: PartOf<'polygon'> | PartOf<'lasso'> | PartOf<'brush'>): PartHandle[] {
  if (pointsOf(part).length === 0) return [];
  const { middle, half } = boxOfPart(part);
  const arm: Point = [middle[0] + half, middle[1]];
  return [
    { name: 'all of it', at: middle, moved: (to) => movedBy(part, [to[0] - middle[0], to[1] - middle[1]]) },
    { name: 'turn and size', at: arm, moved: (to) => turnedTo(part, middle, arm, to) }
  ];
}

/** `whole`: with those that move a drawn part as one, which are in the way of whoever draws on. */
export function handlesOf(part: Part, whole: boolean): PartHandle[] {
  switch (part.kind) {
    case 'gradient':
      return ends(part.a, part.b, part.twoSided ? ['middle line', 'where it ends'] : ['whole', 'gone']);
    case 'beside':
      return ends(part.a, part.b, ['one end', 'other end']);
    case 'radial': {
      const { centre } = part;
      const radius = (to: Point): number =>
        Math.max(LEAST_RADIUS, Math.min(3, Math.hypot(to[0] - centre[0], to[1] - centre[1])));
      const angle = (to: Point): number => (Math.atan2(to[1] - centre[1], to[0] - centre[0]) * 180) / Math.PI;
      return [
        { name: 'middle', at: centre, moved: (to) => ({ centre: to }) },
        {
          name: 'length and turn',
          at: onEllipse(part, 1, 0),
          moved: (to) => ({ across: radius(to), angle: Math.round(angle(to) * 10) / 10 })
        },
        { name: 'width', at: onEllipse(part, 0, 1), moved: (to) => ({ down: radius(to) }) }
      ];
    }
    case 'lasso':
    case 'brush':
      return whole ? asWhole(part) : [];
    case 'polygon':
      return [
        ...part.points.map((at, i): PartHandle => ({
          name: `corner ${i + 1}`,
          at,
          // A front that is moved by hand is one no more.
          moved: (to) => ({
            points: part.points.map((point, n) => (n === i ? to : point)),
            ...(part.front && { front: false })
          })
        })),
        ...(whole ? asWhole(part) : [])
      ];
    case 'colour':
      return part.picks.map((at, i) => ({
        name: `picked colour ${i + 1}`,
        at,
        moved: (to) => ({ picks: part.picks.map((pick, n) => (n === i ? to : pick)) })
      }));
    default:
      return [];
  }
}

/** A place by which a part is known, for the leader of its area's letter; null: it lies anywhere. */
export function anchorOf(part: Part): Point | null {
  switch (part.kind) {
    case 'gradient':
    case 'beside':
      return between(part.a, part.b);
    case 'radial':
      return part.centre;
    case 'polygon':
    case 'lasso': {
      const sum = part.points.reduce<Point>((all, [x, y]) => [all[0] + x, all[1] + y], [0, 0]);
      return [sum[0] / part.points.length, sum[1] / part.points.length];
    }
    case 'brush': {
      const points = part.strokes[0]?.points;
      return points ? [points[0], points[1]] : null;
    }
    case 'colour':
      return part.picks[0] ?? null;
    default:
      return null;
  }
}
