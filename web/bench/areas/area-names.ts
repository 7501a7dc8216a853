/** What areas and the parts of their shapes are called by what they are. */
import type { FoundName } from '$core/steps/areas/parts/found.ts';
import type { Part } from '$core/steps/areas/parts/part.ts';
import type { Shape } from '$core/steps/areas/shape.ts';
import {
  type Area,
  areaColourSchema,
  areaFinishSchema,
  areaToneSchema,
  letterOf
} from '$core/steps/areas/step.ts';
import { touchedSettings } from '$core/settings/step.ts';

const KINDS: Record<Part['kind'], string> = {
  gradient: 'gradient',
  radial: 'radial',
  polygon: 'polygon',
  lasso: 'lasso',
  brush: 'brush',
  light: 'luminance range',
  colour: 'colour range',
  beside: 'beside a line',
  found: 'found'
};
const FOUND_NAMES: Record<FoundName, string> = { sky: 'sky', windows: 'windows' };

export function partName(part: Part): string {
  if (part.kind === 'found') return `${FOUND_NAMES[part.what]}, found`;
  return part.kind === 'polygon' && part.front ? 'front, from Lines' : KINDS[part.kind];
}

/** What a shape is, in a word or two. */
function shapeName({ parts, invert }: Shape): string {
  const [first] = parts;
  if (!first) return invert ? 'all of it' : 'nothing drawn';
  const name = first.kind === 'found' ? FOUND_NAMES[first.what] : partName(first);
  return invert ? `all but ${name}` : name;
}

const SCHEMAS = [
  ['tone', areaToneSchema],
  ['colour', areaColourSchema],
  ['finish', areaFinishSchema]
] as const;

/** The first thing that an area does. */
function doneBy({ revision, sky, settings }: Area): string {
  if (revision) return `revision ${revision.letter}`;
  if (sky) return 'another sky';
  for (const [of, schema] of SCHEMAS) {
    const [first] = touchedSettings(schema, settings[of] as never);
    if (first) return (schema.properties as Record<string, { label: string }>)[first].label.toLowerCase();
  }
  return '';
}

/** What an area is called in lists: its own name, or what it is and does. */
export function areaName(area: Area, shape: Shape | undefined): string {
  if (area.name) return area.name;
  const done = doneBy(area);
  return [shape ? shapeName(shape) : 'no shape', ...(done ? [done] : [])].join(', ');
}

/** What an area is called where it is spoken of alone. */
export const nameOf = ({ name }: Area, index: number): string => name || `Area ${letterOf(index)}`;
