/** Exposure and white balance that make a frame come out as another of the same room does. */
import { LUMINANCE_REC2020 } from '../colour/primaries.ts';
import type { CommonLight } from '../measure/common/common-light.ts';
import { IDENTITY, type Matrix3, apply, invert3 } from '../math/matrix3.ts';
import { type Vector3, dot } from '../math/vector3.ts';
import type { FrameFacts } from '../optics/frame-facts.ts';
import { renditionFacts } from '../optics/rendition-facts.ts';
import { patchedRecipe } from '../recipe/patched-recipe.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import { neutralised } from '../steps/colour/balance-by-itself.ts';
import { balanceOf } from '../steps/colour/balance-stage.ts';
import { toneSchema } from '../steps/tone/step.ts';

export interface MatchedFrame {
  recipe: PartialRecipe;
  facts: FrameFacts;
}

export type Matched = { ok: true; recipe: PartialRecipe; said: string } | { ok: false; said: string };

/** Facts of a frame, as its recipe's rendition has them. */
const factsOf = ({ recipe, facts }: MatchedFrame): FrameFacts =>
  renditionFacts(facts, completeRecipe(recipe).rendition);

/** Colours of the working space as shot to those of the white balance that a recipe has. */
const balanceIn = (frame: MatchedFrame): Matrix3 =>
  balanceOf(completeRecipe(frame.recipe), factsOf(frame)) ?? IDENTITY;

const exposureOf = (recipe: PartialRecipe): number => {
  const { enabled, exposure } = completeRecipe(recipe).tone;
  return enabled ? exposure : 0;
};

/**
 * `common`: what the frame has over the one that it is to be like. What is white there becomes white here, and as light; all other
 * settings stay. Not where that is beyond what the settings reach.
 */
export function matchedRecipe(frame: MatchedFrame, like: MatchedFrame, common: CommonLight): Matched {
  if (frame.facts.rendering !== like.facts.rendering)
    return { ok: false, said: 'One of them is a raw file and the other a finished picture.' };
  // The light that comes out white there, as its file has it; the same light as this file has it.
  const white = apply(invert3(balanceIn(like)), [1, 1, 1]);
  const seen = apply(invert3(factsOf(like).toWorking), white);
  const own = factsOf(frame);
  const here = apply(own.toWorking, seen.map((value, c) => value * 2 ** common.stops[c]) as Vector3);
  const { settings, reached } = neutralised(own, here);
  if (!reached) return { ok: false, said: 'Its light is of another colour than the settings reach.' };
  const coloured = patchedRecipe(frame.recipe, { colour: { ...settings, neutrals: [], enabled: true } });
  const lightness = (of: MatchedFrame, colour: Vector3): number =>
    dot([...LUMINANCE_REC2020], apply(balanceIn(of), colour));
  const stops =
    exposureOf(like.recipe) +
    Math.log2(lightness(like, white) / lightness({ ...frame, recipe: coloured }, here));
  const { minimum, maximum } = toneSchema.properties.exposure;
  if (stops < minimum || stops > maximum)
    return { ok: false, said: `It would want ${stops.toFixed(1)} EV, which is more than Exposure has.` };
  const exposure = Math.round(stops * 100) / 100;
  const change = exposure - exposureOf(frame.recipe);
  const signed = `${change < 0 ? '−' : '+'}${Math.abs(change).toFixed(2)} EV`;
  return {
    ok: true,
    recipe: patchedRecipe(coloured, { tone: { exposure, enabled: true } }),
    said: `${signed}${settings.kelvin ? `, ${settings.kelvin} K` : ''}`
  };
}
