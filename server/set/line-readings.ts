/** How plumb and how straight a frame is as its recipe stands, without rendering it. */
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import { atWork } from '../../core/recipe/switched-off.ts';
import { planProjection } from '../../core/render/plan.ts';
import { type ByItself, type Readings, anglesOf, straightOf } from '../../core/render/readings/measure.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { aligns } from '../../core/steps/lines/mark.ts';
import type { Context } from '../context.ts';
import { keptFound } from '../frames/found-evidence.ts';
import type { FrameRow } from '../frames/frame-row.ts';
import type { Chooser } from '../lenses/lens-choice.ts';

/** Of what is marked, else of what was found; null where there is nothing of a kind. */
export type LineReadings = Pick<Readings, 'plumb' | 'straight'>;

/** Whether a reading is beyond a limit for sure: what was found may be off by its own error. */
export const isBeyond = (reading: ({ rms: number } & ByItself) | null, limit: number): boolean =>
  reading !== null && reading.rms - (reading.found?.error ?? 0) > limit;

/** Whether a frame's verticals were left leaning on purpose. */
export const leansOnPurpose = ({ lines }: PartialRecipe): boolean =>
  Boolean(lines?.holdBackPitch || lines?.holdBackRoll);

export async function lineReadings(
  context: Context,
  { facts, recipe: partial, sha256 }: FrameRow,
  chooser: Chooser
): Promise<LineReadings> {
  const recipe = atWork(completeRecipe(partial));
  const { marks } = recipe.lines;
  const { curves } = recipe.lens;
  const allMarked = curves.length > 0 && marks.some((mark) => mark.kind === 'plumb' && aligns(mark));
  const found = allMarked || !facts ? null : await keptFound(context, sha256);
  if (!facts || (marks.length === 0 && curves.length === 0 && !found)) return { plumb: null, straight: null };
  const { optics, terms } = setupFrame(facts, recipe.lens, await chooser.choose(facts, recipe.lens.profile));
  const projection = planProjection(optics, recipe, terms);
  return {
    plumb: anglesOf('plumb', { marks, found }, projection),
    straight: straightOf({ curves, found }, projection)
  };
}
