/**
 * Recipes of earlier formats, brought up to date step by step when they are read. Each step only touches what its format
 * had otherwise, so that a recipe without a version passes through all of them.
 */

import { FIRST_RENDITION } from '../settings/rendition.ts';

/** The format that recipes are written in. */
export const RECIPE_VERSION = 3;

type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Where settings of steps stand within others: an area's are those of Tone and Colour, under this name. */
const NESTED = 'settings';

/** Changes the settings of a step wherever they stand in a recipe: as the step's own, and within those of others. */
export function wherever(recipe: Json, step: string, change: (settings: Json) => Json): Json {
  const holding = (holder: Json): Json =>
    isObject(holder[step]) ? { ...holder, [step]: change(holder[step]) } : holder;
  const inside = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(inside);
    if (!isObject(value)) return value;
    const entries = Object.entries(value).map(([name, each]) => [name, inside(each)]);
    const made = Object.fromEntries(entries) as Json;
    return isObject(made[NESTED]) ? { ...made, [NESTED]: holding(made[NESTED]) } : made;
  };
  return holding(inside(recipe) as Json);
}

/** Format 1 held all angles back by one share. */
const holdBackEachAngle = (recipe: Json): Json =>
  wherever(recipe, 'lines', (settings) => {
    if (!('holdBack' in settings)) return settings;
    const { holdBack, ...lines } = settings;
    return { holdBackRoll: holdBack, holdBackPitch: holdBack, holdBackYaw: holdBack, ...lines };
  });

/**
 * Format 2 knew one rendition: what was set in it stays as it was finished. A recipe of no format was written by hand, and is
 * rendered as any new one.
 */
const keepRendition = (recipe: Json): Json =>
  'version' in recipe && Object.keys(recipe).length > 1 && !('rendition' in recipe)
    ? { ...recipe, rendition: FIRST_RENDITION }
    : recipe;

/** The n-th leads from format n to the next. */
const UPGRADES: readonly ((recipe: Json) => Json)[] = [holdBackEachAngle, keepRendition];

export type Upgraded = { ok: true; recipe: unknown } | { ok: false; reason: string };

/** A recipe of any format up to the present one in the present one; it is not checked, and not changed in place. */
export function upgradeRecipe(recipe: unknown): Upgraded {
  // What is no recipe at all is for validation to refuse.
  if (!isObject(recipe)) return { ok: true, recipe };
  const { version = 1 } = recipe;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return {
      ok: false,
      reason: `A recipe's version is a whole number from 1, not ${JSON.stringify(version)}.`
    };
  if (version > RECIPE_VERSION)
    return {
      ok: false,
      reason: `This recipe is of format ${version}, made by a newer Line True; this one reads up to ${RECIPE_VERSION}. Update Line True to open it.`
    };
  const upgraded = UPGRADES.slice(version - 1).reduce((before, upgrade) => upgrade(before), recipe);
  return { ok: true, recipe: { ...upgraded, version: RECIPE_VERSION } };
}
