import type { PartialRecipe, Recipe } from './recipe.ts';
import type { StepName } from './steps.ts';

/** A recipe with settings of some steps changed; steps of which nothing changes stay as they are. */
export function patchedRecipe(
  recipe: PartialRecipe,
  patch: { [S in StepName]?: Partial<Recipe[S]> }
): PartialRecipe {
  const changed = Object.entries(patch)
    .filter(([, settings]) => Object.keys(settings).length > 0)
    .map(([step, settings]) => [step, { ...recipe[step as StepName], ...settings }]);
  return { ...recipe, ...Object.fromEntries(changed) };
}
