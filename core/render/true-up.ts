/** What truing up by itself makes of a recipe: the correction, the crop that keeps the building, and what is held back. */
import type { LensTerms } from '../optics/profile.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import type { CropSettings } from '../steps/crop/step.ts';
import type { LensSettings } from '../steps/lens/step.ts';
import { takeFound } from '../steps/lines/found-marks.ts';
import type { TrueUpMode } from '../steps/lines/solve-rotation.ts';
import type { LinesSettings } from '../steps/lines/step.ts';
import type { Confidence, TrueUpItself } from '../steps/lines/true-up-itself.ts';
import { type HeldPitch, heldPitch } from './held-pitch.ts';
import { planProjection } from './plan.ts';

export interface TrueUpOptions {
  recipe: Recipe;
  mode: TrueUpMode;
  /** The frame's optics as they are with lens settings. */
  setup: (lens: LensSettings) => { optics: FrameOptics; terms: LensTerms | null };
}

/** Settings that change. */
export interface TrueUpPatch {
  lines: Partial<LinesSettings>;
  lens: Partial<LensSettings>;
  crop: Partial<CropSettings>;
}

export type TrueUp =
  { ok: true; patch: TrueUpPatch; said: string; confidence: Confidence } | { ok: false; said: string };

const WHY: Record<HeldPitch['why'], string> = {
  cut: 'all of it would cut off much of what the lines belong to',
  stretched: 'all of it would stretch the picture to over twice its pixels'
};

/** `found` in the picture with the lens as the recipe has it. */
export function trueUpRecipe(found: TrueUpItself, { recipe, mode, setup }: TrueUpOptions): TrueUp {
  const { optics, terms } = setup(recipe.lens);
  const { model } = planProjection(optics, recipe, terms);
  const taken = takeFound(found, { marks: recipe.lines.marks, model, focal: optics.focal, mode });
  if (!taken.ok) return { ok: false, said: taken.said };
  const { marks, angles, solvedFocal, confidence } = taken;
  const lens = solvedFocal === null ? {} : { solvedFocal };
  // What was held back by hand stays so; what was held back by itself is looked at anew.
  const { heldByItself, holdBackPitch: before } = recipe.lines;
  const byHand = before !== heldByItself;
  const lines = {
    marks,
    ...angles,
    enabled: true,
    ...(byHand ? {} : { holdBackPitch: 0, heldByItself: 0 })
  };
  const crop = { keepMarked: true };
  const made: Recipe = {
    ...recipe,
    lens: { ...recipe.lens, ...lens },
    lines: { ...recipe.lines, ...lines },
    crop: { ...recipe.crop, ...crop }
  };
  const then = setup(made.lens);
  const held = byHand ? null : heldPitch(then.optics, made, then.terms);
  const patch: TrueUpPatch = { lines, lens, crop };
  if (!held) return { ok: true, patch, said: taken.said, confidence };
  const { holdBack, why } = held;
  return {
    ok: true,
    patch: { ...patch, lines: { ...lines, holdBackPitch: holdBack, heldByItself: holdBack } },
    said: `${taken.said} ${holdBack} % of the pitch is held back: ${WHY[why]}.`,
    confidence
  };
}
