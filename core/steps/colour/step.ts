/** The Colour step. */
import { SET_BY_ITSELF, isByItself, setByItselfSetting } from '../../settings/set-by-itself.ts';
import { KELVIN_RANGE } from '../../optics/camera-white.ts';
import { percent } from '../../settings/percent-schema.ts';
import { point } from '../../settings/point-schema.ts';
import { FILTERS } from './filters.ts';
import type { Settings, Step } from '../../settings/step.ts';

const about = (label: string, description: string, most = 100) =>
  ({ type: 'number', default: 0, minimum: -most, maximum: most, step: 1, label, description }) as const;
const weight = (label: string, usual: number) =>
  ({
    type: 'number',
    default: usual,
    minimum: -200,
    maximum: 300,
    fine: [-50, 150],
    step: 1,
    unit: '%',
    label,
    description: 'How much of this light the grey is made of.'
  }) as const;
const zone = (label: string) =>
  ({
    type: 'object',
    default: { hue: 0, chroma: 0, light: 0, saturation: 0 },
    label,
    description: 'A colour that is laid over this zone, its lightness, and the strength of its own colours.',
    additionalProperties: false,
    required: ['hue', 'chroma', 'light', 'saturation'],
    properties: {
      hue: { type: 'number', minimum: 0, maximum: 360 },
      chroma: { type: 'number', minimum: 0, maximum: 100 },
      light: { type: 'number', minimum: -100, maximum: 100 },
      saturation: { type: 'number', minimum: -100, maximum: 100 }
    }
  }) as const;
const tint = {
  type: 'object',
  additionalProperties: false,
  required: ['a', 'b'],
  properties: {
    a: { type: 'number', minimum: -0.5, maximum: 0.5 },
    b: { type: 'number', minimum: -0.5, maximum: 0.5 }
  }
} as const;

/** Places that are picked as grey together. */
export const MOST_NEUTRALS = 12;
/** Nodes on the strip of hues: far more than hands place. */
export const MOST_NODES = 24;

export const colourSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Colour',
      description: 'Switched off, colours are as shot.'
    },
    setByItself: setByItselfSetting,
    kelvin: {
      type: ['number', 'null'],
      default: null,
      minimum: KELVIN_RANGE[0],
      maximum: KELVIN_RANGE[1],
      unit: 'K',
      label: 'Temperature',
      description: 'Of the light, for raw files whose camera is known; without one it is as shot.'
    },
    kelvinTint: {
      type: 'number',
      default: 0,
      minimum: -150,
      maximum: 150,
      step: 1,
      label: 'Tint',
      description: 'Of the light, with a temperature: above zero the picture is more magenta, below greener.'
    },
    neutrals: {
      type: 'array',
      default: [],
      maxItems: MOST_NEUTRALS,
      label: 'Neutral places',
      description:
        'Places of the frame that were picked as grey: their mean is what white balance makes neutral.',
      items: point
    },
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
    },
    skyStrength: about('Sky strength', 'Strength and depth of the blues of skies, in one.'),
    warmStrength: about('Warm colours', 'Strength of brick, skin, wood and lamplight, in one.'),
    hues: {
      type: 'array',
      default: [],
      maxItems: MOST_NODES,
      label: 'Hues',
      description: 'Nodes on the strip of hues: each turns, strengthens and lightens the colours about it.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['at', 'hue', 'chroma', 'light'],
        properties: {
          at: { type: 'number', minimum: 0, maximum: 360 },
          hue: { type: 'number', minimum: -60, maximum: 60 },
          chroma: { type: 'number', minimum: -100, maximum: 100 },
          light: { type: 'number', minimum: -100, maximum: 100 }
        }
      }
    },
    zoneShadows: zone('Shadows'),
    zoneMiddle: zone('Middle'),
    zoneHighlights: zone('Highlights'),
    zoneAll: zone('All'),
    zonesAmount: percent('Amount', 100, 'How much of the colours of all zones is laid on.'),
    zonesMeet: about('Meet', 'Where the zones meet: above zero more counts as highlights.'),
    zonesBlend: percent('Softness', 50, 'How far the zones reach into each other.'),
    cast: {
      type: 'number',
      default: 0,
      minimum: 0,
      maximum: 150,
      step: 1,
      unit: '%',
      label: 'Cast',
      description: 'How much of the casts that were found is taken away.'
    },
    castFound: {
      type: 'object',
      default: { shadows: { a: 0, b: 0 }, middle: { a: 0, b: 0 }, highlights: { a: 0, b: 0 } },
      label: 'Casts found',
      description: 'What nearly grey places have of colour, zone by zone.',
      additionalProperties: false,
      required: ['shadows', 'middle', 'highlights'],
      properties: { shadows: tint, middle: tint, highlights: tint }
    },
    redHue: about('Red, hue', 'Above zero towards yellow.'),
    redSaturation: about('Red, saturation', 'How strong red is.'),
    greenHue: about('Green, hue', 'Above zero towards cyan.'),
    greenSaturation: about('Green, saturation', 'How strong green is.'),
    blueHue: about('Blue, hue', 'Above zero towards magenta.'),
    blueSaturation: about('Blue, saturation', 'How strong blue is.'),
    look: {
      type: ['string', 'null'],
      default: null,
      maxLength: 60,
      label: 'Look',
      description: 'A table of colours that is laid over the picture last; null lays none.'
    },
    lookAmount: percent('Amount', 100, 'How much of the look is laid on.'),
    lookContrast: percent(
      'Its contrast',
      100,
      'How much of what the look does to light and dark is laid on.'
    ),
    lookColour: percent('Its colour', 100, 'How much of what the look does to colours is laid on.'),
    mono: {
      type: 'boolean',
      default: false,
      label: 'Black and white',
      description: 'Only grey is left; hues still lighten and darken it, and zones tone it.'
    },
    monoRed: weight('Red', FILTERS.none[0]),
    monoGreen: weight('Green', FILTERS.none[1]),
    monoBlue: weight('Blue', FILTERS.none[2])
  }
} as const;

export type HueNode = ColourSettings['hues'][number];
export type Zone = ColourSettings['zoneAll'];
export type ColourSettings = Settings<typeof colourSchema>;

export const colourStep = {
  name: 'colour',
  schema: colourSchema,
  itself: (settings) => isByItself(colourSchema, settings),
  carries: {
    stays: ['neutrals', SET_BY_ITSELF],
    sameShape: false,
    along: {},
    groups: [
      { name: 'balance', label: 'White balance', settings: ['kelvin', 'kelvinTint', 'warmth', 'tint'] },
      {
        name: 'saturation',
        label: 'Saturation',
        settings: ['saturation', 'vibrance', 'skyStrength', 'warmStrength']
      },
      { name: 'hues', label: 'Hues', settings: ['hues'] },
      {
        name: 'zones',
        label: 'Zones',
        settings: [
          'zoneShadows',
          'zoneMiddle',
          'zoneHighlights',
          'zoneAll',
          'zonesAmount',
          'zonesMeet',
          'zonesBlend'
        ]
      },
      { name: 'cast', label: 'Cast', settings: ['cast', 'castFound'] },
      {
        name: 'primaries',
        label: 'Primaries',
        settings: ['redHue', 'redSaturation', 'greenHue', 'greenSaturation', 'blueHue', 'blueSaturation']
      },
      { name: 'looks', label: 'Looks', settings: ['look', 'lookAmount', 'lookContrast', 'lookColour'] },
      { name: 'mono', label: 'Mono', settings: ['mono', 'monoRed', 'monoGreen', 'monoBlue'] }
    ]
  }
} as const satisfies Step<'colour', typeof colourSchema>;
