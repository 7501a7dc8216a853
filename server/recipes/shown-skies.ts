import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { AreasSettings } from '../../core/steps/areas/step.ts';

/** The skies that a valid recipe shows, whether or not their areas are switched on: what recipes know them by, each once. */
export function shownSkies({ areas }: PartialRecipe): string[] {
  const list = (areas?.list ?? []) as unknown as readonly Partial<AreasSettings['list'][number]>[];
  return [...new Set(list.flatMap(({ sky }) => (sky ? [sky.picture] : [])))];
}
