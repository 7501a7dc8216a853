import { frameLens } from '../../core/steps/lens/frame-lens.ts';
import type { LensTerms } from '../../core/optics/profile.ts';
import { solveRotation } from '../../core/steps/lines/solve-rotation.ts';
import type { FrameOptics } from '../../core/steps/lens/frame-optics.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../user-error.ts';

/**
 * A recipe with marks but none of roll, pitch and yaw means "true up from these marks": scripts need not solve
 * for themselves. Recipes that state an angle, or have no marks, come back as they are.
 */
export function solveMissingAngles(
  recipe: PartialRecipe,
  optics: FrameOptics,
  terms: LensTerms | null
): PartialRecipe {
  const { lines } = recipe;
  const stated = lines?.roll !== undefined || lines?.pitch !== undefined || lines?.yaw !== undefined;
  if (!lines?.marks?.length || stated || lines.enabled === false) return recipe;
  const { lens } = completeRecipe(recipe);
  const model = frameLens(lens, terms, optics.focal);
  const solution = solveRotation(lines.marks, { focal: optics.focal, model });
  if (!solution.ok) throw new UserError(`The marks of the recipe give no correction: ${solution.reason}`);
  return { ...recipe, lines: { ...lines, ...solution.angles } };
}
