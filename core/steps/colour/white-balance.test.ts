import { converter, differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { daylight } from '../../colour/daylight.ts';
import { balanceFor, balanceMatrix } from './white-balance.ts';

const slider = fc.double({ min: -100, max: 100, noNaN: true });
/** A light's white in the working space: what the matrix of its balance takes to grey. */
const fromWhite = (warmth: number, tint: number): Vector3 => {
  const [a, b, c, d, e, f, g, h, i] = balanceMatrix({ warmth, tint });
  // Solved by Cramer's rule, not with the code's own inverse.
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    (e * i - f * h - b * (i - f) + c * (h - e)) / det,
    (a * (i - f) - (d * i - f * g) + c * (d - g)) / det,
    (a * (e - h) - b * (d - g) + (d * h - e * g)) / det
  ];
};

describe('white balance', () => {
  it('leaves colours as they were shot when nothing is set', () => {
    balanceMatrix({ warmth: 0, tint: 0 }).forEach((value, i) =>
      expect(value).toBeCloseTo(i % 4 === 0 ? 1 : 0, 9)
    );
  });

  it('knows daylight as its table has it (CIE 015:2018, D50, D55, D75)', () => {
    for (const [kelvin, x, y] of [
      [5003, 0.3457, 0.3585],
      [5503, 0.3324, 0.3474],
      [7504, 0.299, 0.3149]
    ]) {
      const [ownX, ownY] = daylight(kelvin);
      expect(ownX).toBeCloseTo(x, 3);
      expect(ownY).toBeCloseTo(y, 3);
    }
  });

  it('makes the picture warmer, or more magenta, above zero', () => {
    const grey = (warmth: number, tint: number): Vector3 =>
      apply(balanceMatrix({ warmth, tint }), [0.5, 0.5, 0.5]);
    const [r, g, b] = grey(50, 0);
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b);
    const [cr, , cb] = grey(-50, 0);
    expect(cb).toBeGreaterThan(cr);
    const [mr, mg, mb] = grey(0, 50);
    expect(mg).toBeLessThan(mr);
    expect(mg).toBeLessThan(mb);
    expect(grey(0, -50)[1]).toBeGreaterThan(grey(0, -50)[0]);
  });

  it('finds the balance of any white within its reach, and leaves no colour in it', () => {
    const lab = converter('lab65');
    const difference = differenceCiede2000();
    fc.assert(
      fc.property(slider, slider, fc.double({ min: 0.05, max: 0.9, noNaN: true }), (warmth, tint, light) => {
        const cast = fromWhite(warmth, tint).map((value) => value * light) as Vector3;
        const found = balanceFor(cast);
        expect(found.reached).toBe(true);
        expect(found.warmth).toBeCloseTo(warmth, 2);
        expect(found.tint).toBeCloseTo(tint, 2);
        const [r, g, b] = apply(balanceMatrix(found), cast).map((value) => 1.0993 * value ** 0.45 - 0.0993);
        const shown = lab({ mode: 'rec2020', r, g, b });
        expect(difference(shown, { mode: 'lab65', l: shown.l, a: 0, b: 0 })).toBeLessThan(0.5);
      })
    );
  });

  it('says when a colour lies beyond it', () => {
    expect(balanceFor([0.05, 0.6, 0.05]).reached).toBe(false);
    expect(balanceFor([0.9, 0.05, 0.02]).reached).toBe(false);
  });
});
