import { SET_BY_ITSELF } from '../settings/set-by-itself.ts';
import { type StepFacts, touchedSettings } from '../settings/step.ts';
import type { Recipe } from './recipe.ts';
import { EVERY_STEP, type StepName, stepByName } from './steps.ts';

/** How a step came to be as it is. */
export type StepState = 'untouched' | 'automatic' | 'by hand' | 'off';

/** State of a step, for the course. */
export function stepState(recipe: Recipe, name: StepName, facts: StepFacts): StepState {
  const step = stepByName(name)!;
  // Which step's settings they are is known by name only.
  const settings = recipe[name] as never;
  if (!recipe[name].enabled) return 'off';
  if (step.itself(settings, facts)) return 'automatic';
  return touchedSettings(step.schema, settings, [SET_BY_ITSELF]).length > 0 ? 'by hand' : 'untouched';
}

/** The states of all steps, in their order. */
export const stepStates = (recipe: Recipe, facts: StepFacts): { name: StepName; state: StepState }[] =>
  EVERY_STEP.map(({ name }) => ({ name, state: stepState(recipe, name, facts) }));
