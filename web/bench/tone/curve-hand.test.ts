import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curvePoints, pointCurve } from '$core/steps/tone/point-curve.ts';
import type { CurvePoint } from '$core/steps/tone/step.ts';
import { draggedCurve, movedPoint, withPoint } from './curve-hand.ts';

const share = fc.double({ min: -0.3, max: 1.3, noNaN: true });
/** Presses on the plot, and drags from there in steps; or a drag of a tone on the picture. */
const act = fc.oneof(
  fc.record({
    kind: fc.constant('plot' as const),
    from: fc.tuple(share, share),
    to: fc.array(fc.tuple(share, share), { maxLength: 4 })
  }),
  fc.record({
    kind: fc.constant('picture' as const),
    at: share,
    by: fc.double({ min: -1, max: 1, noNaN: true })
  })
);

function acted(
  points: CurvePoint[],
  one: typeof act extends fc.Arbitrary<infer T> ? T : never
): CurvePoint[] {
  if (one.kind === 'picture') return draggedCurve(points, one.at, one.by);
  const [x, y] = one.from.map((value) => Math.min(1, Math.max(0, value)));
  const begun = withPoint(points, { x, y });
  return one.to.reduce((shown, [toX, toY]) => movedPoint(shown, begun.i, { x: toX, y: toY }), begun.shown);
}

describe('a curve in a hand', () => {
  it('never falls, keeps its ends at black and white, and has no two points at one place, whatever is dragged', () => {
    fc.assert(
      fc.property(fc.array(act, { minLength: 1, maxLength: 12 }), (acts) => {
        let points: CurvePoint[] = [];
        for (const one of acts) {
          points = acted(points, one);
          // What is kept is what is shown: nothing is added to it when it is read.
          expect(curvePoints(points)).toEqual(points);
          expect([points[0].x, points.at(-1)!.x]).toEqual([0, 1]);
          const curve = pointCurve(points);
          for (let i = 1; i <= 200; i++)
            expect(curve(i / 200)).toBeGreaterThanOrEqual(curve((i - 1) / 200) - 1e-9);
        }
      })
    );
  });

  it('lifts black by its end, also where the hand strays to the right', () => {
    const { shown, i } = withPoint([], { x: 0.01, y: 0.01 });
    const lifted = movedPoint(movedPoint(shown, i, { x: 0, y: 0.12 }), i, { x: 0.004, y: 0.12 });
    expect(lifted).toEqual([
      { x: 0, y: 0.12 },
      { x: 1, y: 1 }
    ]);
    expect(pointCurve(lifted)(0)).toBeCloseTo(0.12, 6);
  });

  it('follows the hand as far as the neighbours let it', () => {
    const { shown, i } = withPoint([], { x: 0.5, y: 0.7 });
    expect(shown[i]).toEqual({ x: 0.5, y: 0.7 });
    expect(movedPoint(shown, i, { x: 0.3, y: 0.9 })[i]).toEqual({ x: 0.3, y: 0.9 });
    const two = withPoint(shown, { x: 0.25, y: 0.2 });
    expect(movedPoint(two.shown, two.i, { x: 0.9, y: 0.95 })[two.i]).toEqual({ x: 0.48, y: 0.7 });
    expect(draggedCurve([], 0.4, 0.1)[1]).toEqual({ x: 0.4, y: 0.5 });
    expect(draggedCurve(shown, 0.52, -0.1)[1].x).toBe(0.5);
  });
});
