/**
 * Recipes of earlier formats, brought up to date step by step when they are read. Each step only touches what its format
 * had otherwise, so that a recipe without a version passes through all of them.
 */

/** The format that recipes are written in. */
export const RECIPE_VERSION = 2;

type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Format 1 held all angles back by one share. */
function holdBackEachAngle(recipe: Json): Json {
  if (!isObject(recipe.lines) || !('holdBack' in recipe.lines)) return recipe;
  const { holdBack, ...lines } = recipe.lines;
  const each = { holdBackRoll: holdBack, holdBackPitch: holdBack, holdBackYaw: holdBack };
  return { ...recipe, lines: { ...each, ...lines } };
}

/** The n-th leads from format n + 1 to the next. */
const UPGRADES: readonly ((recipe: Json) => Json)[] = [holdBackEachAngle];

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
