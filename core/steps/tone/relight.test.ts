import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultsOf } from '../../settings/step.ts';
import { levelsCurve } from './levels.ts';
import { baseCurve } from './base-curve.ts';
import { rangeCurve } from './range-curve.ts';
import { baseStops } from './relight.ts';
import { type ToneSettings, looksAbout, toneSchema } from './step.ts';

const NEUTRAL = defaultsOf(toneSchema) as ToneSettings;
const settings = (own: Partial<ToneSettings>): ToneSettings => ({ ...NEUTRAL, ...own });
const GREY = Math.log2(0.18);
const share = fc.integer({ min: -100, max: 100 });

describe('highlights, shadows and bands', () => {
  it('add by the broad light about a place what their labels say', () => {
    expect(baseStops(GREY + 4, settings({ highlights: -100 }))).toBeCloseTo(-1.8, 9);
    expect(baseStops(GREY - 1, settings({ highlights: -100 }))).toBe(0);
    expect(baseStops(GREY - 5, settings({ shadows: 100 }))).toBeCloseTo(2, 9);
    expect(baseStops(GREY + 1, settings({ shadows: 100 }))).toBe(0);
    // What exposure made light counts as light.
    expect(baseStops(GREY + 2, settings({ highlights: -100, exposure: 2 }))).toBeCloseTo(-1.8, 9);
    expect(baseStops(-2.5, settings({ bands: [{ stop: -3, change: 1.5 }] }))).toBeCloseTo(1.5, 9);
    expect(baseStops(-3.5, settings({ bands: [{ stop: -3, change: 1.5 }] }))).toBeCloseTo(0, 9);
    expect(baseStops(-3, settings({ bands: [{ stop: -3, change: 1.5 }] }))).toBeCloseTo(0.75, 9);
  });

  it('are even where all bands are changed alike', () => {
    const bands = Array.from({ length: 12 }, (_, i) => ({ stop: i - 10, change: -1.25 }));
    for (let base = -9.4; base < 1.4; base += 0.07)
      expect(baseStops(base, settings({ bands }))).toBeCloseTo(-1.25, 9);
  });

  it('never turn an order of tones round', () => {
    fc.assert(
      fc.property(
        share,
        share,
        fc.double({ min: -5, max: 5, noNaN: true }),
        (highlights, shadows, exposure) => {
          const own = settings({ highlights, shadows, exposure });
          for (let base = -13; base < 6; base += 0.25)
            expect(base + 0.25 + baseStops(base + 0.25, own)).toBeGreaterThan(base + baseStops(base, own));
        }
      )
    );
  });

  it('ask for the broad light only where one of them is set', () => {
    expect(looksAbout(NEUTRAL)).toBe(false);
    expect(looksAbout(settings({ exposure: 1, contrast: 40 }))).toBe(false);
    expect(looksAbout(settings({ bands: [{ stop: -2, change: 0 }] }))).toBe(false);
    for (const name of ['highlights', 'shadows', 'fine', 'middle', 'broad', 'haze'] as const) {
      expect(looksAbout(settings({ [name]: 1 }))).toBe(true);
      expect(looksAbout(settings({ [name]: 1, enabled: false }))).toBe(false);
    }
  });
});

describe('levels', () => {
  const levels = { black: 0.1, middle: 1, white: 0.9, outBlack: 0, outWhite: 1 };

  it('cut the ends, bend the middle, and lift what is shown', () => {
    expect(levelsCurve(levels)(0.05)).toBe(0);
    expect(levelsCurve(levels)(0.95)).toBe(1);
    expect(levelsCurve(levels)(0.5)).toBeCloseTo(0.5, 9);
    expect(levelsCurve({ ...levels, middle: 2 })(0.3)).toBeCloseTo(0.5, 9);
    expect(levelsCurve({ ...levels, outBlack: 0.2, outWhite: 0.7 })(0.5)).toBeCloseTo(0.45, 9);
    // Turned round: a negative.
    expect(levelsCurve({ ...levels, outBlack: 1, outWhite: 0 })(0.9)).toBeCloseTo(0, 9);
  });

  it('take ends that meet or have passed each other', () => {
    for (const [black, white] of [
      [0.5, 0.5],
      [0.8, 0.2]
    ])
      for (const shown of [0, 0.3, 0.5, 0.9, 1])
        expect(levelsCurve({ ...levels, black, white })(shown)).toSatisfy(
          (value: number) => value >= 0 && value <= 1
        );
  });
});

describe('a range of light', () => {
  const range = { rangeWhite: 5, rangeBlack: -9, rangeMiddle: 0.5 };
  const stops = (of: number): number => 0.18 * 2 ** of;

  it('is brought to black, middle grey and white', () => {
    const shown = rangeCurve(range);
    expect(shown(stops(5))).toBeCloseTo(1, 9);
    expect(shown(stops(8))).toBe(1);
    expect(shown(stops(0.5))).toBeCloseTo(baseCurve(0.18), 9);
    expect(shown(stops(-9))).toBeCloseTo(0, 9);
    expect(shown(0)).toBe(0);
  });

  it('keeps the order of tones, wherever its ends and middle are', () => {
    const end = fc.double({ min: 0.5, max: 10, noNaN: true });
    fc.assert(
      fc.property(end, end, fc.double({ min: -3, max: 3, noNaN: true }), (white, black, middle) => {
        const shown = rangeCurve({ rangeWhite: white, rangeBlack: -black, rangeMiddle: middle });
        let before = 0;
        for (let at = -14; at < 11; at += 0.5) {
          expect(shown(stops(at))).toBeGreaterThanOrEqual(before - 1e-12);
          before = shown(stops(at));
        }
      })
    );
  });
});
