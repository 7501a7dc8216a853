/** Another sky in an area: which, where it lies, and how far it follows the one that was there. */
import type { Settings, SettingsSchema } from '../../../settings/step.ts';
import { id } from '../../../settings/id-schema.ts';
import { percent } from '../../../settings/percent-schema.ts';

const skyProperties = {
  across: {
    type: 'number',
    default: 0,
    minimum: -100,
    maximum: 100,
    step: 0.5,
    unit: '%',
    label: 'Across',
    description: 'Moves the sky to the right, or to the left below zero, in shares of the frame’s width.'
  },
  up: {
    type: 'number',
    default: 0,
    minimum: -100,
    maximum: 100,
    step: 0.5,
    unit: '%',
    label: 'Up',
    description:
      'Lifts the foot of the sky above the frame’s own horizon, or lowers it, in shares of the frame’s height.'
  },
  turn: {
    type: 'number',
    default: 0,
    minimum: -180,
    maximum: 180,
    fine: [-15, 15],
    step: 0.1,
    unit: '°',
    label: 'Turn',
    description: 'Turns the sky clockwise about the middle of its foot.'
  },
  scale: {
    type: 'number',
    default: 140,
    minimum: 40,
    maximum: 400,
    fine: [50, 200],
    step: 1,
    unit: '%',
    label: 'Scale',
    description: 'Width of the sky; at 100 % it is as wide as the frame.'
  },
  mirrored: {
    type: 'boolean',
    default: false,
    label: 'Mirrored',
    description: 'Left for right, so that the sun comes from the side from which it lights the building.'
  },
  match: percent(
    'Match',
    100,
    'How far the sky is made as light as the one that was there; its colour follows a quarter as far.'
  )
} as const;

interface SkySchema extends SettingsSchema {
  readonly properties: typeof skyProperties;
}

/** `picture`: what the sky is known by. */
export type SkySettings = Settings<SkySchema> & { picture: string };

export const skySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['picture'],
  properties: { picture: id, ...skyProperties }
} as const;
