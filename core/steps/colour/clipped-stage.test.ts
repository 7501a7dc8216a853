import { describe, expect, it } from 'vitest';
import { type Rgb, inputsFor, paint, rendered } from '../../render/painted-frame.ts';
import { XYZ_TO_CAMERA } from '../../../scenes/camera/colour.ts';
import type { FrameFacts } from '../../optics/frame-facts.ts';
import { whiteOfNeutral } from '../../optics/camera-white.ts';
import type { PartialRecipe } from '../../recipe/recipe.ts';

/** Encoded colours, 0..1, of some lights side by side. */
function shown(lights: readonly Rgb[], recipe: PartialRecipe, facts: Partial<FrameFacts> = {}): Rgb[] {
  const wide = 600 / lights.length;
  const source = paint((x) => lights[Math.min(lights.length - 1, Math.floor(x / wide))]);
  const out = rendered(source, inputsFor(recipe, facts));
  return lights.map((_, i) => {
    const at = (200 * 600 + Math.floor((i + 0.5) * wide)) * 3;
    return [out[at] / 65535, out[at + 1] / 65535, out[at + 2] / 65535] as const;
  });
}
const spread = (rgb: Rgb): number => Math.max(...rgb) - Math.min(...rgb);
const grey = (light: number): Rgb => [light, light, light];
const WARM = { warmth: 60, tint: 20 };
const DARKER = { exposure: -2, highlights: -60 };

describe('clipped light', () => {
  it('is white by every white balance, however it is darkened afterwards', () => {
    for (const colour of [WARM, { warmth: -70, tint: -10 }])
      for (const tone of [{}, DARKER])
        for (const rgb of shown([grey(1), grey(1.4), grey(2.5)], { colour, tone }))
          expect(spread(rgb)).toBeLessThan(0.004);
  });

  it('is not what is merely light: that is balanced as ever', () => {
    const lights: Rgb[] = [grey(0.5), grey(0.9)];
    const balanced = shown(lights, { colour: WARM });
    for (const rgb of balanced) expect(rgb[0] - rgb[2]).toBeGreaterThan(0.08);
  });

  it('passes into white without a step, and through no other hue', () => {
    const ramp = Array.from({ length: 60 }, (_, i) => grey(0.8 + i * 0.005));
    const out = shown(ramp, { colour: WARM, tone: { exposure: -1 } });
    for (let i = 1; i < out.length; i++) {
      expect(spread(out[i])).toBeLessThan(spread(out[i - 1]) + 0.004);
      expect(spread(out[i - 1]) - spread(out[i])).toBeLessThan(0.04);
      expect(out[i][0]).toBeGreaterThanOrEqual(out[i][1] - 0.004);
      expect(out[i][1]).toBeGreaterThanOrEqual(out[i][2] - 0.004);
    }
  });

  describe('of a raw file, whose colours clip each at its own level', () => {
    const white: FrameFacts['white'] = {
      neutral: [0.4, 1, 0.73],
      matrices: [{ kelvin: 6504, xyzToCamera: XYZ_TO_CAMERA }]
    };
    const { kelvin, tint } = whiteOfNeutral(white, white.neutral);
    const balanced = (lights: readonly Rgb[], away: number): Rgb[] =>
      shown(
        lights,
        { colour: { kelvin: kelvin + away, kelvinTint: tint }, tone: { exposure: -1.5 } },
        { white }
      );

    it('is white where two of them are clipped, as about a lamp', () => {
      for (const away of [-1500, 2500])
        for (const rgb of balanced(
          [
            [2.5, 1.9, 0.9],
            [2.5, 2.2, 1.2],
            [0.8, 1.05, 1.37]
          ],
          away
        ))
          expect(spread(rgb)).toBeLessThan(0.006);
    });

    it('keeps its colour where one is, or none', () => {
      const sky: Rgb = [0.45, 0.7, 1.36];
      const lamp: Rgb = [1.5, 1.2, 0.6];
      const [one, other] = balanced([sky, lamp], 2500);
      expect(spread(one)).toBeGreaterThan(0.15);
      expect(spread(other)).toBeGreaterThan(0.2);
    });

    it('changes little by little as the balance leaves the camera’s', () => {
      const lights: Rgb[] = [[2.5, 1.7, 0.7]];
      const [asShot] = shown(lights, { tone: { exposure: -1.5 } }, { white });
      const [near] = balanced(lights, 25);
      near.forEach((value, c) => expect(Math.abs(value - asShot[c])).toBeLessThan(0.03));
    });
  });
});
