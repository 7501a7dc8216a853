/** Carries a step of one frame over to others of its job. */
import { carryOver } from '../../core/recipe/carry-over.ts';
import { type StepName, stepByName } from '../../core/recipe/steps.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { frameById, framesOfJob } from '../frames/frame-row.ts';
import { type SetChange, changeRecipes } from './write-recipe.ts';

export async function carryStep(
  context: Context,
  step: StepName,
  fromId: string,
  toIds: readonly string[]
): Promise<SetChange> {
  const from = await frameById(context, fromId);
  if (!from?.facts) throw new UserError('This frame no longer exists.');
  const others = (await framesOfJob(context, from.job_id)).filter(
    (frame) => frame.id !== fromId && toIds.includes(frame.id)
  );
  if (others.length === 0) throw new UserError('Choose at least one other frame of the job.');
  if (stepByName(step)!.carries.sameShape) {
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
    (recipe) => carryOver(from.recipe, recipe, step)
  );
}
