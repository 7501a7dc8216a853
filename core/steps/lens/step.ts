/** The Lens step. */
import { id } from '../../settings/id-schema.ts';
import { point } from '../../settings/point-schema.ts';
import { type Settings, type Step, touchedSettings } from '../../settings/step.ts';
import { LENS_PROJECTIONS } from '../../optics/lens-projection.ts';

/** Most curves and points of one: far above use, far below what would slow the solver. */
const MOST_CURVES = 60;
export const MOST_CURVE_POINTS = 200;

const terms = (maxItems: number, limit: number) =>
  ({ type: 'array', maxItems, items: { type: 'number', minimum: -limit, maximum: limit } }) as const;
const percent = (label: string, description: string) =>
  ({
    type: 'number',
    default: 100,
    minimum: 0,
    maximum: 150,
    step: 1,
    unit: '%',
    label,
    description
  }) as const;
const hue = (label: string, degrees: number, description: string) =>
  ({
    type: 'number',
    default: degrees,
    minimum: 0,
    maximum: 360,
    step: 1,
    unit: '°',
    label,
    description
  }) as const;
const range = (label: string, description: string) =>
  ({
    type: 'number',
    default: 70,
    minimum: 10,
    maximum: 180,
    step: 1,
    unit: '°',
    label,
    description
  }) as const;
const fringe = (label: string, description: string) =>
  ({ type: 'number', default: 0, minimum: 0, maximum: 100, step: 1, unit: '%', label, description }) as const;
const lateral = (label: string, description: string) =>
  ({
    type: 'number',
    default: 0,
    minimum: -3,
    maximum: 3,
    fine: [-1.5, 1.5],
    step: 0.01,
    unit: '‰',
    label,
    description
  }) as const;

export const lensSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Lens',
      description: 'Switched off, distortion, colour edges and falloff stay as shot.'
    },
    profile: {
      type: 'string',
      default: 'auto',
      pattern: '^[a-z0-9-]{1,80}$',
      label: 'Profile',
      description:
        '"auto" takes the profile that matches the file, "file" the file\'s own corrections, "none" none; else a profile id.'
    },
    focalLength: {
      type: ['number', 'null'],
      default: null,
      exclusiveMinimum: 0,
      maximum: 5000,
      unit: 'mm',
      label: 'Focal length',
      description: 'For lenses that write none; null takes what the file or the profile says.'
    },
    solvedFocal: {
      type: ['number', 'null'],
      default: null,
      minimum: 0.1,
      maximum: 50,
      label: 'Focal length from the lines',
      description: 'In half diagonals of the frame, where marks told it; a focal length by hand comes first.'
    },
    projection: {
      enum: ['profile', ...LENS_PROJECTIONS],
      default: 'profile',
      label: 'Projection',
      description: 'How the lens lays angles onto the sensor; "profile" takes what the profile says.'
    },
    distortion: percent('Distortion', "How much of the profile's distortion is taken out."),
    bow: {
      type: 'number',
      default: 0,
      minimum: -20,
      maximum: 20,
      fine: [-12, 12],
      step: 0.1,
      unit: '%',
      label: 'Bow',
      description: 'The bow of the glass at the corners: below zero barrel, above pincushion.'
    },
    wave: {
      type: 'number',
      default: 0,
      minimum: -5,
      maximum: 5,
      fine: [-3, 3],
      step: 0.05,
      unit: '%',
      label: 'Wave',
      description: 'The wave of the glass half way out, the corners staying where they are.'
    },
    curves: {
      type: 'array',
      default: [],
      maxItems: MOST_CURVES,
      label: 'Straight marks',
      description: 'Points along edges that should be straight, as the glass put them.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'points'],
        properties: {
          id,
          points: { type: 'array', minItems: 2, maxItems: MOST_CURVE_POINTS, items: point }
        }
      }
    },
    solved: {
      default: null,
      label: 'Solved from the picture',
      description: "Distortion found from straight marks; it takes the place of the profile's.",
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['projection', 'terms', 'centre'],
          properties: { projection: { enum: LENS_PROJECTIONS }, terms: terms(6, 50), centre: point }
        }
      ]
    },
    lateral: percent('Lateral', 'How much of the known sizes of red and blue is evened out.'),
    measured: {
      default: null,
      label: 'Measured on the picture',
      description:
        "Sizes of red and blue found at the picture's edges; they take the place of the profile's.",
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['red', 'blue'],
          properties: { red: terms(5, 1), blue: terms(5, 1) }
        }
      ]
    },
    lateralRed: lateral(
      'Red',
      'Makes the red picture larger or smaller from the middle, on top of what is known.'
    ),
    lateralBlue: lateral(
      'Blue',
      'Makes the blue picture larger or smaller from the middle, on top of what is known.'
    ),
    fringeOne: fringe('Purple fringe', 'Takes colour from rims of the first pair of hues at strong edges.'),
    fringeOneHue: hue('Hue', 310, 'The middle of the hues that the first fringe has.'),
    fringeOneRange: range('Range', 'How many degrees of hue about the first one count as fringe.'),
    fringeTwo: fringe('Green fringe', 'Takes colour from rims of the second pair of hues at strong edges.'),
    fringeTwoHue: hue('Hue', 150, 'The middle of the hues that the second fringe has.'),
    fringeTwoRange: range('Range', 'How many degrees of hue about the second one count as fringe.'),
    falloff: percent('Falloff', "How much of the profile's darkening towards the corners is evened out."),
    corner: {
      type: 'number',
      default: 0,
      minimum: -3,
      maximum: 3,
      step: 0.05,
      unit: 'EV',
      label: 'Corners',
      description: 'Lightens the corners, or darkens them, on top of what is known of the lens.'
    },
    midpoint: {
      type: 'number',
      default: 50,
      minimum: 0,
      maximum: 100,
      step: 1,
      unit: '%',
      label: 'Midpoint',
      description: 'How far from the middle the lightening of the corners begins.'
    }
  }
} as const;

export type LensSettings = Settings<typeof lensSchema>;

export const lensStep = {
  name: 'lens',
  schema: lensSchema,
  /** The profile that matches is at work, and nothing was set beside it. */
  itself: (lens, { profileFound }) => profileFound && touchedSettings(lensSchema, lens).length === 0,
  carries: {
    stays: ['curves'],
    sameShape: false,
    along: {},
    groups: [
      {
        name: 'profile',
        label: 'Profile',
        settings: ['profile', 'focalLength', 'solvedFocal', 'projection']
      },
      { name: 'bow', label: 'Bow', settings: ['distortion', 'bow', 'wave', 'solved'] },
      {
        name: 'fringe',
        label: 'Colour edges',
        settings: [
          'lateral',
          'measured',
          'lateralRed',
          'lateralBlue',
          'fringeOne',
          'fringeOneHue',
          'fringeOneRange',
          'fringeTwo',
          'fringeTwoHue',
          'fringeTwoRange'
        ]
      },
      { name: 'falloff', label: 'Falloff', settings: ['falloff', 'corner', 'midpoint'] }
    ]
  }
} as const satisfies Step<'lens', typeof lensSchema>;
