import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultsOf } from '../../settings/step.ts';
import { RESPONSES, baseCurve, inverseBaseCurve } from './base-curve.ts';
import { curvePoints, pointCurve } from './point-curve.ts';
import { type ToneSettings, toneSchema } from './step.ts';
import {
  bentStops,
  curvedLight,
  gainOf,
  recovered,
  recoveryOf,
  shownLight,
  stopsOfRecovery,
  tonedLight
} from './toned-light.ts';

const NEUTRAL = defaultsOf(toneSchema) as ToneSettings;
const settings = (own: Partial<ToneSettings>): ToneSettings => ({ ...NEUTRAL, ...own });
const any = fc.record({
  exposure: fc.double({ min: -5, max: 5, noNaN: true }),
  recovery: fc.integer({ min: 0, max: 100 }),
  contrast: fc.integer({ min: -100, max: 100 }),
  midtones: fc.integer({ min: -100, max: 100 }),
  white: fc.integer({ min: -100, max: 100 }),
  black: fc.integer({ min: -100, max: 100 })
});
const points = fc.array(
  fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) }),
  {
    maxLength: 12
  }
);

describe('tone', () => {
  it('leaves light alone when nothing is set', () => {
    for (const light of [0.001, 0.02, 0.18, 0.5, 0.99, 1.5, 4])
      expect(gainOf(tonedLight(NEUTRAL))(light)).toBeCloseTo(1, 12);
  });

  it('exposes in stops, and brings two stops above white back into the picture', () => {
    expect(gainOf(tonedLight(settings({ exposure: 1 })))(0.1)).toBeCloseTo(2, 9);
    expect(gainOf(tonedLight(settings({ exposure: -2.5 })))(0.7)).toBeCloseTo(2 ** -2.5, 9);
    expect(recovered(0.4, 2)).toBe(0.4);
    expect(recovered(4, 2)).toBeCloseTo(1, 9);
    expect(recovered(2, 1)).toBeCloseTo(1, 9);
    expect(recovered(3, 0)).toBe(3);
    // What is lighter still goes down by as many stops, and it all begins without a corner.
    expect(recovered(16, 2)).toBeCloseTo(4, 9);
    expect((recovered(0.5001, 2) - 0.5) / 0.0001).toBeCloseTo(1, 1);
    for (const recovery of [0, 1, 37, 100]) expect(recoveryOf(stopsOfRecovery(recovery))).toBe(recovery);
    expect(stopsOfRecovery(100)).toBe(2);
  });

  it('keeps the middle grey under contrast, and moves the ends by what the labels say', () => {
    const stops = (own: Partial<ToneSettings>, at: number): number => bentStops(at, settings(own));
    expect(stops({ contrast: 100 }, 0)).toBe(0);
    expect(stops({ contrast: 100 }, 1)).toBeCloseTo(1 + 0.8 * Math.exp(-1 / 9), 9);
    expect(stops({ contrast: -100 }, -1)).toBeCloseTo(-1 + 0.6 * Math.exp(-1 / 9), 9);
    expect(stops({ midtones: 100 }, 0)).toBeCloseTo(1, 9);
    expect(stops({ white: 100 }, 2.5)).toBeCloseTo(3.5, 9);
    expect(stops({ white: 100 }, -0.5)).toBe(-0.5);
    expect(stops({ black: -100 }, -7)).toBeCloseTo(-10, 9);
    expect(stops({ black: 100 }, -7)).toBeCloseTo(-5.5, 9);
    expect(stops({ black: 100 }, 0)).toBe(0);
  });

  it('never turns an order of tones round, whatever is set together', () => {
    fc.assert(
      fc.property(
        any,
        points,
        fc.constantFrom('plain', 'flat', 'soft', 'firm', 'range'),
        (own, curve, rendering) => {
          // A curve that rises is asked for: one that falls is the user's own wish.
          const rising = [...curve]
            .sort((a, b) => a.x - b.x)
            .map((point, i, all) => ({
              x: point.x,
              y: all.map(({ y }) => y).sort((a, b) => a - b)[i]
            }));
          const curved = curvedLight(rising);
          const shownOf = shownLight(settings({ ...own, rendering }), RESPONSES[rendering]);
          const toned = (light: number): number => curved(shownOf(light));
          let before = -Infinity;
          for (let i = 0; i <= 200; i++) {
            const shown = toned(8 * (i / 200) ** 3);
            expect(shown).toBeGreaterThanOrEqual(before - 1e-9);
            expect(Number.isFinite(shown)).toBe(true);
            before = shown;
          }
        }
      )
    );
  });

  it('turns base curves round exactly', () => {
    for (const response of Object.values(RESPONSES))
      for (const light of [0.001, 0.05, 0.18, 0.6, 0.95])
        expect(inverseBaseCurve(baseCurve(light, response), response)).toBeCloseTo(light, 9);
  });

  it('shows the middle grey alike in every rendering, from the least contrast to the most', () => {
    const steep = (name: keyof typeof RESPONSES): number =>
      Math.log2(baseCurve(0.24, RESPONSES[name]) / baseCurve(0.12, RESPONSES[name]));
    expect(steep('flat')).toBeLessThan(steep('soft') - 0.03);
    expect(steep('soft')).toBeLessThan(steep('plain') - 0.03);
    expect(steep('plain')).toBeLessThan(steep('firm') - 0.03);
    const toLab = converter('lab65');
    for (const rendering of ['plain', 'flat', 'soft', 'firm', 'range'] as const) {
      const shown = shownLight(settings({ rendering }), RESPONSES[rendering])(0.18);
      expect(toLab({ mode: 'lrgb', r: shown, g: shown, b: shown }).l, rendering).toBeCloseTo(58.9, 0);
    }
  });

  it('goes on straight above white', () => {
    for (const response of Object.values(RESPONSES)) {
      const at = (light: number): number => baseCurve(light, response);
      expect((at(1.001) - 1) / (1 - at(0.999))).toBeCloseTo(1, 2);
      expect(at(5) - at(4)).toBeCloseTo(at(2) - at(1), 9);
    }
  });
});

describe('a curve through points', () => {
  it('passes through them, and is the diagonal without any', () => {
    expect(pointCurve([])(0.37)).toBe(0.37);
    const curve = pointCurve([
      { x: 0.75, y: 0.9 },
      { x: 0.25, y: 0.1 }
    ]);
    expect([0, 0.25, 0.75, 1].map(curve)).toEqual([0, 0.1, 0.9, 1]);
    expect(curve(0.5)).toBeCloseTo(0.5, 9);
    const straight = pointCurve([
      { x: 0.2, y: 0.2 },
      { x: 0.6, y: 0.6 }
    ]);
    for (const x of [0.1, 0.4, 0.9]) expect(straight(x)).toBeCloseTo(x, 9);
  });

  it('takes points that coincide or run backwards, and lifts black', () => {
    const messy = [
      { x: 0.5, y: 0.2 },
      { x: 0.5, y: 0.9 },
      { x: 0.1, y: 0.4 }
    ];
    expect(curvePoints(messy).map(({ x }) => x)).toEqual([0, 0.1, 0.5, 1]);
    expect(pointCurve(messy)(0.5)).toBe(0.2);
    expect(pointCurve([{ x: 0, y: 0.1 }])(0)).toBe(0.1);
  });

  it('takes points that lie all but level', () => {
    const curve = pointCurve([
      { x: 0, y: 0.5 },
      { x: 0.3, y: 5e-324 },
      { x: 0.6, y: 0 },
      { x: 1, y: 0.9 }
    ]);
    for (let x = 0; x <= 1; x += 0.05) expect(Number.isFinite(curve(x))).toBe(true);
  });

  it('does not swing beyond its points', () => {
    fc.assert(
      fc.property(points, (given) => {
        const curve = pointCurve(given);
        const at = given.length === 0 ? [] : curvePoints(given);
        for (const [i, { x, y }] of at.slice(0, -1).entries()) {
          const next = at[i + 1];
          for (let t = 0; t <= 1; t += 0.1) {
            const value = curve(x + (next.x - x) * t);
            expect(value).toBeGreaterThanOrEqual(Math.min(y, next.y) - 1e-9);
            expect(value).toBeLessThanOrEqual(Math.max(y, next.y) + 1e-9);
          }
        }
      })
    );
  });
});
