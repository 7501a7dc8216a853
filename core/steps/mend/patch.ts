/** One mended place: what was drawn, and what is laid into it. */
import { id } from '../../settings/id-schema.ts';
import { type Fill, fillSchema } from './fill/fill.ts';
import { percent } from '../../settings/percent-schema.ts';

/** Places of one frame; points of one stroke. */
export const MOST_PATCHES = 300;
export const MOST_POINTS = 1000;
/** Smallest and largest radius, in thousandths of half the diagonal. */
const SIZES = { minimum: 1, maximum: 150 } as const;

/** A distance in field units, with its sign. */
const offset = { type: 'number', minimum: -2.5, maximum: 2.5 } as const;

export const patchSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'points', 'size', 'source'],
  properties: {
    id,
    kind: {
      type: 'string',
      enum: ['heal', 'clone', 'cable', 'takeOut'],
      label: 'Kind',
      description:
        'Heal: texture from elsewhere in the light and colour of the place. Clone: the other place as it is. Cable: what lies along both sides of a thin line. Take out: filled with pieces of what lies about it.'
    },
    dust: {
      type: 'boolean',
      default: false,
      label: 'Dust',
      description:
        'A speck of dust on the sensor, found or confirmed: it lies at the same place on other frames.'
    },
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Mended',
      description: 'Switched off, the place is left as it is and stays in the list.'
    },
    name: {
      type: 'string',
      default: '',
      maxLength: 60,
      label: 'Name',
      description: 'What was here, as the report says it: a bin, a sign.'
    },
    points: {
      type: 'array',
      minItems: 2,
      maxItems: MOST_POINTS * 2,
      items: { type: 'number', minimum: -1.5, maximum: 1.5 },
      label: 'Place',
      description: 'Across and down of each point of the stroke in field units; a spot is one point.'
    },
    size: {
      type: 'number',
      default: 12,
      ...SIZES,
      step: 1,
      unit: '‰',
      label: 'Size',
      description: 'Radius of the place, in thousandths of half the diagonal.'
    },
    feather: percent('Feather', 30, 'How far in from its edge the place blends with what lies about it.'),
    opacity: percent('Opacity', 100, 'How much of what is mended is mixed in.'),
    fill: {
      default: null,
      label: 'Filled with',
      description: 'What is taken out: for each cell over it, from where its picture is taken.',
      oneOf: [{ type: 'null' }, fillSchema]
    },
    source: {
      type: 'array',
      minItems: 2,
      maxItems: 2,
      items: [offset, offset],
      additionalItems: false,
      label: 'Source',
      description: 'From the place to where its texture is taken from, in field units.'
    }
  }
} as const;

export type PatchKind = (typeof patchSchema.properties.kind.enum)[number];

export interface Patch {
  id: string;
  kind: PatchKind;
  dust: boolean;
  enabled: boolean;
  name: string;
  points: readonly number[];
  /** Thousandths of a field unit. */
  size: number;
  feather: number;
  opacity: number;
  source: readonly [number, number];
  fill: Fill | null;
}

/** Where a patch lies, however it is mended. */
export type Region = Pick<Patch, 'points' | 'size'>;

export const worksOn = ({ enabled, opacity, kind, fill }: Patch): boolean =>
  enabled && opacity > 0 && (kind !== 'takeOut' || fill !== null);
