/** What bands a picture holds, and what greys tone shows them as: compared with what all stages make of even greys. */
import { describe, expect, it } from 'vitest';
import { quantiles } from '../../math/quantiles.ts';
import { giveLightBack, measureLight } from '../../measure/light/measure-light.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import { FROM_SRGB, inputsFor, paint, rendered } from '../../render/painted-frame.ts';
import { defaultsOf } from '../../settings/step.ts';
import { heldBands, shareOf } from './held-bands.ts';
import { shownLightness } from './shown-lightness.ts';
import { type ToneSettings, toneSchema } from './step.ts';

const NEUTRAL = defaultsOf(toneSchema) as ToneSettings;

describe('bands', () => {
  it('are those that a picture holds, each with its share', () => {
    const light = measureLight(
      paint((x) => (x < 450 ? [0.3, 0.3, 0.3] : [0.011, 0.011, 0.011])),
      FROM_SRGB
    );
    const held = heldBands(light);
    giveLightBack(light);
    expect([held.darkest, held.lightest]).toEqual([-7, -2]);
    // But for what lies on the edge itself.
    expect(shareOf(held, -2)).toBeCloseTo(0.75, 1);
    expect(shareOf(held, -7)).toBeCloseTo(0.25, 1);
    expect(held.shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 5);
    expect(shareOf(held, 3)).toBe(0);
    const at = quantiles([4, 1, 3, 2, 5]);
    expect(at(0.5)).toBeCloseTo(3, 1);
    expect(at(1)).toBeCloseTo(5, 1);
  });

  it('are of the broad light: what is thin counts as what is about it', () => {
    const light = measureLight(
      paint((x) => (x % 30 < 3 ? [0.9, 0.9, 0.9] : [0.09, 0.09, 0.09])),
      FROM_SRGB
    );
    const held = heldBands(light);
    giveLightBack(light);
    expect(shareOf(held, -4)).toBeGreaterThan(0.95);
    expect(held.lightest).toBeLessThan(-1);
  });

  const SETTINGS: [string, Partial<ToneSettings>, Rendering][] = [
    ['nothing', {}, 'scene'],
    ['a finished picture', { exposure: -0.5, contrast: 20 }, 'display'],
    ['highlights and shadows', { highlights: -80, shadows: 60, exposure: 0.5 }, 'scene'],
    ['a firm rendering with a curve', { rendering: 'firm', curve: [{ x: 0.4, y: 0.5 }] }, 'scene'],
    ['a curve on lightness', { curveLightness: [{ x: 0.5, y: 0.4 }] }, 'scene'],
    [
      'levels and a curve of all colours',
      {
        levels: { black: 0.15, middle: 1.6, white: 0.9, outBlack: 0.05, outWhite: 1 },
        curveAll: [{ x: 0.3, y: 0.15 }]
      },
      'scene'
    ],
    ['a range', { rendering: 'range', rangeWhite: 4, rangeBlack: -8 }, 'scene'],
    ['tone switched off', { enabled: false, exposure: 2 }, 'scene']
  ];
  for (const [name, own, rendering] of SETTINGS)
    it(`are named by the grey that they are shown as: ${name}`, () => {
      const named = shownLightness({ ...NEUTRAL, ...own, bands: [{ stop: -3, change: 1 }] }, rendering);
      for (const stops of [-7.5, -4.5, -2.5, -0.5, 0.5]) {
        const light = 2 ** stops;
        const source = paint(() => [light, light, light]);
        const [, code] = rendered(source, inputsFor({ tone: own }, { rendering })).subarray(180000);
        const encoded = code / 65535;
        const linear = encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
        const shown = linear > 0.008856 ? 116 * Math.cbrt(linear) - 16 : 903.3 * linear;
        expect(Math.abs(named(stops) - shown), `${stops}`).toBeLessThan(1);
      }
    });
});
