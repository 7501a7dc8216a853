/** Another state of the frame in hand: what it is called, and how the recipe comes to it. */
import type { Recipe } from '$core/recipe/recipe.ts';

export interface FrameState {
  id: string;
  label: string;
  title?: string;
  apply: (recipe: Recipe) => Recipe;
}
