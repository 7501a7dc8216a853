import { curvePoints, pointCurve } from '$core/steps/tone/point-curve.ts';
import type { CurvePoint } from '$core/steps/tone/step.ts';

/** A point this near to a place is the one that is dragged. */
const NEAR = 0.04;
/** Points keep this distance from each other. */
const APART = 0.02;

const rounded = (value: number): number => Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000;

/** A curve with the place `at` moved up by `by`: the point that lies there, or a new one. */
export function draggedCurve(points: readonly CurvePoint[], at: number, by: number): CurvePoint[] {
  const place = Math.min(1 - APART, Math.max(APART, at));
  const known = curvePoints(points);
  const found = known.findIndex(({ x }) => Math.abs(x - place) < NEAR && x > 0 && x < 1);
  const y = rounded(pointCurve(points)(place) + by);
  if (found >= 0) return known.map((point, i) => (i === found ? { x: point.x, y } : point));
  return [...known, { x: rounded(place), y }].sort((a, b) => a.x - b.x);
}
