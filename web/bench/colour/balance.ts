/** White balance of the bench's frame: in kelvin where its camera is known, else about as shot. */
import { type White, whiteOfNeutral } from '$core/optics/camera-white.ts';
import type { ColourSettings } from '$core/steps/colour/step.ts';
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

/** As shot, with nothing picked. */
export const AS_SHOT: Partial<ColourSettings> = {
  kelvin: null,
  kelvinTint: 0,
  warmth: 0,
  tint: 0,
  neutrals: []
};
