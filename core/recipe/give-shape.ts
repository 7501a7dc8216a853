/** Settings of the whole frame that are moved into an area, to act where its shape says. */
import { areaColourSchema, areaFinishSchema, areaToneSchema } from '../steps/areas/step.ts';
import { type Recipe, completeRecipe } from './recipe.ts';
import { switched, touchedOf, withNeutral } from './switched-off.ts';
import { switchOf } from './switches.ts';
import type { StepName } from './steps.ts';

/** The settings of steps that an area has, too. */
const SHARED: readonly (readonly [StepName, readonly string[]])[] = [
  ['tone', Object.keys(areaToneSchema.properties)],
  // Hue and strength of a whole step's colours are other settings by the same name.
  ['colour', Object.keys(areaColourSchema.properties).filter((name) => name !== 'hue')],
  ['finish', Object.keys(areaFinishSchema.properties)]
];
export const CAN_MOVE: ReadonlySet<string> = new Set(
  SHARED.flatMap(([step, names]) => names.map((name) => switchOf(step, name)))
);

/** Those of some settings that are set and can be moved into an area. */
export const movable = (recipe: Recipe, names: readonly string[]): string[] =>
  touchedOf(recipe, names).filter((name) => CAN_MOVE.has(name));

/** A recipe with settings moved into a new area, whose shape is empty yet. `id`: of the area and its shape. */
export function withShape(recipe: Recipe, names: readonly string[], id: string): Recipe {
  const moved = movable(recipe, names);
  if (moved.length === 0) return recipe;
  const settings: Record<string, Record<string, unknown>> = {};
  for (const [step, name] of moved.map((each) => each.split('.') as [StepName, string]))
    (settings[step] ??= {})[name] = (recipe[step] as unknown as Record<string, unknown>)[name];
  const added = completeRecipe({
    areas: { shapes: [{ id }], list: [{ id, shape: id, settings }] }
  } as never).areas;
  const { shapes, list } = recipe.areas;
  const areas = {
    ...recipe.areas,
    enabled: true,
    shapes: [...shapes, ...added.shapes],
    list: [...list, ...added.list]
  };
  return { ...switched(withNeutral(recipe, moved), moved, false), areas } as Recipe;
}
