/** Everything that a picture of a frame follows from, as plain data: the bench, the server and the command line share it. */
import type { FrameFacts } from '../optics/frame-facts.ts';
import { type FrameSetup, type LensChoice, setupFrame } from '../steps/lens/frame-optics.ts';
import type { OutputSpace } from '../colour/rgb-spaces.ts';
import { balanceOf } from '../steps/colour/balance-stage.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { tonesAnything } from '../steps/tone/step.ts';
import { type Plan, planFrame } from './plan.ts';
import { type StageInputs, prepareStages } from './stages.ts';

export interface RenderInputs extends FrameSetup {
  recipe: Recipe;
  plan: Plan;
  stages: StageInputs;
}

/** `choice`: the lens profiles at hand; `space`: the colours that the picture leaves in. */
export function renderInputs(
  recipe: Recipe,
  facts: FrameFacts,
  choice: LensChoice,
  space: OutputSpace = 'srgb'
): RenderInputs {
  const setup = setupFrame(facts, recipe.lens, choice);
  const plan = planFrame(setup.optics, recipe, setup.terms);
  return {
    ...setup,
    recipe,
    plan,
    stages: prepareStages({
      recipe,
      facts,
      plan,
      space,
      keepsHeadroom: tonesAnything(recipe.tone) || balanceOf(recipe.colour, facts) !== null
    })
  };
}
