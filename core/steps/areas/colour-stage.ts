/** What areas do to colours as they are shown: levels, curve, and all of Colour that acts on a part of a picture. */
import type { PixelStage } from '../../picture/tile/stage.ts';
import { defaultsOf, touchedSettings } from '../../settings/step.ts';
import { gradeStage } from '../colour/grade-stage.ts';
import { type ColourSettings, colourSchema } from '../colour/step.ts';
import { shownCurves } from '../tone/shown-curves.ts';
import { CURVES, untouchedTone } from '../tone/step.ts';
import { actWithin } from './act-within.ts';
import {
  type Area,
  type AreaColour,
  type AreasSettings,
  areaColourSchema,
  areaToneSchema,
  areasChanging
} from './step.ts';

interface Given {
  recipe: { areas: AreasSettings };
}

export interface ColoursData {
  areas: readonly Pick<Area, 'id' | 'settings'>[];
}

/** Degrees between nodes that together turn all hues alike. */
const APART = 30;
const SHOWN: readonly string[] = ['levels', ...CURVES];
const NOT_SHOWN = Object.keys(areaToneSchema.properties).filter((name) => !SHOWN.includes(name));

const curves = ({ settings: { tone } }: Pick<Area, 'settings'>): boolean =>
  touchedSettings(areaToneSchema, tone, NOT_SHOWN).length > 0;
const colours = ({ settings: { colour } }: Pick<Area, 'settings'>): boolean =>
  touchedSettings(areaColourSchema, colour, ['warmth', 'tint']).length > 0;

/** Colour's settings for those of an area: what bends single hues, and then what turns all of them alike. */
function gradesOf({ hue, ...colour }: AreaColour): ColourSettings[] {
  const neutral = defaultsOf(colourSchema) as ColourSettings;
  const all = Array.from({ length: 360 / APART }, (_, i) => ({ at: i * APART, hue, chroma: 0, light: 0 }));
  if (hue === 0) return [{ ...neutral, ...colour }];
  if (colour.hues.length === 0) return [{ ...neutral, ...colour, hues: all }];
  return [
    { ...neutral, hues: colour.hues },
    { ...neutral, ...colour, hues: all }
  ];
}

export const areaColourStage: PixelStage<'areaColour', Given, ColoursData> = {
  name: 'areaColour',
  kind: 'pixel',
  prepare({ recipe: { areas } }) {
    const works = areasChanging(areas)
      .map(({ id, settings }) => ({ id, settings }))
      .filter((area) => curves(area) || colours(area));
    return works.length === 0 ? null : { areas: works };
  },
  begin: (tile, { areas }, arena) =>
    actWithin(
      areas.map((area) => {
        const { tone, colour } = area.settings;
        const grades = colours(area) ? gradesOf(colour) : [];
        const graded = grades.map((settings) => gradeStage.begin(tile, { settings }, arena));
        return { id: area.id, changes: [...shownCurves({ ...untouchedTone(), ...tone }, arena), ...graded] };
      }),
      arena
    )
};
