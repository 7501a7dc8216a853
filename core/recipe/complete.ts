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

/** Settings of the Lines step that follow from lines found by themselves. */
const SOLVED: readonly string[] = ['marks', 'roll', 'pitch', 'yaw'];

/** True when the lines are as they were found, and nothing was set by hand beside them. */
function foundOnly({ lines }: Recipe): boolean {
  const neutral: object = completeRecipe().lines;
  return (
    lines.marks.length > 0 &&
    lines.marks.every((mark) => mark.found) &&
    Object.entries(neutral).every(
      ([name, value]) =>
        SOLVED.includes(name) || JSON.stringify(lines[name as keyof typeof lines]) === JSON.stringify(value)
    )
  );
}

/** State of a step, for the course. `profileFound`: a profile was applied by itself. */
export function stepState(recipe: Recipe, step: StepName, profileFound: boolean): StepState {
  if (!recipe[step].enabled) return 'off';
  const neutral = completeRecipe()[step];
  const touched = JSON.stringify(recipe[step]) !== JSON.stringify(neutral);
  const itself = step === 'lines' && foundOnly(recipe);
  if (touched) return itself ? 'automatic' : 'by hand';
  return step === 'lens' && profileFound ? 'automatic' : 'untouched';
}
