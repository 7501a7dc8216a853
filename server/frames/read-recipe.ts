import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { RECIPE_VERSION, upgradeRecipe } from '../../core/recipe/upgrade.ts';
import { UserError } from '../user-error.ts';

/** A recipe as it is put into a row: with the format that it is in. */
export const storedRecipe = (recipe: PartialRecipe): PartialRecipe => ({
  ...recipe,
  version: RECIPE_VERSION
});

/** A recipe as it stands in a row, in the present format. What stands there was valid when it was written. */
export function readRecipe(stored: unknown): PartialRecipe {
  const upgraded = upgradeRecipe(stored);
  if (!upgraded.ok) throw new UserError(upgraded.reason);
  return upgraded.recipe as PartialRecipe;
}
