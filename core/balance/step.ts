/** The Colour step. */
import { type Settings, type Step, touchedSettings } from '../settings/step.ts';

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
    }
  }
} as const;

export type ColourSettings = Settings<typeof colourSchema>;

export const coloursAnything = (settings: ColourSettings): boolean =>
  settings.enabled && touchedSettings(colourSchema, settings).length > 0;

export const colourStep = {
  name: 'colour',
  schema: colourSchema,
  itself: () => false,
  carries: { stays: [], sameShape: false, along: {} }
} as const satisfies Step<'colour', typeof colourSchema>;
