import { recipeSchema, type PartialRecipe } from '../../core/recipe/recipe.ts';
import { upgradeRecipe } from '../../core/recipe/upgrade.ts';
import { validator } from '../documents/validator.ts';
import { UserError } from '../user-error.ts';

const validPresent = validator<PartialRecipe>(recipeSchema, 'recipe');

/** A recipe of any format, in the present one; else a UserError. */
export function validRecipe(value: unknown): PartialRecipe {
  const upgraded = upgradeRecipe(value);
  if (!upgraded.ok) throw new UserError(upgraded.reason);
  return validPresent(upgraded.recipe);
}
