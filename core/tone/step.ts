/** The Tone step. */
import { type Settings, type Step, touchedSettings } from '../settings/step.ts';

/** Points of one curve: far more than hands place. */
const MOST_POINTS = 32;

const share = (label: string, description: string) =>
  ({ type: 'number', default: 0, minimum: -100, maximum: 100, step: 1, label, description }) as const;

const curve = (label: string, description: string) =>
  ({
    type: 'array',
    default: [],
    maxItems: MOST_POINTS,
    label,
    description,
    items: {
      type: 'object',
      additionalProperties: false,
      required: ['x', 'y'],
      properties: {
        x: { type: 'number', minimum: 0, maximum: 1 },
        y: { type: 'number', minimum: 0, maximum: 1 }
      }
    }
  }) as const;

export const RENDERINGS = ['plain', 'flat', 'soft', 'firm'] as const;
/** Curves, by what they act on. */
export const CURVES = ['curve', 'curveAll', 'curveRed', 'curveGreen', 'curveBlue'] as const;

export const toneSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: { type: 'boolean', default: true, label: 'Tone' },
    rendering: {
      enum: RENDERINGS,
      default: 'plain',
      label: 'Rendering',
      description: 'How a raw file’s light becomes a picture’s; "flat" leaves it linear.'
    },
    exposure: {
      type: 'number',
      default: 0,
      minimum: -5,
      maximum: 5,
      fine: [-3, 3],
      step: 0.05,
      unit: 'EV',
      label: 'Exposure'
    },
    recovery: {
      type: 'number',
      default: 0,
      minimum: 0,
      maximum: 100,
      step: 1,
      unit: '%',
      label: 'Recovery',
      description: 'Brings light above white back, at 100 % two stops of it.'
    },
    contrast: share('Contrast', 'About the middle grey, which stays.'),
    midtones: share('Midtones', 'Lightens or darkens the middle; at 100 by a stop.'),
    white: share('White', 'Where the lightest tones lie: at 100 a stop higher.'),
    black: share('Black', 'Where the darkest tones lie: lower below zero.'),
    curve: curve('Curve', 'On luminance: hue and saturation stay.'),
    curveAll: curve('Curve of all', 'On each colour alike.'),
    curveRed: curve('Curve of red', 'On red alone.'),
    curveGreen: curve('Curve of green', 'On green alone.'),
    curveBlue: curve('Curve of blue', 'On blue alone.')
  }
} as const;

export type ToneSettings = Settings<typeof toneSchema>;
export type CurveName = (typeof CURVES)[number];
export type CurvePoint = ToneSettings['curve'][number];

/** Whether the settings change anything. */
export const tonesAnything = (settings: ToneSettings): boolean =>
  settings.enabled && touchedSettings(toneSchema, settings).length > 0;

export const toneStep = {
  name: 'tone',
  schema: toneSchema,
  itself: () => false,
  carries: { stays: [], sameShape: false, along: {} }
} as const satisfies Step<'tone', typeof toneSchema>;
