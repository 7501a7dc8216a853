/** The Lines step. */
import { id } from '../../settings/id-schema.ts';
import { point } from '../../settings/point-schema.ts';
import { type Settings, type Step, touchedSettings } from '../../settings/step.ts';
import { MARK_KINDS, WEIGHTS } from './mark.ts';
import { LENGTH_UNITS } from './measure-lengths.ts';

/** Most marks a frame may hold: far above use, far below what would slow the solver. */
export const MOST_MARKS = 500;

const holdBack = (label: string, description: string) =>
  ({ type: 'number', default: 0, minimum: 0, maximum: 100, step: 1, unit: '%', label, description }) as const;
/** Sliders cover what photographs need; larger angles can be typed. */
const angle = (label: string, most: number, usual: number, description: string) =>
  ({
    type: 'number',
    default: 0,
    minimum: -most,
    maximum: most,
    fine: [-usual, usual],
    step: 0.05,
    unit: '°',
    label,
    description
  }) as const;
const shift = (label: string, description: string) =>
  ({
    type: 'number',
    default: 0,
    minimum: -100,
    maximum: 100,
    fine: [-30, 30],
    step: 0.5,
    unit: '%',
    label,
    description
  }) as const;

export const linesSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Lines',
      description: 'Switched off, the picture leans and converges as shot.'
    },
    marks: {
      type: 'array',
      default: [],
      maxItems: MOST_MARKS,
      label: 'Marks',
      description: 'Lines along what should be plumb, level or straight.',
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'kind', 'a', 'b'],
        properties: {
          id,
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
    roll: angle('Roll', 45, 10, 'Turns the picture about its middle; to the right above zero.'),
    pitch: angle(
      'Pitch',
      60,
      30,
      'Takes out that the camera looked up, above zero, or down: verticals stop converging.'
    ),
    yaw: angle(
      'Yaw',
      60,
      45,
      'Takes out that the camera looked to the side of a front: its levels become level.'
    ),
    holdBackRoll: holdBack('Roll', 'How much of the roll is left undone.'),
    holdBackPitch: holdBack(
      'Pitch',
      'How much of the pitch is left undone: a little convergence looks natural on a tall building.'
    ),
    holdBackYaw: holdBack('Yaw', 'How much of the yaw is left undone.'),
    heldByItself: {
      ...holdBack(
        'Pitch held back by itself',
        'What truing up by itself held back of the pitch; as long as that stands, it was not set by hand.'
      )
    },
    shiftX: shift(
      'Shift across',
      'Moves the picture in its crop, in shares of the crop’s width; to the right above zero.'
    ),
    shiftY: shift(
      'Shift up',
      'Moves the picture in its crop, in shares of the crop’s height; upwards above zero.'
    ),
    scale: {
      type: 'number',
      default: 100,
      minimum: 100,
      maximum: 400,
      fine: [100, 200],
      step: 1,
      unit: '%',
      label: 'Scale',
      description: 'Enlarges the true picture in its crop.'
    },
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
            corners: {
              type: 'array',
              minItems: 4,
              maxItems: 4,
              items: [point, point, point, point],
              additionalItems: false
            },
            ratio: { type: 'number', minimum: 0.02, maximum: 50 }
          }
        }
      ]
    },
    unit: {
      enum: LENGTH_UNITS,
      default: 'm',
      label: 'Unit of lengths',
      description: 'What measured lengths are told in.'
    },
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
          id,
          a: point,
          b: point,
          known: { type: 'number', exclusiveMinimum: 0, maximum: 1e6 }
        }
      }
    }
  }
} as const;

export type LinesSettings = Settings<typeof linesSchema>;

/** Settings that follow from lines found by themselves. */
const SOLVED = ['marks', 'roll', 'pitch', 'yaw', 'heldByItself'];

export const linesStep = {
  name: 'lines',
  schema: linesSchema,
  /** The lines are as they were found, and nothing was set by hand beside them. */
  itself: (lines) =>
    lines.marks.length > 0 &&
    lines.marks.every((mark) => mark.found) &&
    touchedSettings(
      linesSchema,
      lines,
      lines.holdBackPitch === lines.heldByItself ? [...SOLVED, 'holdBackPitch'] : SOLVED
    ).length === 0,
  // A focal length that the lines told belongs to the correction.
  carries: { stays: [], sameShape: true, along: { lens: ['solvedFocal'] }, groups: [] }
} as const satisfies Step<'lines', typeof linesSchema>;
