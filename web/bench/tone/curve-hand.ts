/** What a hand does to the points of a curve. The ends stay at black and white, and no point is taken below the one before it or above the next: a curve never falls by a drag. */
import { curvePoints, pointCurve } from '$core/steps/tone/point-curve.ts';
import type { CurvePoint } from '$core/steps/tone/step.ts';

/** Points keep this distance from each other. */
const APART = 0.02;
/** A point this near to a tone of the picture is the one that is dragged there. */
const NEAR = 0.04;

const rounded = (value: number): number => Math.round(value * 1000) / 1000;
const between = (value: number, least: number, most: number): number =>
  rounded(Math.max(least, Math.min(most, value)));

/** A point of a whole curve, moved as near to a place as its neighbours let it; `shown` has both ends. */
export function movedPoint(shown: readonly CurvePoint[], i: number, to: CurvePoint): CurvePoint[] {
  const [before, after] = [shown.at(i - 1), shown.at(i + 1)];
  const isFirst = i === 0;
  const isLast = i === shown.length - 1;
  const x =
    isFirst || isLast
      ? shown[i].x
      : between(to.x, before!.x + APART, Math.max(before!.x + APART, after!.x - APART));
  const y = between(to.y, isFirst ? 0 : before!.y, isLast ? 1 : after!.y);
  return shown.map((point, n) => (n === i ? { x, y } : point));
}

/** A curve with a point at a place, and which it is: the one that stands so near, or a new one. Beside an end that is the end. */
export function withPoint(
  points: readonly CurvePoint[],
  { x, y }: CurvePoint
): { shown: CurvePoint[]; i: number } {
  const shown = curvePoints(points);
  const known = shown.findIndex((point) => Math.abs(point.x - x) < APART);
  if (known >= 0) return { shown, i: known };
  const i = shown.findIndex((point) => point.x > x);
  const all = [...shown.slice(0, i), { x: rounded(x), y: rounded(pointCurve(points)(x)) }, ...shown.slice(i)];
  return { shown: movedPoint(all, i, { x, y }), i };
}

/** A curve with the tone `at` moved up by `by`: the point that lies there, or a new one between the ends. */
export function draggedCurve(points: readonly CurvePoint[], at: number, by: number): CurvePoint[] {
  const place = Math.min(1 - APART, Math.max(APART, at));
  const shown = curvePoints(points);
  const near = shown.findIndex(
    (point, i) => i > 0 && i < shown.length - 1 && Math.abs(point.x - place) < NEAR
  );
  const found =
    near >= 0 ? { shown, i: near } : withPoint(points, { x: place, y: pointCurve(points)(place) });
  return movedPoint(found.shown, found.i, { x: found.shown[found.i].x, y: pointCurve(points)(place) + by });
}
