/** What one frame gives to another: a whole step, but for what belongs to the picture it was made on. */
import type { PartialRecipe } from './recipe.ts';
import { givenBy, takenOn } from './switched-off.ts';
import { SET_BY_ITSELF } from '../settings/set-by-itself.ts';
import { EVERY_STEP, type StepName, stepByName } from './steps.ts';

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
 * The recipe `target` with a step of `source` in place of its own. Replaced whole: what the source leaves at its default is to be
 * default here too.
 */
export function carryOver(source: PartialRecipe, target: PartialRecipe, name: StepName): PartialRecipe {
  const [from, to] = [givenBy(source), takenOn(target, name)];
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

/** A step, or a group of its settings: `tone`, `tone.curve`. */
export type CarriedPart = StepName | `${StepName}.${string}`;

/** All that can be carried over. */
export const CARRIED_PARTS: readonly CarriedPart[] = EVERY_STEP.flatMap(({ name, carries }) => [
  name,
  ...carries.groups.map((group): CarriedPart => `${name}.${group.name}`)
]);

/**
 * The recipe `target` with a group of settings of `source` in place of its own; all else of the step stays. A step that is off here
 * and on there is switched on: else the group would act on nothing.
 */
function carryGroup(
  source: PartialRecipe,
  target: PartialRecipe,
  name: StepName,
  settings: readonly string[]
): PartialRecipe {
  const [from, to] = [givenBy(source), takenOn(target, name, settings)];
  const [given, own] = [from[name] ?? {}, to[name] ?? {}] as Values[];
  const kept = Object.fromEntries(Object.entries(own).filter(([setting]) => !settings.includes(setting)));
  const on = kept.enabled === false && given.enabled !== false ? { enabled: true } : {};
  const marks = kept[SET_BY_ITSELF] as readonly string[] | undefined;
  // What comes from elsewhere was not set by itself here.
  const unmarked = marks ? { [SET_BY_ITSELF]: marks.filter((setting) => !settings.includes(setting)) } : {};
  return { ...to, [name]: { ...kept, ...on, ...unmarked, ...picked(given, settings) } };
}

/** The recipe `to` with a part of `from` in place of its own. */
export function carryPart(from: PartialRecipe, to: PartialRecipe, part: CarriedPart): PartialRecipe {
  const [name, group] = part.split('.') as [StepName, string | undefined];
  const settings = stepByName(name)!.carries.groups.find((each) => each.name === group)?.settings;
  return settings ? carryGroup(from, to, name, settings) : carryOver(from, to, name);
}
