/** The Crop step. */
import { type Settings, type Step, touchedSettings } from '../../settings/step.ts';
import { RATIO_PATTERN } from '../../picture/output/ratios.ts';

/** A coordinate in the upright plane. */
const upright = { type: 'number', minimum: -20, maximum: 20 } as const;

const rectangle = {
  type: 'object',
  additionalProperties: false,
  required: ['x', 'y', 'width', 'height'],
  properties: {
    x: upright,
    y: upright,
    width: { type: 'number', minimum: 0.01, maximum: 40 },
    height: { type: 'number', minimum: 0.01, maximum: 40 }
  }
} as const;

export const cropSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Crop',
      description: 'Switched off, the largest frame of real pixels is shown.'
    },
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
        { type: 'array', minItems: 2, maxItems: 2, items: [upright, upright], additionalItems: false }
      ]
    },
    keepMarked: {
      type: 'boolean',
      default: false,
      label: 'Keep what is marked',
      description:
        'The largest crop is moved, and made a little smaller where that pays, so that it does not cut off what the marked lines belong to.'
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

export type CropSettings = Settings<typeof cropSchema>;

/** The ratio that a frame has in hand: its own where the step is switched off. */
export const ratioInHand = ({ enabled, ratio }: Pick<CropSettings, 'enabled' | 'ratio'>): string =>
  enabled ? ratio : 'original';

export const cropStep = {
  name: 'crop',
  schema: cropSchema,
  /** Truing up by itself asks to keep the building, and for nothing else. */
  itself: (crop) => crop.keepMarked && touchedSettings(cropSchema, crop, ['keepMarked']).length === 0,
  carries: { stays: [], sameShape: true, along: {}, groups: [] }
} as const satisfies Step<'crop', typeof cropSchema>;
