/** Carries steps of one frame, or groups of their settings, over to others of its job. */
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import { hasFronts, refindFronts } from '../../core/steps/areas/parts/refind-fronts.ts';
import { type CarriedPart, carryPart } from '../../core/recipe/carry-over.ts';
import { stepByName } from '../../core/recipe/steps.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { type FrameRow, frameById, framesOfJob } from '../frames/frame-row.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { type SetChange, changeRecipes } from '../recipes/write-recipe.ts';

/** The areas of a recipe, with the fronts in them where this frame's own lines have them. */
async function withOwnFronts(
  context: Context,
  { facts }: FrameRow,
  partial: PartialRecipe
): Promise<PartialRecipe['areas']> {
  const recipe = completeRecipe(partial);
  if (!facts || !hasFronts(recipe.areas.shapes)) return partial.areas;
  const choice = await choiceFor(context, facts, recipe.lens.profile);
  const { projection } = renderInputs(recipe, facts, choice).plan;
  const shapes = refindFronts(recipe.areas.shapes, recipe.lines.marks, projection);
  return { ...partial.areas, shapes } as PartialRecipe['areas'];
}

export async function carrySteps(
  context: Context,
  parts: readonly CarriedPart[],
  fromId: string,
  toIds: readonly string[]
): Promise<SetChange> {
  const from = await frameById(context, fromId);
  if (!from?.facts) throw new UserError('This frame no longer exists.');
  const others = (await framesOfJob(context, from.job_id)).filter(
    (frame) => frame.id !== fromId && toIds.includes(frame.id)
  );
  if (others.length === 0) throw new UserError('Choose at least one other frame of the job.');
  if (parts.length === 0) throw new UserError('Choose at least one step to carry over.');
  if (parts.some((part) => stepByName(part.split('.')[0])!.carries.sameShape)) {
    const { width, height } = from.facts.size;
    const other = others.find(
      ({ facts }) => facts && facts.size.width * height !== facts.size.height * width
    );
    if (other)
      throw new UserError(`${other.name} has another shape than ${from.name}: it cannot be the same view.`);
  }
  return changeRecipes(
    context,
    others.map(({ id }) => id),
    async (recipe, frame) => {
      const carried = parts.reduce((all, part) => carryPart(from.recipe, all, part), recipe);
      return parts.includes('areas')
        ? { ...carried, areas: await withOwnFronts(context, frame, carried) }
        : carried;
    }
  );
}
