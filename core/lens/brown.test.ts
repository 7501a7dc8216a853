import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_DISTORTION, coversFrame, distort, radialModel, undistort } from './brown.ts';

/** Terms of lenses as they are met: barrel, pincushion, wave. */
const terms = fc.tuple(
  fc.double({ min: -0.14, max: 0.1, noNaN: true }),
  fc.double({ min: -0.03, max: 0.05, noNaN: true }),
  fc.double({ min: -0.01, max: 0.01, noNaN: true })
);
const HALF_DIAGONAL_24MP = 3606;

describe('Brown radial model', () => {
  it('is undone by its inverse within 0.001 px over the whole field', () => {
    fc.assert(
      fc.property(terms, fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }), (k, angle) => {
        const model = radialModel(k);
        fc.pre(coversFrame(model));
        for (let r = 0.05; r <= 1; r += 0.05) {
          const seen: [number, number] = [r * Math.cos(angle), r * Math.sin(angle)];
          const back = distort(undistort(seen, model), model);
          const error = Math.hypot(back[0] - seen[0], back[1] - seen[1]) * HALF_DIAGONAL_24MP;
          expect(error).toBeLessThan(0.001);
        }
      }),
      { numRuns: 300 }
    );
  });

  it('agrees with the published polynomial', () => {
    const [x, y] = distort([0.6, 0], radialModel([-0.1, 0.03, -0.01]));
    expect(x).toBeCloseTo(0.6 * (1 - 0.1 * 0.36 + 0.03 * 0.36 ** 2 - 0.01 * 0.36 ** 3), 14);
    expect(y).toBe(0);
  });

  it('knows a model that folds back inside the frame', () => {
    expect(coversFrame(radialModel([-0.6, 0, 0]))).toBe(false);
    expect(coversFrame(radialModel([-0.1, 0.03, 0]))).toBe(true);
    expect(coversFrame(NO_DISTORTION)).toBe(true);
  });

  it('keeps growing beyond its limit', () => {
    const model = radialModel([-0.2, 0, 0]);
    let last = 0;
    for (let r = 0.1; r < 6; r += 0.1) {
      const [seen] = distort([r, 0], model);
      expect(seen).toBeGreaterThan(last);
      last = seen;
    }
  });
});
