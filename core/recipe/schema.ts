/**
 * The one definition of every setting: validates recipes, feeds the interface and the docs.
 * Extra keywords: `label` (interface), `unit`, `step` (smallest usual change).
 */
import { RATIOS, type RatioName } from '../crop/ratios.ts';
import type { Rectangle } from '../crop/rectangle.ts';
import type { Mark } from '../lines/mark.ts';
import { type LensSettings, lensSchema } from './lens-schema.ts';
import { point } from './point-schema.ts';

export type { LensSettings } from './lens-schema.ts';

/** Most marks a frame may hold: far above use, far below what would slow the solver. */
export const MOST_MARKS = 500;

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
          kind: { enum: ['plumb', 'level'] },
          a: point,
          b: point,
          found: { const: true }
        }
      }
    },
    roll: { type: 'number', default: 0, minimum: -45, maximum: 45, step: 0.05, unit: '°', label: 'Roll' },
    pitch: { type: 'number', default: 0, minimum: -60, maximum: 60, step: 0.05, unit: '°', label: 'Pitch' },
    yaw: { type: 'number', default: 0, minimum: -60, maximum: 60, step: 0.05, unit: '°', label: 'Yaw' },
    holdBack: { type: 'number', default: 0, minimum: 0, maximum: 100, step: 1, unit: '%', label: 'Hold back' }
  }
} as const;

export const cropSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true, label: 'Crop' },
    ratio: { enum: RATIOS, default: 'original', label: 'Ratio' },
    rectangle: {
      default: null,
      label: 'Rectangle',
      description: 'Centre and size in upright coordinates; null is the largest of the ratio.',
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['x', 'y', 'width', 'height'],
          properties: {
            x: { type: 'number', minimum: -20, maximum: 20 },
            y: { type: 'number', minimum: -20, maximum: 20 },
            width: { type: 'number', minimum: 0.01, maximum: 40 },
            height: { type: 'number', minimum: 0.01, maximum: 40 }
          }
        }
      ]
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
  holdBack: number;
}

export interface CropSettings {
  enabled: boolean;
  ratio: RatioName;
  rectangle: Rectangle | null;
}

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
