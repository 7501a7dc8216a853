/** The Areas step. */
import { id } from '../../settings/id-schema.ts';
import { percent, signedPercent } from '../../settings/percent-schema.ts';
import { type Settings, type Step, touchedSettings } from '../../settings/step.ts';
import { type ColourSettings, colourSchema } from '../colour/step.ts';
import { CURVES, type ToneSettings, toneSchema } from '../tone/step.ts';
import { type SkySettings, skySchema } from './another-sky/sky-settings.ts';
import { MOST_SHAPES, type MaskSpec, type Shape, maskSpecOf, shapeSchema } from './shape.ts';

export const MOST_AREAS = 64;

/** Those of Tone's settings that an area has: what renders a raw file as a whole is not among them. */
const TONES = [
  'exposure',
  'highlights',
  'shadows',
  'contrast',
  'midtones',
  'white',
  'black',
  'fine',
  'middle',
  'broad',
  'haze',
  'hazeDepth',
  'levels',
  ...CURVES
] as const;
const COLOURS = ['warmth', 'tint', 'saturation', 'vibrance', 'hues', 'zoneAll', 'mono'] as const;

const picked = <T extends object, K extends keyof T>(from: T, names: readonly K[]): Pick<T, K> =>
  Object.fromEntries(names.map((name) => [name, from[name]])) as Pick<T, K>;

export const areaToneSchema = {
  type: 'object',
  additionalProperties: false,
  properties: picked(toneSchema.properties, TONES)
} as const;

export const areaColourSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    ...picked(colourSchema.properties, COLOURS),
    hue: {
      type: 'number',
      default: 0,
      minimum: -60,
      maximum: 60,
      step: 1,
      unit: '°',
      label: 'Hue',
      description: 'Turns all hues of the area.'
    }
  }
} as const;

export const areaFinishSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    sharpening: signedPercent(
      'Sharpening',
      'Steepens edges by what Finish says of radius, detail and halo; below 0 it softens.'
    ),
    noise: percent(
      'Noise',
      0,
      'Takes noise out of light and colour, on top of what Finish does; 50 % is what the sensor asks for.'
    ),
    glow: signedPercent(
      'Glow',
      'Light of bright parts that spreads about them, its reach set in Finish; below 0 less of the glow that Finish adds.'
    )
  }
} as const;

export type AreaFinish = Settings<typeof areaFinishSchema>;
export type AreaTone = Settings<typeof areaToneSchema>;
export type AreaColour = Settings<typeof areaColourSchema>;

export interface Area {
  id: string;
  name: string;
  /** Areas of one name are switched together; empty: it is in none. */
  group: string;
  enabled: boolean;
  opacity: number;
  /** The shape that it acts in; several may share one. */
  shape: string;
  settings: { tone: AreaTone; colour: AreaColour; finish: AreaFinish };
  /** Another development of the frame that is shown in place of what is set; as it was when it was taken. */
  revision: { letter: string; settings: { tone: ToneSettings; colour: ColourSettings } } | null;
  /** A sky in place of the one that the shape covers. */
  sky: SkySettings | null;
}

const areaSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'shape'],
  properties: {
    id,
    shape: id,
    name: {
      type: 'string',
      default: '',
      maxLength: 60,
      label: 'Name',
      description: 'What the area is called; without a name it is known by its letter.'
    },
    group: {
      type: 'string',
      default: '',
      maxLength: 40,
      label: 'Group',
      description: 'Areas of one group stand under its name, and are switched off and on together.'
    },
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Area',
      description: 'Switched off, the area changes nothing and keeps its settings.'
    },
    opacity: percent('Opacity', 100, 'How much of what the area does is mixed in.'),
    revision: {
      default: null,
      label: 'Revision',
      description:
        'Tone and colour of another revision of this frame, shown in place of its present ones and of what the area does.',
      oneOf: [
        { type: 'null' },
        {
          type: 'object',
          additionalProperties: false,
          required: ['letter', 'settings'],
          properties: {
            letter: { type: 'string', minLength: 1, maxLength: 3 },
            settings: {
              type: 'object',
              additionalProperties: false,
              required: ['tone', 'colour'],
              properties: { tone: toneSchema, colour: colourSchema }
            }
          }
        }
      ]
    },
    sky: {
      default: null,
      label: 'Another sky',
      description:
        'The sky of another picture, laid behind what stands before the one that the shape covers.',
      oneOf: [{ type: 'null' }, skySchema]
    },
    settings: {
      type: 'object',
      default: {},
      label: 'Settings',
      description: 'What the area does: those of Tone, Colour and Finish that act on a part of a picture.',
      additionalProperties: false,
      properties: {
        tone: { default: {}, label: 'Tone', ...areaToneSchema },
        colour: { default: {}, label: 'Colour', ...areaColourSchema },
        finish: { default: {}, label: 'Finish', ...areaFinishSchema }
      }
    }
  }
} as const;

export const areasSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Areas',
      description: 'Switched off, no area changes anything.'
    },
    shapes: {
      type: 'array',
      default: [],
      maxItems: MOST_SHAPES,
      label: 'Shapes',
      description: 'Where areas act; places are those of the frame as the glass put it.',
      items: shapeSchema
    },
    list: {
      type: 'array',
      default: [],
      maxItems: MOST_AREAS,
      label: 'Areas',
      description: 'What is done to parts of the picture, one after another.',
      items: areaSchema
    }
  }
} as const;

export interface AreasSettings {
  enabled: boolean;
  shapes: readonly Shape[];
  list: readonly Area[];
}

export const tonesArea = ({ settings: { tone } }: Area): boolean =>
  touchedSettings(areaToneSchema, tone, ['hazeDepth']).length > 0;
export const coloursArea = ({ settings: { colour } }: Area): boolean =>
  touchedSettings(areaColourSchema, colour).length > 0;
export const finishesArea = ({ settings: { finish } }: Area): boolean =>
  touchedSettings(areaFinishSchema, finish).length > 0;

/** Whether an area changes what its shape shows. */
export const changesPicture = (area: Area): boolean =>
  area.enabled &&
  area.opacity > 0 &&
  (area.revision !== null || area.sky !== null || tonesArea(area) || coloursArea(area) || finishesArea(area));

/** Areas that change anything, each with its shape. */
export const areasAtWork = ({ enabled, shapes, list }: AreasSettings): { area: Area; shape: Shape }[] =>
  enabled
    ? list.flatMap((area) => {
        const shape = shapes.find(({ id: of }) => of === area.shape);
        return changesPicture(area) && shape && shape.parts.length > 0 ? [{ area, shape }] : [];
      })
    : [];

/** Those of them that change the picture, rather than show another one. */
export const areasChanging = (areas: AreasSettings): Area[] =>
  areasAtWork(areas).flatMap(({ area }) => (area.revision ? [] : [area]));

/** What the mask of an area is made by: where a sky is laid through it, it knows the colours of the one that was there. */
export const maskOf = ({ sky }: Area, shape: Shape): MaskSpec => maskSpecOf(shape, sky !== null);

/** Whether another sky is shown. */
export const showsAnotherSky = (areas: AreasSettings): boolean =>
  areasAtWork(areas).some(({ area }) => area.sky !== null);

/** Letters that areas are known by, in their order: a to z, then aa, ab… */
export const letterOf = (i: number): string =>
  (i >= 26 ? letterOf(Math.floor(i / 26) - 1) : '') + String.fromCharCode(97 + (i % 26));

export const areasStep = {
  name: 'areas',
  schema: areasSchema,
  itself: () => false,
  carries: { stays: [], sameShape: false, along: {}, groups: [] }
} as const satisfies Step<'areas', typeof areasSchema>;
