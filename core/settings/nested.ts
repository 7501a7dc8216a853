/**
 * Settings within settings: a list of things that each have settings of their own, or a group of them. What is missing is filled
 * in at every depth, and what was whole stays the very object that it was.
 */

/** As much of JSON Schema as tells what a setting holds. */
export interface Definition {
  readonly type?: string | readonly string[];
  readonly default?: unknown;
  readonly properties?: Readonly<Record<string, Definition>>;
  readonly items?: Definition | readonly Definition[];
  readonly oneOf?: readonly Definition[];
  readonly const?: unknown;
}

/** Where a setting stands within those of a step: names of settings, and places in lists. */
export type SettingPath = readonly (string | number)[];

type Values = Readonly<Record<string, unknown>>;

const isValues = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The one of several kinds that an object is of, told by its `kind` where they have one; null: none. */
const kindOf = ({ oneOf }: Definition, value: Values = {}): Definition | null =>
  oneOf?.find(({ properties }) => properties && (!properties.kind || properties.kind.const === value.kind)) ??
  null;

/** What a thing holds: of several kinds the one that it is of. */
export const propertiesOf = (definition: Definition, value: unknown): NonNullable<Definition['properties']> =>
  definition.properties ?? kindOf(definition, isValues(value) ? value : {})?.properties ?? {};

/** A value with every setting in it that has a default and is missing. */
export function completed(definition: Definition, value: unknown): unknown {
  if (Array.isArray(value)) {
    const { items } = definition;
    if (!items || Array.isArray(items)) return value;
    const made = value.map((each) => completed(items as Definition, each));
    return made.every((each, i) => each === value[i]) ? value : made;
  }
  if (!isValues(value)) return value;
  const properties = propertiesOf(definition, value);
  const found: [string, unknown][] = [];
  for (const [name, each] of Object.entries(properties)) {
    if (name in value) {
      const made = completed(each, value[name]);
      if (made !== value[name]) found.push([name, made]);
    } else if ('default' in each) found.push([name, completed(each, structuredClone(each.default))]);
  }
  return found.length === 0 ? value : { ...value, ...Object.fromEntries(found) };
}

/** The definition of a setting; null where there is none. `value` tells things of several kinds apart. */
export function definitionAt(definition: Definition, path: SettingPath, value?: unknown): Definition | null {
  const [first, ...rest] = path;
  if (first === undefined) return definition;
  const inside: Definition | undefined =
    typeof first === 'number'
      ? Array.isArray(definition.items)
        ? (definition.items as readonly Definition[])[first]
        : (definition.items as Definition | undefined)
      : propertiesOf(definition, value)[first];
  return inside ? definitionAt(inside, rest, valueAt(value, [first])) : null;
}

/** The value of a setting; undefined where there is none. */
export const valueAt = (settings: unknown, path: SettingPath): unknown =>
  path.reduce<unknown>(
    (value, step) =>
      typeof value === 'object' && value !== null
        ? (value as Record<string | number, unknown>)[step]
        : undefined,
    settings
  );

/** Settings with another value in one place; all that does not hold it stays the very object that it was. */
export function withValueAt<T>(settings: T, path: SettingPath, value: unknown): T {
  const [first, ...rest] = path;
  if (first === undefined) return value as T;
  const inside = withValueAt(valueAt(settings, [first]), rest, value);
  if (Array.isArray(settings)) return settings.with(first as number, inside) as T;
  return { ...settings, [first]: inside };
}
