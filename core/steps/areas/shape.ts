/** A shape: where an area acts, built from parts that meet one after another. */
import type { Settings, SettingsSchema } from '../../settings/step.ts';
import { id } from '../../settings/id-schema.ts';
import { percent } from '../../settings/percent-schema.ts';
import { PART_SCHEMAS, type Part } from './parts/part.ts';
import { STOPS, fade, stop } from './parts/ranges.ts';

/** Parts of one shape, and shapes of one frame. */
export const MOST_PARTS = 40;
export const MOST_SHAPES = 64;

export const shapeProperties = {
  parts: {
    type: 'array',
    default: [],
    maxItems: MOST_PARTS,
    label: 'Parts',
    description: 'What the shape is built from, one after another.',
    items: { oneOf: PART_SCHEMAS }
  },
  grow: {
    type: 'number',
    default: 0,
    minimum: -100,
    maximum: 100,
    fine: [-30, 30],
    step: 0.5,
    unit: '‰',
    label: 'Grow',
    description: 'Moves the edge out, or in below zero, in thousandths of half the diagonal.'
  },
  feather: {
    type: 'number',
    default: 0,
    minimum: 0,
    maximum: 200,
    fine: [0, 60],
    step: 0.5,
    unit: '‰',
    label: 'Feather',
    description: 'Softens the whole edge, in thousandths of half the diagonal.'
  },
  radius: {
    type: 'number',
    default: 0,
    minimum: 0,
    maximum: 100,
    fine: [0, 40],
    step: 0.5,
    unit: '‰',
    label: 'Refine',
    description:
      'Lays the edge along those of the picture that are so near, in thousandths of half the diagonal: branches, railings, roofs.'
  },
  sensitivity: percent('Sensitivity', 60, 'How faint an edge of the picture the refined edge follows.'),
  invert: {
    type: 'boolean',
    default: false,
    label: 'Invert',
    description: 'All but the shape.'
  },
  limited: {
    type: 'boolean',
    default: false,
    label: 'Only these tones',
    description: 'Leaves out what is darker or lighter than a range of tones.'
  },
  low: stop('Darkest', STOPS[0], 'The darkest of the tones that are meant, about white.'),
  high: stop('Lightest', STOPS[1], 'The lightest of the tones that are meant, about white.'),
  soft: fade
} as const;

interface MaskSchema extends SettingsSchema {
  readonly properties: typeof shapeProperties;
}

/** All that a mask is made by. */
export type MaskSpec = Omit<Settings<MaskSchema>, 'parts'> & {
  parts: readonly Part[];
  /** The mask knows the colours of what lies inside of it. */
  colours?: true;
};
export type Shape = Omit<MaskSpec, 'colours'> & { id: string };

export const shapeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id'],
  properties: { id, ...shapeProperties }
} as const;

const specs = [new WeakMap<Shape, MaskSpec>(), new WeakMap<Shape, MaskSpec>()] as const;

/** A shape without its name: two that are drawn alike share a mask. */
export function maskSpecOf(shape: Shape, colours = false): MaskSpec {
  const kept = specs[colours ? 1 : 0];
  const known = kept.get(shape);
  if (known) return known;
  const own: Partial<Shape> = { ...shape };
  delete own.id;
  const spec = { ...own, ...(colours && { colours }) } as MaskSpec;
  kept.set(shape, spec);
  return spec;
}
