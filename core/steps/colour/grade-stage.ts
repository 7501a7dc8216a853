/** Colours in OKLab: casts, hues, saturation and vibrance, grey, and zones. What is neutral leaves colours bit for bit. */
import { kernels } from '../../picture/kernels/kernels.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { gradeNumbers } from './grade-numbers.ts';
import { hueTable } from './hues.ts';
import type { ColourSettings } from './step.ts';
import { changesZones, takesCast, zoneTable } from './zones.ts';

interface Given {
  recipe: { colour: ColourSettings };
}

export interface GradeData {
  settings: ColourSettings;
}

const huesOf = keepingLast(hueTable);
const zonesOf = keepingLast(zoneTable);

const grades = (colour: ColourSettings): boolean =>
  colour.enabled &&
  (colour.saturation !== 0 ||
    colour.vibrance !== 0 ||
    colour.mono ||
    colour.skyStrength !== 0 ||
    colour.warmStrength !== 0 ||
    colour.hues.some(({ hue, chroma, light }) => hue !== 0 || chroma !== 0 || light !== 0) ||
    changesZones(colour));

export const gradeStage: PixelStage<'grade', Given, GradeData> = {
  name: 'grade',
  kind: 'pixel',
  prepare: ({ recipe: { colour } }) => (grades(colour) ? { settings: colour } : null),
  begin(_, { settings }, arena) {
    const { hues: nodes, skyStrength: sky, warmStrength: warm } = settings;
    const bends = nodes.length > 0 || sky !== 0 || warm !== 0;
    const hues = bends ? arena.addressOf(huesOf({ hues: nodes, sky, warm })) : 0;
    const zones = changesZones(settings) ? arena.addressOf(zonesOf(settings)) : 0;
    const numbers = arena.addressOf(gradeNumbers(settings));
    const [casts, grey] = [takesCast(settings), settings.mono].map((on) => (on ? 1 : 0));
    const { gradeColours } = kernels();
    return (rows) => gradeColours(...addresses(rows), rows.r.length, numbers, hues, zones, casts, grey);
  }
};
