/** House settings: named sets of whole steps that are laid over any frame, as far as is asked. */
import equal from 'fast-deep-equal';
import { type Definition, completed, propertiesOf } from '../settings/nested.ts';
import type { SettingsGroup } from '../settings/step.ts';
import { type CarriedPart, carryOver, carryPart } from './carry-over.ts';
import { givenBy } from './switched-off.ts';
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

/** Groups of a step that some of its settings are of; empty: they are the step as a whole. */
function groupsIn(name: StepName, settings: object): SettingsGroup[] {
  const { groups } = stepByName(name)!.carries;
  const held = groups.filter((group) => group.settings.some((setting) => setting in settings));
  return held.length === groups.length ? [] : held;
}

/** What a set holds, in words. */
export const holdsText = ({ steps }: Pick<HouseSettings, 'steps'>): string =>
  stepsOf(steps)
    .map((name) => {
      const groups = groupsIn(name, steps[name]!).map(({ label }) => label.toLowerCase());
      return groups.length === 0 ? stepLabel(name) : `${stepLabel(name)} (${groups.join(', ')})`;
    })
    .join(', ');

/** Steps whose settings lie in one picture alone: they are not offered by themselves. */
const OF_ONE_PICTURE: readonly StepName[] = ['lines', 'crop', 'areas', 'mend'];

/** Steps of a recipe that change anything and may do so on other frames. */
export const offeredSteps = (recipe: Recipe): StepName[] => {
  const untouched = completeRecipe();
  return EVERY_STEP.map(({ name }) => name).filter(
    (name) => !OF_ONE_PICTURE.includes(name) && !equal(recipe[name], untouched[name])
  );
};

/** Some steps of a recipe, or groups of their settings, as a set: what is seen of them. */
export function houseStepsOf(recipe: Recipe, parts: readonly CarriedPart[]): HouseSteps {
  const given = givenBy(recipe);
  const entries = EVERY_STEP.flatMap(({ name, carries }): [StepName, object][] => {
    if (parts.includes(name)) return [[name, carryOver(given, {}, name)[name]!]];
    const names = carries.groups
      .filter((group) => parts.includes(`${name}.${group.name}`))
      .flatMap(({ settings }) => settings);
    const own = Object.entries(given[name] ?? {}).filter(([setting]) => names.includes(setting));
    return own.length === 0 ? [] : [[name, Object.fromEntries(own)]];
  });
  return Object.fromEntries(entries) as HouseSteps;
}

const stepsOf = (steps: HouseSteps): StepName[] =>
  EVERY_STEP.map(({ name }) => name).filter((name) => steps[name] !== undefined);

/** An angle of a whole turn. */
const isTurn = (definition: Definition): boolean => {
  const { type, minimum, maximum } = definition as { type?: unknown; minimum?: number; maximum?: number };
  return type === 'number' && minimum === 0 && maximum === 360;
};

/** Numbers part of the way from one value to another, in what is alike in both, and hues by the shorter way; all else as in the other. */
function partOfTheWay(definition: Definition, from: unknown, to: unknown, share: number): unknown {
  if (typeof from === 'number' && typeof to === 'number') {
    const way = isTurn(definition) ? ((((to - from + 180) % 360) + 360) % 360) - 180 : to - from;
    const there = from + way * share;
    return Number((isTurn(definition) ? (there + 360) % 360 : there).toFixed(4));
  }
  const isRecord = (value: unknown): value is Record<string, unknown> =>
    typeof value === 'object' && value !== null && !Array.isArray(value);
  if (isRecord(from) && isRecord(to)) {
    const inside = propertiesOf(definition, to);
    return Object.fromEntries(
      Object.entries(to).map(([name, value]) => [
        name,
        partOfTheWay(inside[name] ?? {}, from[name], value, share)
      ])
    );
  }
  return to;
}

/** A look that comes in is taken by its own amount, whatever that of the one before was. */
const lookOf = (from: Recipe, to: Recipe, share: number): Partial<Recipe['colour']> =>
  to.colour.look === from.colour.look || to.colour.look === null
    ? {}
    : { lookAmount: Number((to.colour.lookAmount * share).toFixed(4)) };

/**
 * A recipe with a set laid over it: whole steps, or those groups of their settings that it holds some of. `amount`, 0..100: how far
 * numbers go from what they are to what they are in the set; what is no number is taken as it is there.
 */
export function withHouseSettings(recipe: PartialRecipe, steps: HouseSteps, amount = 100): PartialRecipe {
  if (amount === 0) return recipe;
  const before = completeRecipe(recipe);
  return stepsOf(steps).reduce((all, name) => {
    const schema = stepByName(name)!.schema as Definition;
    const source = { [name]: completed(schema, steps[name]) };
    const groups = groupsIn(name, steps[name]!);
    const laid =
      groups.length === 0
        ? carryOver(source, all, name)
        : groups.reduce((sum, group) => carryPart(source, sum, `${name}.${group.name}`), all);
    if (amount === 100) return laid;
    const whole = completeRecipe(laid);
    const part = partOfTheWay(schema, before[name], whole[name], amount / 100) as object;
    const look = name === 'colour' ? lookOf(before, whole, amount / 100) : {};
    return { ...laid, [name]: { ...part, ...look } };
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
