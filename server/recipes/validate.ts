import { recipeSchema, type PartialRecipe } from '../../core/recipe/recipe.ts';
import { upgradeRecipe } from '../../core/recipe/upgrade.ts';
import { validator } from '../documents/validator.ts';
import { UserError } from '../user-error.ts';
import { shownSkies } from './shown-skies.ts';

/** Different skies of one frame: each takes its memory. */
const MOST_SKIES = 4;

const validPresent = validator<PartialRecipe>(recipeSchema, 'recipe');

/** A recipe of any format, in the present one; else a UserError. */
export function validRecipe(value: unknown): PartialRecipe {
  const upgraded = upgradeRecipe(value);
  if (!upgraded.ok) throw new UserError(upgraded.reason);
  const recipe = validPresent(upgraded.recipe);
  const skies = shownSkies(recipe).length;
  if (skies > MOST_SKIES)
    throw new UserError(
      `The areas of this recipe show ${skies} different skies: a frame has ${MOST_SKIES} at most. Take the others off.`
    );
  return recipe;
}
