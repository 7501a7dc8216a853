/** What one frame gives to another: a whole step, but for what belongs to the picture it was made on. */
import type { PartialRecipe } from './recipe.ts';
import { type StepName, stepByName } from './steps.ts';

type Values = Readonly<Record<string, unknown>>;

const picked = (values: Values, names: readonly string[]): Values =>
  Object.fromEntries(Object.entries(values).filter(([name]) => names.includes(name)));

/**
 * The recipe `to` with a step of `from` in place of its own. Replaced whole: what the source leaves at its default is to be
 * default here too.
 */
export function carryOver(from: PartialRecipe, to: PartialRecipe, name: StepName): PartialRecipe {
  const { carries } = stepByName(name)!;
  const given = Object.entries(from[name] ?? {}).filter(([setting]) => !carries.stays.includes(setting));
  const carried: Record<string, unknown> = {
    ...to,
    [name]: { ...Object.fromEntries(given), ...picked((to[name] ?? {}) as Values, carries.stays) }
  };
  for (const [other, settings] of Object.entries(carries.along)) {
    const values = picked((from[other as StepName] ?? {}) as Values, settings);
    const told = Object.fromEntries(
      Object.entries(values).filter(
        ([setting, value]) => value !== stepByName(other)!.schema.properties[setting].default
      )
    );
    if (Object.keys(told).length > 0) carried[other] = { ...(carried[other] as Values | undefined), ...told };
  }
  return carried as PartialRecipe;
}
