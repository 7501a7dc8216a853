import { type PartialRecipe, type Recipe, type StepName, cropSchema, linesSchema } from './schema.ts';
import { lensSchema } from './lens-schema.ts';

type Properties = Record<string, { default: unknown }>;

function defaults(properties: Properties): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(properties).map(([name, property]) => [name, structuredClone(property.default)])
  );
}

/** A recipe with every missing setting at its default. The given one must be valid; it is not changed. */
export function completeRecipe(partial: PartialRecipe = {}): Recipe {
  return {
    version: 1,
    lens: { ...defaults(lensSchema.properties), ...partial.lens },
    lines: { ...defaults(linesSchema.properties), ...partial.lines },
    crop: { ...defaults(cropSchema.properties), ...partial.crop }
  } as Recipe;
}

/** How a step came to be as it is. */
export type StepState = 'untouched' | 'automatic' | 'by hand' | 'off';

/** State of a step, for the course. `profileFound`: a profile was applied by itself. */
export function stepState(recipe: Recipe, step: StepName, profileFound: boolean): StepState {
  if (!recipe[step].enabled) return 'off';
  const neutral = completeRecipe()[step];
  const touched = JSON.stringify(recipe[step]) !== JSON.stringify(neutral);
  const itself =
    step === 'lines' && recipe.lines.marks.length > 0 && recipe.lines.marks.every((mark) => mark.found);
  if (touched) return itself && recipe.lines.holdBack === 0 ? 'automatic' : 'by hand';
  return step === 'lens' && profileFound ? 'automatic' : 'untouched';
}
