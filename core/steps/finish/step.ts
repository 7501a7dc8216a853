/** The Finish step. */
import { percent, signedPercent } from '../../settings/percent-schema.ts';
import type { Settings, Step } from '../../settings/step.ts';

/** Ratios of paper, width to height. */
export const PAPERS = ['none', '1:1', '5:4', '4:5', '4:3', '3:4', '3:2', '2:3', '16:9', '9:16'] as const;

const colour = (label: string, usual: string, description: string) =>
  ({ type: 'string', pattern: '^#[0-9a-f]{6}$', default: usual, label, description }) as const;

/** Percent of noise, of light and of colour, that the sensor's own noise asks for. */
export const SENSORS_OWN = 50;

export const finishSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Finish',
      description: 'Switched off, nothing is sharpened, darkened about its edge or given grain.'
    },
    noise: percent(
      'Noise',
      0,
      'Takes the grain of the sensor out of light; 50 % is what its own noise asks for.'
    ),
    noiseDetail: percent('Its detail', 20, 'How much of the finest grain stays, and fine texture with it.'),
    noiseColour: percent(
      'Colour noise',
      0,
      'Takes specks and blotches of colour out; 50 % is what the sensor asks for.'
    ),
    sharpening: percent('Sharpening', 0, 'Steepens edges at full size; what is smaller gains less by it.'),
    sharpeningKind: {
      enum: ['contrast', 'deconvolving', 'both'],
      default: 'contrast',
      label: 'Kind',
      description:
        'By contrast about edges, by undoing the blur of the lens (as its profile says, more towards the corners, or of the radius), or one after the other.'
    },
    radius: {
      type: 'number',
      default: 1,
      minimum: 0.3,
      maximum: 3,
      step: 0.1,
      unit: 'px',
      label: 'Radius',
      description: 'How far about an edge it acts, in pixels of the frame.'
    },
    detail: percent(
      'Fine detail',
      50,
      'How faint a structure is sharpened; at 100 % some noise counts as such.'
    ),
    edges: percent('Edges only', 0, 'Spares texture, and all but strong edges at 100 %.'),
    halo: percent('Halo', 10, 'How far edges may go beyond what lies beside them; 0 %: not at all.'),
    edge: signedPercent(
      'Edge',
      'Lightens the edge of the picture; below zero it darkens it: at 100 % by two stops.'
    ),
    edgeReach: percent('Reach', 50, 'How far from the corners towards the middle it reaches.'),
    edgeRound: percent('Roundness', 100, 'From the shape of the crop to an ellipse in it.'),
    edgeFeather: percent('Feather', 100, 'How softly it sets in.'),
    edgeX: signedPercent('Middle across', 'Where the middle lies: at 100 % on the right edge.'),
    edgeY: signedPercent('Middle down', 'Where the middle lies: at 100 % on the lower edge.'),
    edgeSpare: percent('Spare bright parts', 0, 'Leaves what is brighter than half of white as it is.'),
    edgeColour: signedPercent(
      'Edge colour',
      'Strength of colours at the edge; -100 takes all of it out there.'
    ),
    inner: signedPercent(
      'Inner light',
      'Lightens what the edge leaves, or darkens it: at 100 % by one stop.'
    ),
    glow: percent(
      'Glow',
      0,
      'Light of bright parts spreads about them, as in a lens that is not quite clean.'
    ),
    glowReach: percent('Glow reach', 30, 'How far it spreads: at 100 % by a twentieth of half the diagonal.'),
    glowFrom: {
      type: 'number',
      default: -1,
      minimum: -4,
      maximum: 1,
      step: 0.1,
      unit: 'EV',
      label: 'Glows from',
      description: 'How bright a part has to be to glow, in stops about white; darker ones do not.'
    },
    grain: percent('Grain', 0, 'Adds grain, most in middle tones; alike at every size.'),
    grainSize: percent(
      'Size of grain',
      25,
      'From a pixel of a frame of 24 MP to sixteen, twice as large every 25 %.'
    ),
    grainRoughness: percent('Roughness', 50, 'How uneven its grains are.'),
    border: {
      type: 'number',
      default: 0,
      minimum: 0,
      maximum: 30,
      step: 0.5,
      unit: '%',
      label: 'Border',
      description: 'Lies about the picture in the file, wide by so much of its shorter edge.'
    },
    borderColour: colour('Border colour', '#ffffff', 'What the border is filled with.'),
    borderPaper: {
      enum: PAPERS,
      default: 'none',
      label: 'Paper',
      description: 'Widens the border to a ratio of width to height.'
    },
    borderLine: {
      type: 'number',
      default: 0,
      minimum: 0,
      maximum: 10,
      step: 0.5,
      unit: '‰',
      label: 'Border line',
      description: 'A fine line in the border, thick by so much of the shorter edge.'
    },
    borderLineAt: percent('Line place', 20, 'From the picture to the edge of the paper.'),
    borderLineColour: colour('Line colour', '#444444', 'The colour of the line.')
  }
} as const;

export type FinishSettings = Settings<typeof finishSchema>;

export const finishStep = {
  name: 'finish',
  schema: finishSchema,
  itself: () => false,
  carries: {
    stays: [],
    sameShape: false,
    along: {},
    groups: [
      { name: 'noise', label: 'Noise', settings: ['noise', 'noiseDetail', 'noiseColour'] },
      {
        name: 'sharpening',
        label: 'Sharpening',
        settings: ['sharpening', 'sharpeningKind', 'radius', 'detail', 'edges', 'halo']
      },
      {
        name: 'edge',
        label: 'Edge',
        settings: [
          'edge',
          'edgeReach',
          'edgeRound',
          'edgeFeather',
          'edgeX',
          'edgeY',
          'edgeSpare',
          'edgeColour',
          'inner'
        ]
      },
      { name: 'glow', label: 'Glow', settings: ['glow', 'glowReach', 'glowFrom'] },
      { name: 'grain', label: 'Grain', settings: ['grain', 'grainSize', 'grainRoughness'] },
      {
        name: 'border',
        label: 'Border',
        settings: ['border', 'borderColour', 'borderPaper', 'borderLine', 'borderLineAt', 'borderLineColour']
      }
    ]
  }
} as const satisfies Step<'finish', typeof finishSchema>;
