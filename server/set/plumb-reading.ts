/** The Plumb reading of a frame as its recipe stands, without rendering it. */
import { lineAngles } from '../../core/steps/lines/line-angles.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { planProjection } from '../../core/render/plan.ts';
import { placeMarks } from '../../core/render/readings/measure.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import type { Chooser } from '../lenses/lens-choice.ts';
import type { FrameRow } from '../frames/frame-row.ts';

/** RMS angle from vertical in degrees, or null while no plumb line is marked. */
export async function plumbReading(
  { facts, recipe: partial }: FrameRow,
  chooser: Chooser
): Promise<number | null> {
  if (!facts || !partial.lines?.marks?.some((mark) => mark.kind === 'plumb')) return null;
  const recipe = completeRecipe(partial);
  const { optics, terms } = setupFrame(facts, recipe.lens, await chooser.choose(facts, recipe.lens.profile));
  const projection = planProjection(optics, recipe, terms);
  return lineAngles(placeMarks(recipe.lines.marks, { projection }), 'plumb')?.rms ?? null;
}
