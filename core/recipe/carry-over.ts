/** What one frame gives to another: a whole step, but for what belongs to the picture it was made on. */
import type { PartialRecipe } from './recipe.ts';
import { type StepName, stepByName } from './steps.ts';

type Values = Readonly<Record<string, unknown>>;

const picked = (values: Values, names: readonly string[]): Values =>
  Object.fromEntries(Object.entries(values).filter(([name]) => names.includes(name)));

/** Things of a list, each with what the other frame has of it where that stays. */
export function withoutWhatStays(
  setting: string,
  value: unknown,
  other: unknown,
  stays: readonly string[]
): unknown {
  const names = stays
    .filter((each) => each.startsWith(`${setting}.`))
    .map((each) => each.slice(setting.length + 1));
  if (names.length === 0 || !Array.isArray(value)) return value;
  const others = (Array.isArray(other) ? other : []) as Values[];
  return (value as Values[]).map((thing) => {
    const given = Object.entries(thing).filter(([name]) => !names.includes(name));
    const kept = others.find(({ id }) => id === thing.id) ?? {};
    return { ...Object.fromEntries(given), ...picked(kept, names) };
  });
}

/**
 * The recipe `to` with a step of `from` in place of its own. Replaced whole: what the source leaves at its default is to be
 * default here too.
 */
export function carryOver(from: PartialRecipe, to: PartialRecipe, name: StepName): PartialRecipe {
  const { carries } = stepByName(name)!;
  const own = (to[name] ?? {}) as Values;
  const given = Object.entries(from[name] ?? {})
    .filter(([setting]) => !carries.stays.includes(setting))
    .map(([setting, value]) => [setting, withoutWhatStays(setting, value, own[setting], carries.stays)]);
  const carried: Record<string, unknown> = {
    ...to,
    [name]: { ...Object.fromEntries(given), ...picked(own, carries.stays) }
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
