/** House settings: named sets of whole steps that are laid over any frame, as far as is asked. */
import equal from 'fast-deep-equal';
import { type Definition, completed } from '../settings/nested.ts';
import { carryOver } from './carry-over.ts';
import { patchedRecipe } from './patched-recipe.ts';
import { type PartialRecipe, type Recipe, completeRecipe } from './recipe.ts';
import { percent } from '../settings/percent-schema.ts';
import { EVERY_STEP, type StepName, stepByName, stepLabel } from './steps.ts';

/** The steps that a set holds, without what belongs to a picture. */
export type HouseSteps = { [S in StepName]?: Partial<Recipe[S]> };

export interface HouseSettings {
  name: string;
  /** Of our own making; empty: in none. */
  folder: string;
  steps: HouseSteps;
}

/** How far a set is laid over a frame. */
export const houseAmount = percent(
  'Amount',
  100,
  'How far numbers go from what they are to what they are in the set; what is no number is taken as it is there.'
);

/** What a set is called where all of them are listed. */
export const placedName = ({ name, folder }: Pick<HouseSettings, 'name' | 'folder'>): string =>
  folder ? `${folder} / ${name}` : name;

/** What a set holds, in words. */
export const holdsText = ({ steps }: Pick<HouseSettings, 'steps'>): string =>
  stepsOf(steps).map(stepLabel).join(', ');

/** Steps whose settings lie in one picture alone: they are not offered by themselves. */
const OF_ONE_PICTURE: readonly StepName[] = ['lines', 'crop', 'areas', 'mend'];

/** Steps of a recipe that change anything and may do so on other frames. */
export const offeredSteps = (recipe: Recipe): StepName[] => {
  const untouched = completeRecipe();
  return EVERY_STEP.map(({ name }) => name).filter(
    (name) => !OF_ONE_PICTURE.includes(name) && !equal(recipe[name], untouched[name])
  );
};

/** Some steps of a recipe as a set. */
export const houseStepsOf = (recipe: Recipe, names: readonly StepName[]): HouseSteps =>
  Object.fromEntries(
    EVERY_STEP.filter(({ name }) => names.includes(name)).map(({ name }) => [
      name,
      carryOver(recipe, {}, name)[name]
    ])
  );

const stepsOf = (steps: HouseSteps): StepName[] =>
  EVERY_STEP.map(({ name }) => name).filter((name) => steps[name] !== undefined);

/** Numbers part of the way from one value to another, in what is alike in both; all else as in the other. */
function partOfTheWay(from: unknown, to: unknown, share: number): unknown {
  if (typeof from === 'number' && typeof to === 'number')
    return Number((from + (to - from) * share).toFixed(4));
  const isRecord = (value: unknown): value is Record<string, unknown> =>
    typeof value === 'object' && value !== null && !Array.isArray(value);
  if (isRecord(from) && isRecord(to))
    return Object.fromEntries(
      Object.entries(to).map(([name, value]) => [name, partOfTheWay(from[name], value, share)])
    );
  return to;
}

/**
 * A recipe with a set laid over it. `amount`, 0..100: how far numbers go from what they are to what they are in the set; what
 * is no number is taken as it is there.
 */
export function withHouseSettings(recipe: PartialRecipe, steps: HouseSteps, amount = 100): PartialRecipe {
  if (amount === 0) return recipe;
  const before = completeRecipe(recipe);
  return stepsOf(steps).reduce((all, name) => {
    const schema = stepByName(name)!.schema as Definition;
    const laid = carryOver({ [name]: completed(schema, steps[name]) }, all, name);
    if (amount === 100) return laid;
    const whole = completed(schema, { ...laid[name] });
    return { ...all, [name]: partOfTheWay(before[name], whole, amount / 100) };
  }, recipe);
}

/** A recipe with what a set changes laid over it; what the set leaves at its default stays as it is. */
export const withHouseChanges = (recipe: PartialRecipe, steps: HouseSteps): PartialRecipe =>
  stepsOf(steps).reduce((all, name) => {
    const { properties } = stepByName(name)!.schema;
    const own = carryOver({ [name]: steps[name] }, {}, name)[name] as Record<string, unknown>;
    const changed = Object.fromEntries(
      Object.entries(own ?? {}).filter(([setting, value]) => !equal(value, properties[setting]?.default))
    );
    return patchedRecipe(all, { [name]: changed });
  }, recipe);

export const houseSettingsSchema = {
  $id: 'house-settings',
  type: 'object',
  additionalProperties: false,
  required: ['name', 'steps'],
  properties: {
    name: { type: 'string', minLength: 1, maxLength: 80 },
    folder: { type: 'string', maxLength: 80, default: '' },
    steps: { type: 'object', minProperties: 1 }
  }
} as const;

/** What is wrong with the steps that a set names; null: nothing. */
export function unknownSteps(steps: object): string | null {
  const strange = Object.keys(steps).filter((name) => !stepByName(name));
  if (strange.length === 0) return null;
  const known = EVERY_STEP.map(({ name }) => name).join(', ');
  return `There is no step ${strange.map((name) => `“${name}”`).join(' or ')}: the steps are ${known}. Take it out of the file, or write the file with this release.`;
}
