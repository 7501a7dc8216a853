import { frameLens } from '../steps/lens/frame-lens.ts';
import type { LensTerms } from '../optics/profile.ts';
import { solveRotation } from '../steps/lines/solve-rotation.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import { type PartialRecipe, completeRecipe } from './recipe.ts';

export type AnglesSolved = { ok: true; recipe: PartialRecipe } | { ok: false; reason: string };

/**
 * A recipe with marks but none of roll, pitch and yaw means "true up from these marks": scripts need not solve
 * for themselves. Recipes that state an angle, or have no marks, come back as they are.
 */
export function solveMissingAngles(
  recipe: PartialRecipe,
  optics: FrameOptics,
  terms: LensTerms | null
): AnglesSolved {
  const { lines } = recipe;
  const stated = lines?.roll !== undefined || lines?.pitch !== undefined || lines?.yaw !== undefined;
  if (!lines?.marks?.length || stated || lines.enabled === false) return { ok: true, recipe };
  const { lens } = completeRecipe(recipe);
  const model = frameLens(lens, terms, optics.focal);
  const solution = solveRotation(lines.marks, { focal: optics.focal, model });
  if (!solution.ok)
    return { ok: false, reason: `The marks of the recipe give no correction: ${solution.reason}` };
  return { ok: true, recipe: { ...recipe, lines: { ...lines, ...solution.angles } } };
}
