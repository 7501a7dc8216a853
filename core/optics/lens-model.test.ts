import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LENS_PROJECTIONS, projectRadius, projectSlope } from './lens-projection.ts';
import { distort, distortRadius, foldRadius, lensModel, undistort, undistortRadius } from './lens-model.ts';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const shape = fc.record({
  projection: fc.constantFrom(...LENS_PROJECTIONS),
  focal: number(0.5, 1.2),
  terms: fc
    .tuple(
      number(-0.02, 0.02),
      number(-0.12, 0.08),
      number(-0.02, 0.02),
      number(-0.03, 0.03),
      number(0, 0),
      number(-0.01, 0.01)
    )
    .map((terms) => terms as number[]),
  centre: fc.tuple(number(-0.02, 0.02), number(-0.02, 0.02)),
  tangential: fc.tuple(number(-0.002, 0.002), number(-0.002, 0.002))
});

describe('lens model', () => {
  it('comes back from distorted to undistorted within a thousandth of a pixel, for any lens that does not fold', () => {
    fc.assert(
      fc.property(shape, number(0.5, 1.2), number(-0.8, 0.8), number(-0.55, 0.55), (given, amount, x, y) => {
        fc.pre(foldRadius(given, amount) === null);
        const model = lensModel(given, amount);
        fc.pre(Math.hypot(x - model.centre[0], y - model.centre[1]) < model.limitDistorted * 0.97);
        const back = distort(undistort([x, y], model), model);
        expect(Math.hypot(back[0] - x, back[1] - y) * 3606).toBeLessThan(0.001);
      }),
      { numRuns: 300 }
    );
  });

  it('is the plain law of each projection without further terms', () => {
    for (const projection of LENS_PROJECTIONS) {
      const model = lensModel({ projection, focal: 0.7 });
      for (const r of [0.1, 0.5, 1.2]) {
        expect(distortRadius(r, model)).toBeCloseTo(projectRadius(r, projection, 0.7), 12);
        const slope =
          (projectRadius(r + 1e-6, projection, 0.7) - projectRadius(r - 1e-6, projection, 0.7)) / 2e-6;
        expect(projectSlope(r, projection, 0.7)).toBeCloseTo(slope, 6);
      }
    }
    expect(projectRadius(0.7, 'equidistant', 0.7)).toBeCloseTo((0.7 * Math.PI) / 4, 12);
  });

  it('scales with its amount, and is nothing at none', () => {
    const shape = { terms: [0, -0.1, 0, 0.02], centre: [0.01, 0] as [number, number] };
    expect(distort([0.6, 0.4], lensModel(shape, 0))).toEqual([0.6, 0.4]);
    const whole = distort([0.6, 0.4], lensModel(shape));
    const half = distort([0.6, 0.4], lensModel(shape, 0.5));
    expect(half[0] - 0.6).toBeCloseTo((whole[0] - 0.6) / 2, 12);
    expect(lensModel({ terms: [0, 0] }).limit).toBe(Infinity);
  });

  it('grows on beyond the radius at which it folds, and says where that is', () => {
    const terms = [0, -0.45];
    const radius = foldRadius({ terms })!;
    // d = r - 0.45 r³ turns where 1 = 1.35 r²; a slope of 2 % counts as turned.
    expect(radius).toBeCloseTo(0.574, 2);
    const model = lensModel({ terms });
    for (let r = 0.1; r < 3; r += 0.1)
      expect(distortRadius(r, model)).toBeGreaterThan(distortRadius(r - 0.1, model));
    expect(undistortRadius(distortRadius(2.5, model), model)).toBeCloseTo(2.5, 9);
    expect(foldRadius({ terms: [0, -0.1] })).toBeNull();
  });
});
