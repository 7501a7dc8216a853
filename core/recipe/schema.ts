/**
 * The one definition of every setting: validates recipes, feeds the interface and the docs.
 * Extra keywords: `label` (interface), `unit`, `step` (smallest usual change).
 */
import type { CropSettings } from '../crop/compose.ts';
import { RATIO_PATTERN } from '../crop/ratios.ts';
import { MARK_KINDS, type Mark, WEIGHTS } from '../lines/mark.ts';
import type { KnownRectangle } from '../lines/known-rectangle.ts';
import { LENGTH_UNITS, type LengthUnit, type Measure } from '../lines/measure-lengths.ts';
import { type LensSettings, lensSchema } from './lens-schema.ts';
import { point } from './point-schema.ts';

export type { LensSettings } from './lens-schema.ts';

/** Most marks a frame may hold: far above use, far below what would slow the solver. */
export const MOST_MARKS = 500;

const holdBack = (label: string) =>
  ({ type: 'number', default: 0, minimum: 0, maximum: 100, step: 1, unit: '%', label }) as const;

export const linesSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true, label: 'Lines' },
    marks: {
      type: 'array',
      default: [],
      maxItems: MOST_MARKS,
      label: 'Marks',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'kind', 'a', 'b'],
        properties: {
          id: { type: 'string', minLength: 1, maxLength: 40 },
          kind: { enum: MARK_KINDS },
          a: point,
          b: point,
          found: { const: true },
          out: { const: true },
          recedes: { enum: ['left', 'right'] },
          weight: { type: 'number', minimum: WEIGHTS[0], maximum: WEIGHTS[1] }
        }
      }
    },
    roll: { type: 'number', default: 0, minimum: -45, maximum: 45, step: 0.05, unit: '°', label: 'Roll' },
    pitch: { type: 'number', default: 0, minimum: -60, maximum: 60, step: 0.05, unit: '°', label: 'Pitch' },
    yaw: { type: 'number', default: 0, minimum: -60, maximum: 60, step: 0.05, unit: '°', label: 'Yaw' },
    holdBackRoll: holdBack('Roll'),
    holdBackPitch: holdBack('Pitch'),
    holdBackYaw: holdBack('Yaw'),
    shiftX: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 0.5,
      unit: '%',
      label: 'Shift across',
      description: 'Moves the picture in its crop, in shares of the crop’s width; to the right above zero.'
    },
    shiftY: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 0.5,
      unit: '%',
      label: 'Shift up',
      description: 'Moves the picture in its crop, in shares of the crop’s height; upwards above zero.'
    },
    scale: { type: 'number', default: 100, minimum: 100, maximum: 400, step: 1, unit: '%', label: 'Scale' },
    stretch: {
      type: 'number',
      default: 0,
      minimum: -10,
      maximum: 10,
      step: 0.1,
      unit: '%',
      label: 'Height',
      description: 'Stretches the height of the true picture; the Proportion reading says so.'
    },
    rectangle: {
      default: null,
      label: 'Known rectangle',
      description:
        'Four corners of something whose width against height is known, clockwise from its upper left one.',
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['corners', 'ratio'],
          properties: {
            corners: { type: 'array', minItems: 4, maxItems: 4, items: point },
            ratio: { type: 'number', minimum: 0.02, maximum: 50 }
          }
        }
      ]
    },
    unit: { enum: LENGTH_UNITS, default: 'm', label: 'Unit of lengths' },
    measures: {
      type: 'array',
      default: [],
      maxItems: 100,
      label: 'Lengths',
      description: 'Lines on the trued front whose length is asked; one of them has a known length.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'a', 'b'],
        properties: {
          id: { type: 'string', minLength: 1, maxLength: 40 },
          a: point,
          b: point,
          known: { type: 'number', exclusiveMinimum: 0, maximum: 1e6 }
        }
      }
    }
  }
} as const;

const rectangle = {
  type: 'object',
  additionalProperties: false,
  required: ['x', 'y', 'width', 'height'],
  properties: {
    x: { type: 'number', minimum: -20, maximum: 20 },
    y: { type: 'number', minimum: -20, maximum: 20 },
    width: { type: 'number', minimum: 0.01, maximum: 40 },
    height: { type: 'number', minimum: 0.01, maximum: 40 }
  }
} as const;

export const cropSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true, label: 'Crop' },
    ratio: {
      type: 'string',
      pattern: RATIO_PATTERN,
      default: 'original',
      label: 'Ratio',
      description: '"free", "original", width:height, or an exact size in pixels such as 1200x630.'
    },
    rectangle: {
      default: null,
      label: 'Rectangle',
      description: 'Centre and size in upright coordinates; null is the largest of the ratio.',
      oneOf: [{ type: 'null' }, rectangle]
    },
    middle: {
      default: null,
      label: 'Middle',
      description:
        'Where the largest crop stays as near to as its size allows, in upright coordinates; null is the view’s.',
      oneOf: [
        { type: 'null' },
        { type: 'array', minItems: 2, maxItems: 2, items: { type: 'number', minimum: -20, maximum: 20 } }
      ]
    },
    own: {
      type: 'object',
      default: {},
      label: 'Crops by themselves',
      description: 'Crops that no longer follow the composition, by their ratio.',
      maxProperties: 30,
      propertyNames: { pattern: RATIO_PATTERN },
      additionalProperties: rectangle
    },
    blank: {
      type: 'boolean',
      default: false,
      label: 'Allow blank corners',
      description: 'The crop may reach beyond the real pixels; what is missing is black.'
    }
  }
} as const;

export const recipeSchema = {
  $id: 'recipe',
  type: 'object',
  additionalProperties: false,
  properties: {
    version: { const: 1, default: 1 },
    lens: lensSchema,
    lines: linesSchema,
    crop: cropSchema
  }
} as const;

export interface LinesSettings {
  enabled: boolean;
  marks: Mark[];
  roll: number;
  pitch: number;
  yaw: number;
  holdBackRoll: number;
  holdBackPitch: number;
  holdBackYaw: number;
  shiftX: number;
  shiftY: number;
  scale: number;
  stretch: number;
  rectangle: KnownRectangle | null;
  unit: LengthUnit;
  measures: Measure[];
}

export type { CropSettings } from '../crop/compose.ts';

/** A recipe with every setting present. */
export interface Recipe {
  version: 1;
  lens: LensSettings;
  lines: LinesSettings;
  crop: CropSettings;
}

/** A recipe as stored or handed in: any part may be missing and then has its default. */
export interface PartialRecipe {
  version?: 1;
  lens?: Partial<LensSettings>;
  lines?: Partial<LinesSettings>;
  crop?: Partial<CropSettings>;
}

export type StepName = 'lens' | 'lines' | 'crop';
