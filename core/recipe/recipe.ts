/** A recipe: everything decided about a frame. Its schema and its types follow from the list of steps. */
import { type Definition, completed } from '../settings/nested.ts';
import { EVERY_STEP, type StepName, type StepSettings } from './steps.ts';
import { RENDITION, RENDITIONS, type Rendition } from '../settings/rendition.ts';
import { SWITCHES } from './switches.ts';
import { RECIPE_VERSION } from './upgrade.ts';

/** A recipe with every setting present. */
export type Recipe = {
  version: typeof RECIPE_VERSION;
  rendition: Rendition;
  /** Settings that are switched off, as "tone.exposure". */
  off: readonly string[];
} & StepSettings;

/** A recipe as stored or handed in: any part may be missing and then has its default. */
export type PartialRecipe = {
  version?: typeof RECIPE_VERSION;
  rendition?: Rendition;
  off?: readonly string[];
} & {
  [S in StepName]?: Partial<StepSettings[S]>;
};

export const recipeSchema = {
  $id: 'recipe',
  type: 'object',
  additionalProperties: false,
  properties: {
    version: { const: RECIPE_VERSION },
    rendition: { enum: RENDITIONS },
    off: { type: 'array', uniqueItems: true, items: { enum: SWITCHES } },
    ...Object.fromEntries(EVERY_STEP.map(({ name, schema }) => [name, schema]))
  }
};

/** A recipe with every missing setting at its default. The given one must be valid; it is not changed. */
export function completeRecipe(partial: PartialRecipe = {}): Recipe {
  const steps = EVERY_STEP.map(({ name, schema }) => [
    name,
    completed(schema as Definition, { ...partial[name] })
  ]);
  const { rendition = RENDITION, off = [] } = partial;
  return { version: RECIPE_VERSION, rendition, off, ...Object.fromEntries(steps) } as Recipe;
}

/** Every step off: the frame as it was shot. */
export const asShot = (rendition?: Rendition): Recipe =>
  completeRecipe({
    rendition,
    ...Object.fromEntries(EVERY_STEP.map(({ name }) => [name, { enabled: false }]))
  });
