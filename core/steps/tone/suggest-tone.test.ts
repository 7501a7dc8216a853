import { describe, expect, it } from 'vitest';
import { giveLightBack, measureLight } from '../../measure/light/measure-light.ts';
import { FROM_SRGB, type Rgb, paint } from '../../render/painted-frame.ts';
import { defaultsOf } from '../../settings/step.ts';
import { RESPONSES, baseCurve } from './base-curve.ts';
import { type ToneSettings, toneSchema } from './step.ts';
import { RANGE, SUGGESTED, type Suggestion, suggestTone } from './suggest-tone.ts';
import { tonedLight } from './toned-light.ts';

const NEUTRAL = defaultsOf(toneSchema) as ToneSettings;

/** A scene of flat tiles from dark to light, in the middle of which most of it lies; `gain` is how it was exposed. */
const tiles =
  (gain: number, spread = 1) =>
  (x: number, y: number): Rgb => {
    const n = (Math.floor(x / 20) * 7 + Math.floor(y / 20) * 13) % 29;
    const stops = ((n - 14) / 14) ** 3 * 4 * spread;
    const light = 0.15 * 2 ** stops * gain;
    return [light, light, light];
  };
function suggested(
  lightAt: (x: number, y: number) => Rgb,
  current = NEUTRAL,
  asked: readonly (keyof Suggestion)[] = SUGGESTED
): Suggestion {
  const light = measureLight(paint(lightAt), FROM_SRGB);
  const found = suggestTone(light, current, asked);
  giveLightBack(light);
  return found;
}

describe('tone by itself', () => {
  it('makes up for how a frame was exposed', () => {
    const right = suggested(tiles(1)).exposure;
    expect(Math.abs(right)).toBeLessThan(1);
    // Two stops too dark: most of that is taken back, not all, for it may be evening.
    const dark = suggested(tiles(0.25)).exposure;
    expect(dark).toBeGreaterThan(right + 0.8);
    expect(dark).toBeLessThan(right + 2);
    expect(suggested(tiles(0.02)).exposure).toBeLessThanOrEqual(2);
    // A light picture is darkened only as far as its lightest parts are above white.
    expect(suggested(tiles(0.8, 0.2)).exposure).toBeGreaterThan(-0.1);
    expect(suggested(tiles(4)).exposure).toBeLessThan(-0.5);
  });

  it('brings back what is above white, opens what is dark, and leaves a well-lit frame alone', () => {
    const bright = suggested((x, y) => (x < 90 ? [3, 3, 3] : tiles(1)(x, y)));
    expect(bright.recovery).toBeGreaterThan(40);
    expect(bright.highlights).toBeLessThan(-20);
    const dark = suggested((x, y) => (x < 300 ? [0.001, 0.001, 0.001] : tiles(1)(x, y)));
    expect(dark.shadows).toBeGreaterThan(40);
    const plain = suggested(tiles(1, 0.6));
    expect(plain.recovery).toBeLessThan(40);
    expect(plain.shadows).toBeLessThan(20);
    expect(plain.haze).toBe(0);
  });

  it('opens a room: its walls light, its windows held', () => {
    // A dim room, a light wall in it, and windows two stops above white.
    const room = (x: number): Rgb => {
      const light = x < 60 ? 3.5 : x < 220 ? 0.35 : 0.11;
      return [light, light, light];
    };
    const { exposure, recovery, highlights, contrast, white, black } = suggested(room);
    expect(exposure).toBeGreaterThan(0.35);
    expect(recovery).toBeGreaterThan(60);
    expect(highlights).toBeLessThan(-20);
    const shown = (light: number): number => {
      const toned = tonedLight({ ...NEUTRAL, exposure, recovery, contrast, white, black })(light);
      return 116 * Math.cbrt(Math.min(1, baseCurve(toned, RESPONSES.plain))) - 16;
    };
    expect(shown(0.35)).toBeGreaterThan(75);
    expect(shown(0.35)).toBeLessThan(92);
    expect(shown(0.11)).toBeGreaterThan(116 * Math.cbrt(baseCurve(0.11)) - 16 + 4);
  });

  it('gives local contrast to what has little, and none to what is full of it', () => {
    const hazy = suggested((x, y): Rgb => {
      const light = 0.2 * 2 ** (0.03 * Math.sin(x / 3) * Math.sin(y / 4));
      return [light, light, light];
    });
    expect(hazy.middle).toBeGreaterThan(12);
    const leaves = suggested((x, y): Rgb => {
      const light = 0.2 * 2 ** (1.2 * Math.sin(x / 3) * Math.sin(y / 4));
      return [light, light, light];
    });
    expect(leaves.middle).toBe(0);
  });

  it('leaves evening evening: what is dark under the last light, with lamps in the windows, is lifted little', () => {
    const house =
      (windows: Rgb) =>
      (x: number, y: number): Rgb => {
        if (y < 150) return [0.2, 0.26, 0.4];
        const lit = x % 150 > 40 && x % 150 < 110 && y > 190 && y < 290;
        return lit ? windows : [0.022, 0.03, 0.045];
      };
    const evening = suggested(house([0.62, 0.36, 0.12])).exposure;
    const overcast = suggested(house([0.02, 0.03, 0.04])).exposure;
    expect(overcast).toBeGreaterThan(1);
    expect(evening).toBeLessThan(0.4 * overcast);
    expect(evening).toBeGreaterThan(0);
  });

  it('leaves a closed sky some of its grey', () => {
    const { exposure } = suggested((_, y): Rgb => (y < 140 ? [0.33, 0.34, 0.36] : [0.04, 0.035, 0.03]));
    expect(exposure).toBeGreaterThan(0.8);
    expect(0.34 * 2 ** exposure).toBeLessThan(1);
  });

  it('gives a flat picture contrast, but a light one no more than it has room for', () => {
    const flat = suggested(tiles(1, 0.3));
    expect(flat.contrast).toBeGreaterThan(15);
    const grey = (light: number): Rgb => [light, light, light];
    const light = suggested((x) => grey(x < 360 ? 0.21 : 0.93));
    const toned = tonedLight({ ...NEUTRAL, ...light, white: 0 });
    expect(toned(0.93)).toBeLessThan(1.05);
    expect(light.contrast).toBeLessThan(flat.contrast);
  });

  it('darkens what is all light in part: the whole would make a sunlit terrace a grey one', () => {
    const { exposure } = suggested(tiles(3.4, 0.2));
    expect(exposure).toBeLessThan(-0.2);
    expect(exposure).toBeGreaterThan(-1.5);
  });

  it('puts the ends where they are shown as white and black', () => {
    const dull = (x: number, y: number): Rgb => {
      const light = 0.08 + 0.12 * (((Math.floor(x / 20) * 7 + Math.floor(y / 20) * 13) % 29) / 28);
      return [light, light, light];
    };
    const own = suggested(dull);
    const shown = (light: number): number =>
      baseCurve(tonedLight({ ...NEUTRAL, ...own })(light), RESPONSES.plain);
    expect(own.contrast).toBeGreaterThan(20);
    expect(own.white).toBeGreaterThan(10);
    expect(shown(0.2)).toBeGreaterThan(baseCurve(0.2, RESPONSES.plain));
    expect(own.rangeWhite).toBeLessThan(3);
  });

  it('tells one control by the picture as all others have it', () => {
    const scene = tiles(1);
    const one = (name: keyof Suggestion, own: Partial<ToneSettings>): number =>
      suggested(scene, { ...NEUTRAL, ...own }, [name])[name];
    // What was exposed by so many stops needs as many fewer, and its highlights more.
    const free = one('exposure', {});
    expect(one('exposure', { exposure: 1.3 })).toBe(free);
    expect(one('recovery', { exposure: 1.3 })).toBeGreaterThan(one('recovery', {}) + 20);
    expect(one('highlights', { exposure: 2.5 })).toBeLessThan(one('highlights', {}) - 20);
    expect(one('shadows', { exposure: -1 })).toBeGreaterThan(one('shadows', {}) + 15);
    expect(one('white', { exposure: -4 })).toBeGreaterThan(one('white', {}));
    // A control does not heed itself.
    expect(one('shadows', { shadows: 90 })).toBe(one('shadows', {}));
    // Shadows that are open already make a picture lighter.
    expect(one('exposure', { shadows: 100 })).toBeLessThanOrEqual(free);
    expect(suggested(scene, { ...NEUTRAL, exposure: 0.7 }, ['white']).exposure).toBe(0.7);
  });

  it('finds a range that holds the picture however it is exposed', () => {
    const scene = tiles(1);
    for (const exposure of [-1, 0, 0.7, 1.3, 2.5]) {
      const found = suggested(scene, { ...NEUTRAL, rendering: 'range', exposure }, RANGE);
      const toned = tonedLight({ ...NEUTRAL, ...found, rendering: 'range' });
      const shares = Array.from({ length: 600 }, (_, i) =>
        toned(scene(20 * (i % 30) + 9, 20 * Math.floor(i / 30) + 9)[0])
      );
      expect(shares.filter((light) => light > 1.001).length / 600, `${exposure} EV`).toBeLessThan(0.01);
      expect(Math.max(...shares)).toBeGreaterThan(0.7);
    }
  });
});
