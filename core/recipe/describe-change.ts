/** What a step of a frame's history did, in words: "Exposure 0.0 → 0.7 EV". */
import equal from 'fast-deep-equal';
import type { Setting } from '../settings/step.ts';
import type { Recipe } from './recipe.ts';
import { type Definition, propertiesOf } from '../settings/nested.ts';
import { SET_BY_ITSELF } from '../settings/set-by-itself.ts';
import { type AreasSettings, letterOf } from '../steps/areas/step.ts';
import { EVERY_STEP, stepByName } from './steps.ts';

type Described = Setting & { enum?: readonly string[] };

function numberText(value: number, { step = 1 }: Described): string {
  const places = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  return value.toFixed(places).replace('-', '−');
}

function changeText(setting: Described, before: unknown, after: unknown): string {
  const { label, unit } = setting;
  if (typeof before === 'number' && typeof after === 'number')
    return `${label} ${numberText(before, setting)} → ${numberText(after, setting)}${unit ? ` ${unit}` : ''}`;
  if (typeof after === 'boolean') return `${label} ${after ? 'on' : 'off'}`;
  if (typeof before === 'string' && typeof after === 'string' && setting.enum)
    return `${label} ${before} → ${after}`;
  if (Array.isArray(before) && Array.isArray(after) && before.length !== after.length)
    return `${label} ${before.length} → ${after.length}`;
  if (typeof after === 'number') return `${label} ${numberText(after, setting)}${unit ? ` ${unit}` : ''}`;
  return after === null ? `${label} taken back` : label;
}

type Values = Readonly<Record<string, unknown>>;
const isValues = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The first setting that differs within things of a list or a group of settings, where one of those with a label does. */
function changeWithin(definition: Definition, before: unknown, after: unknown): string | null {
  if (Array.isArray(before) && Array.isArray(after)) {
    if (before.length !== after.length) return null;
    const at = after.findIndex((each, i) => !equal(each, before[i]));
    const { items } = definition;
    return at < 0 || !items || Array.isArray(items)
      ? null
      : changeWithin(items as Definition, before[at], after[at]);
  }
  if (!isValues(before) || !isValues(after)) return null;
  for (const [name, inside] of Object.entries(propertiesOf(definition, after))) {
    if (equal(before[name], after[name])) continue;
    const deeper = changeWithin(inside, before[name], after[name]);
    if (deeper) return deeper;
    if ('label' in inside) return changeText(inside as unknown as Described, before[name], after[name]);
  }
  return null;
}

/** Changes that are told one by one; more are counted. */
const MOST_TOLD = 2;

/** The area that differs, by its letter and its name. */
function areaChanged(before: Recipe, after: Recipe): string {
  const [was, is] = [before, after].map(({ areas }) => (areas as unknown as AreasSettings).list);
  const at = is.findIndex((area, i) => !equal(area, was[i]));
  return at < 0 ? 'Areas' : `Area ${letterOf(at)}${is[at].name ? `, ${is[at].name}` : ''}`;
}

const labelOf = (name: string): string => {
  const [step, setting] = name.split('.');
  return stepByName(step)!.schema.properties[setting].label;
};

/** The change from one recipe to another, in words; of a change of many settings the first, and how many more. */
export function describeChange(before: Recipe, after: Recipe): string {
  const changes: string[] = [];
  for (const { name, schema } of EVERY_STEP) {
    const { label: step } = schema.properties.enabled;
    const [was, is] = [before[name], after[name]] as unknown as Record<string, unknown>[];
    for (const [key, setting] of Object.entries(schema.properties) as [string, Described][]) {
      if (key === SET_BY_ITSELF || equal(was[key], is[key])) continue;
      if (key === 'enabled') changes.push(`${step} ${is[key] ? 'on' : 'off'}`);
      else {
        const within = changeWithin(setting as Definition, was[key], is[key]);
        const thing = name === 'areas' && key === 'list' ? areaChanged(before, after) : setting.label;
        changes.push(within ? `${thing}: ${within}` : changeText(setting, was[key], is[key]));
      }
    }
  }
  const turned = (names: readonly string[], others: readonly string[], word: string): string[] =>
    names.filter((name) => !others.includes(name)).map((name) => `${labelOf(name)} ${word}`);
  changes.push(...turned(after.off, before.off, 'off'), ...turned(before.off, after.off, 'on again'));
  if (before.rendition !== after.rendition) changes.unshift('Rendered anew');
  if (changes.length === 0) return 'Nothing';
  const told = changes.slice(0, MOST_TOLD).join(', ');
  const more = changes.length - MOST_TOLD;
  return more > 0 ? `${told} and ${more} more` : told;
}
