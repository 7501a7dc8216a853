/** The Colour step. */
import type { Settings, Step } from '../settings/step.ts';

export const colourSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true, label: 'Colour' },
    warmth: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 1,
      label: 'Warmth',
      description: 'White balance along daylight, from as shot: above zero the picture is warmer.'
    },
    tint: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 1,
      label: 'Tint',
      description:
        'White balance across daylight, from as shot: above zero towards magenta, below towards green.'
    },
    saturation: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 1,
      label: 'Saturation',
      description: 'Chroma of all colours; -100 leaves none.'
    },
    vibrance: {
      type: 'number',
      default: 0,
      minimum: -100,
      maximum: 100,
      step: 1,
      label: 'Vibrance',
      description: 'Chroma of what is pale, most of what is palest; skin, brick and wood are spared.'
    }
  }
} as const;

export type ColourSettings = Settings<typeof colourSchema>;

export const colourStep = {
  name: 'colour',
  schema: colourSchema,
  itself: () => false,
  carries: { stays: [], sameShape: false, along: {} }
} as const satisfies Step<'colour', typeof colourSchema>;
