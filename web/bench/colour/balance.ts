/** White balance of the bench's frame: in kelvin where its camera is known, else about as shot. */
import { type White, whiteFor, whiteOfNeutral } from '$core/optics/camera-white.ts';
import { balanceFor } from '$core/steps/colour/white-balance.ts';
import { type ColourSettings, colourSchema } from '$core/steps/colour/step.ts';
import type { Matrix3 } from '$core/math/matrix3.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import type { Bench } from '../state/bench-state.svelte.ts';

/** The white that the camera was set to. */
export const whiteAsShot = ({ facts }: Bench): White | null =>
  facts.white ? whiteOfNeutral(facts.white, facts.white.neutral) : null;

/** The white that the picture stands at now; null where only a relative balance is known. */
export function currentWhite(bench: Bench): White | null {
  const { kelvin, kelvinTint } = bench.recipe.colour;
  if (bench.facts.white && kelvin !== null) return { kelvin, tint: kelvinTint };
  return whiteAsShot(bench);
}

const between = (value: number, { minimum, maximum }: { minimum: number; maximum: number }): number =>
  Math.min(maximum, Math.max(minimum, value));

/** Settings that stand for a white, as near as they reach. */
export const settingsOf = ({ kelvin, tint }: White): Partial<ColourSettings> => ({
  kelvin: Math.round(between(kelvin, colourSchema.properties.kelvin)),
  kelvinTint: Math.round(between(tint, colourSchema.properties.kelvinTint) * 10) / 10,
  warmth: 0,
  tint: 0
});

/** As shot, with nothing picked. */
export const AS_SHOT: Partial<ColourSettings> = {
  kelvin: null,
  kelvinTint: 0,
  warmth: 0,
  tint: 0,
  neutrals: []
};

/** Light bluer than open shade, in kelvin, is the sky's after sunset: by itself it is balanced this far, so that evening stays evening. */
const BLUEST = 9000;

/** Settings for a light that was found; what it is called. */
export function balanceByItself(
  bench: Bench,
  light: Vector3
): { settings: Partial<ColourSettings>; name: string } {
  const { settings } = neutralised(bench, light);
  if (!settings.kelvin) return { settings, name: light[0] > light[2] ? 'a warm one' : 'a cold one' };
  if (settings.kelvin > BLUEST)
    return { settings: { ...settings, kelvin: BLUEST }, name: `the blue of the sky, as far as ${BLUEST} K` };
  return { settings, name: `${Math.round(settings.kelvin / 50) * 50} K` };
}

/** Settings that make a working colour, as shot, neutral; whether they reach it. */
export function neutralised(
  { facts }: Bench,
  colour: Vector3
): { settings: Partial<ColourSettings>; reached: boolean } {
  if (facts.white) {
    const white = whiteFor(facts.white, facts.toWorking as Matrix3, colour);
    const { maximum } = colourSchema.properties.kelvinTint;
    return { settings: settingsOf(white), reached: Math.abs(white.tint) <= maximum };
  }
  const { warmth, tint, reached } = balanceFor(colour);
  const tenth = (value: number): number => Math.round(value * 10) / 10;
  return { settings: { warmth: tenth(warmth), tint: tenth(tint) }, reached };
}
