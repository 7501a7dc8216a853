/** The Tone step. */
import { SET_BY_ITSELF, isByItself, setByItselfSetting } from '../../settings/set-by-itself.ts';
import { percent } from '../../settings/percent-schema.ts';
import { type Settings, type Step, defaultsOf, touchedSettings } from '../../settings/step.ts';

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

/** Ends and middle of a channel, all in shares of what is shown. */
const levels = (label: string) =>
  ({
    type: 'object',
    default: { black: 0, middle: 1, white: 1, outBlack: 0, outWhite: 1 },
    label,
    description: 'What becomes black, middle and white, and how dark and light these are shown.',
    additionalProperties: false,
    required: ['black', 'middle', 'white', 'outBlack', 'outWhite'],
    properties: {
      black: { type: 'number', minimum: 0, maximum: 1 },
      middle: { type: 'number', minimum: 0.1, maximum: 10 },
      white: { type: 'number', minimum: 0, maximum: 1 },
      outBlack: { type: 'number', minimum: 0, maximum: 1 },
      outWhite: { type: 'number', minimum: 0, maximum: 1 }
    }
  }) as const;

/** Stops below white of the darkest band, and above it of the lightest. */
export const DARKEST_BAND = -14;
export const LIGHTEST_BAND = 4;

export const RENDERINGS = ['plain', 'flat', 'soft', 'firm', 'range'] as const;
/** Levels, by what they act on. */
export const LEVELS = ['levels', 'levelsRed', 'levelsGreen', 'levelsBlue'] as const;
/** Curves, by what they act on. */
export const CURVES = ['curve', 'curveAll', 'curveRed', 'curveGreen', 'curveBlue', 'curveLightness'] as const;

export const toneSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Tone',
      description: 'Switched off, light and dark are as shot.'
    },
    setByItself: setByItselfSetting,
    rendering: {
      enum: RENDERINGS,
      default: 'plain',
      label: 'Rendering',
      description:
        'How a raw file’s light becomes a picture’s, with the middle grey alike in all; "flat" has the least contrast, "range" fits a high range in.'
    },
    exposure: {
      type: 'number',
      default: 0,
      minimum: -5,
      maximum: 5,
      fine: [-3, 3],
      step: 0.05,
      unit: 'EV',
      label: 'Exposure',
      description: 'Lets in more light, or less, as the shutter would have.'
    },
    recovery: percent('Recovery', 0, 'Brings light above white back, at 100 % two stops of it.'),
    rangeWhite: {
      type: 'number',
      default: 4,
      minimum: 0.5,
      maximum: 10,
      step: 0.1,
      unit: 'EV',
      label: 'White of range',
      description: 'Stops above the middle grey that become white.'
    },
    rangeBlack: {
      type: 'number',
      default: -8,
      minimum: -14,
      maximum: -1,
      step: 0.1,
      unit: 'EV',
      label: 'Black of range',
      description: 'Stops about the middle grey that become black.'
    },
    rangeMiddle: {
      type: 'number',
      default: 0,
      minimum: -3,
      maximum: 3,
      step: 0.1,
      unit: 'EV',
      label: 'Middle of range',
      description: 'Stops about the middle grey that are shown as it.'
    },
    highlights: share(
      'Highlights',
      'Lightens or darkens broad light parts; edges and what is fine in them stay as they are.'
    ),
    shadows: share(
      'Shadows',
      'Lightens or darkens broad dark parts; edges and what is fine in them stay as they are.'
    ),
    contrast: share('Contrast', 'About the middle grey, which stays.'),
    midtones: share('Midtones', 'Lightens or darkens the middle; at 100 by a stop.'),
    white: share('White', 'Where the lightest tones lie: at 100 a stop higher.'),
    black: share('Black', 'Where the darkest tones lie: lower below zero.'),
    bands: {
      type: 'array',
      default: [],
      maxItems: 24,
      label: 'Bands',
      description: 'Broad parts by their luminance, a stop each, lighter or darker by up to two stops.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['stop', 'change'],
        properties: {
          stop: { type: 'integer', minimum: DARKEST_BAND, maximum: LIGHTEST_BAND },
          change: { type: 'number', minimum: -2, maximum: 2 }
        }
      }
    },
    fine: share('Fine', 'Local contrast of the finest: joints, leaves, fabric.'),
    middle: share('Middle', 'Local contrast of bricks, glazing bars, furniture.'),
    broad: share('Broad', 'Local contrast of whole walls and clouds.'),
    haze: percent('Haze', 0, 'Takes away the light that the air adds to what is far; its own colour stays.'),
    hazeDepth: {
      ...percent('From', 0, 'How near haze is taken away: at 0 % only from what is farthest.'),
      default: 50
    },
    levels: levels('Levels'),
    levelsRed: levels('Levels of red'),
    levelsGreen: levels('Levels of green'),
    levelsBlue: levels('Levels of blue'),
    curve: curve('Curve', 'On luminance: hue and saturation stay.'),
    curveAll: curve('Curve of all', 'On each colour alike.'),
    curveRed: curve('Curve of red', 'On red alone.'),
    curveGreen: curve('Curve of green', 'On green alone.'),
    curveBlue: curve('Curve of blue', 'On blue alone.'),
    curveLightness: curve(
      'Curve of lightness',
      'On lightness as eyes judge it: colours keep their strength rather than gain it.'
    )
  }
} as const;

export type ToneSettings = Settings<typeof toneSchema>;
export type LevelsName = (typeof LEVELS)[number];
export type Levels = ToneSettings['levels'];
export type CurveName = (typeof CURVES)[number];
export type CurvePoint = ToneSettings['curve'][number];

/** Local contrasts, by their sizes. */
export const LOCAL = ['fine', 'middle', 'broad'] as const;

/** Whether the settings ask for the details of the frame. */
export const localContrast = (tone: Pick<ToneSettings, (typeof LOCAL)[number]>): boolean =>
  LOCAL.some((name) => tone[name] !== 0);

/** Whether the settings ask for the broad light of the frame. */
export const looksAbout = ({ enabled, bands, ...tone }: ToneSettings): boolean =>
  enabled &&
  (bands.some(({ change }) => change !== 0) ||
    (['highlights', 'shadows', 'fine', 'middle', 'broad', 'haze'] as const).some((name) => tone[name] !== 0));

/** Whether the settings change anything. */
export const tonesAnything = (settings: ToneSettings): boolean =>
  settings.enabled && touchedSettings(toneSchema, settings, [SET_BY_ITSELF]).length > 0;

/** Every setting at its default. */
export const untouchedTone = (): ToneSettings => defaultsOf(toneSchema) as ToneSettings;

export const toneStep = {
  name: 'tone',
  schema: toneSchema,
  itself: (settings) => isByItself(toneSchema, settings),
  carries: {
    stays: [SET_BY_ITSELF],
    sameShape: false,
    along: {},
    groups: [
      {
        name: 'light',
        label: 'Light',
        settings: [
          'rendering',
          'exposure',
          'recovery',
          'rangeWhite',
          'rangeBlack',
          'rangeMiddle',
          'highlights',
          'shadows',
          'contrast',
          'midtones',
          'white',
          'black'
        ]
      },
      { name: 'bands', label: 'Bands', settings: ['bands'] },
      { name: 'local', label: 'Local contrast', settings: ['fine', 'middle', 'broad', 'haze', 'hazeDepth'] },
      { name: 'levels', label: 'Levels', settings: ['levels', 'levelsRed', 'levelsGreen', 'levelsBlue'] },
      {
        name: 'curve',
        label: 'Curve',
        settings: ['curve', 'curveAll', 'curveRed', 'curveGreen', 'curveBlue', 'curveLightness']
      }
    ]
  }
} as const satisfies Step<'tone', typeof toneSchema>;
