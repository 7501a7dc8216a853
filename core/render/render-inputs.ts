/** Everything that a picture of a frame follows from, as plain data: the bench, the server and the command line share it. */
import type { FrameFacts } from '../optics/frame-facts.ts';
import { renditionFacts } from '../optics/rendition-facts.ts';
import { type FrameSetup, type LensChoice, setupFrame } from '../steps/lens/frame-optics.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { atWork } from '../recipe/switched-off.ts';
import { type Plan, planFrame } from './plan.ts';
import { type Output, type StageInputs, prepareStages } from './stages.ts';

export interface RenderInputs extends FrameSetup {
  /** Without what is switched off. */
  recipe: Recipe;
  plan: Plan;
  stages: StageInputs;
}

/** `choice`: the lens profiles at hand; `output`: how the picture leaves (sRGB, not sharpened). */
export function renderInputs(
  given: Recipe,
  fileFacts: FrameFacts,
  choice: LensChoice,
  { space = 'srgb', sharpening = null }: Partial<Output> = {}
): RenderInputs {
  const recipe = atWork(given);
  const facts = renditionFacts(fileFacts, recipe.rendition);
  const setup = setupFrame(facts, recipe.lens, choice);
  const plan = planFrame(setup.optics, recipe, setup.terms);
  return {
    ...setup,
    recipe,
    plan,
    stages: prepareStages({ space, sharpening, recipe, facts, plan })
  };
}
