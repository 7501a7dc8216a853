/** Ready shapes of a curve, by their names. */
import type { CurvePoint } from '$core/steps/tone/step.ts';

export const CURVE_SHAPES: Record<string, readonly CurvePoint[]> = {
  none: [],
  'gentle S': [
    { x: 0.25, y: 0.21 },
    { x: 0.75, y: 0.8 }
  ],
  'strong S': [
    { x: 0.2, y: 0.11 },
    { x: 0.5, y: 0.5 },
    { x: 0.8, y: 0.9 }
  ],
  'lifted black': [
    { x: 0, y: 0.08 },
    { x: 0.25, y: 0.25 }
  ]
};

/** The name of the shape that points make; "own" when it is none of them. */
export const shapeOf = (points: readonly CurvePoint[]): string =>
  Object.entries(CURVE_SHAPES).find(([, shape]) => JSON.stringify(shape) === JSON.stringify(points))?.[0] ??
  'own';
