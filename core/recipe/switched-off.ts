/** Settings that are switched off: they keep what is set, and pictures are made as if it were not. */
import { type Definition, completed } from '../settings/nested.ts';
import { isTouched } from '../settings/step.ts';
import { type PartialRecipe, type Recipe, completeRecipe } from './recipe.ts';
import { type StepName, stepByName } from './steps.ts';
import { switchOf } from './switches.ts';

/** A setting's step and its name. */
const placeOf = (name: string): [StepName, string] => name.split('.') as [StepName, string];

/** A recipe with settings at their defaults. */
export function withNeutral(recipe: Recipe, names: readonly string[]): Recipe {
  if (names.length === 0) return recipe;
  const steps: Record<string, Record<string, unknown>> = {};
  for (const [step, setting] of names.map(placeOf)) {
    const definition = stepByName(step)!.schema.properties[setting];
    const own = (steps[step] ??= { ...(recipe[step] as unknown as Record<string, unknown>) });
    own[setting] = completed(definition as Definition, definition.default);
  }
  return { ...recipe, ...steps } as Recipe;
}

/** What pictures are made by: the recipe without what is switched off. */
export const atWork = (recipe: Recipe): Recipe =>
  recipe.off.length === 0 ? recipe : { ...withNeutral(recipe, recipe.off), off: [] };

/** A recipe with settings switched off, or on again. */
export const switched = (recipe: Recipe, names: readonly string[], off: boolean): Recipe => ({
  ...recipe,
  off: [...recipe.off.filter((name) => !names.includes(name)), ...(off ? names : [])]
});

/** Those of some settings that are not at their defaults. */
export const touchedOf = (recipe: Recipe, names: readonly string[]): string[] =>
  names.filter((name) => {
    const [step, setting] = placeOf(name);
    return isTouched(stepByName(step)!.schema, recipe[step], setting);
  });

/** A step with nothing set, and on. */
export function withNeutralStep(recipe: Recipe, step: StepName): Recipe {
  const off = recipe.off.filter((name) => placeOf(name)[0] !== step);
  return { ...recipe, off, [step]: completeRecipe()[step] };
}

/** A frame with nothing set; how it is rendered stays. */
export const neutralRecipe = ({ rendition }: Recipe): Recipe => completeRecipe({ rendition });

/** What a frame gives of a step to others is what is seen of it: what is off is at its default. */
export const givenBy = (recipe: PartialRecipe): PartialRecipe =>
  recipe.off?.length ? atWork(completeRecipe(recipe)) : recipe;

/** A recipe in which settings that came from elsewhere are at work. */
export function takenOn<R extends PartialRecipe>(recipe: R, step: StepName, settings?: readonly string[]): R {
  if (!recipe.off?.length) return recipe;
  const taken = settings?.map((setting) => switchOf(step, setting));
  const off = recipe.off.filter((name) => (taken ? !taken.includes(name) : placeOf(name)[0] !== step));
  return { ...recipe, off };
}
