/** Colours in OKLab: casts, hues, saturation and vibrance, grey, and zones. What is neutral leaves colours bit for bit. */
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../colour/oklab.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { kernels } from '../kernels/kernels.ts';
import { invert3 } from '../math/matrix3.ts';
import { keepingLast } from '../settings/keeping-last.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import { hueTable } from './hues.ts';
import type { ColourSettings } from './step.ts';
import { changesZones, takesCast, zoneTable } from './zones.ts';

interface Given {
  recipe: { colour: ColourSettings };
}

export interface GradeData {
  settings: ColourSettings;
}

/** The chroma from which vibrance does nothing, and that from which a hue is lightened in full. */
const VIVID = 0.25;
const COLOURFUL = 0.1;
/** The hue of skin, brick and wood in OKLab, which vibrance spares, in degrees. */
const SPARED_HUE = 55;

const ANGLE = (SPARED_HUE * Math.PI) / 180;
const MATRICES = [...REC2020_TO_LMS, ...ROOTS_TO_LAB, ...LAB_TO_ROOTS, ...invert3(REC2020_TO_LMS)];

const huesOf = keepingLast(hueTable);
const zonesOf = keepingLast(zoneTable);

/** Weights of grey, in percent of sRGB's light, as weights of the working space's. */
function greyWeights({ monoRed, monoGreen, monoBlue }: ColourSettings): number[] {
  const shares = [monoRed, monoGreen, monoBlue].map((percent) => percent / 100);
  return [0, 1, 2].map((c) => shares.reduce((sum, share, i) => sum + share * REC2020_TO_SRGB[i * 3 + c], 0));
}

const grades = (colour: ColourSettings): boolean =>
  colour.enabled &&
  (colour.saturation !== 0 ||
    colour.vibrance !== 0 ||
    colour.mono ||
    colour.hues.some(({ hue, chroma, light }) => hue !== 0 || chroma !== 0 || light !== 0) ||
    changesZones(colour));

export const gradeStage: PixelStage<'grade', Given, GradeData> = {
  name: 'grade',
  kind: 'pixel',
  prepare: ({ recipe: { colour } }) => (grades(colour) ? { settings: colour } : null),
  begin(_, { settings }, arena) {
    const hues = settings.hues.length === 0 ? 0 : arena.addressOf(huesOf(settings.hues));
    const zones = changesZones(settings) ? arena.addressOf(zonesOf(settings)) : 0;
    const numbers = arena.addressOf([
      ...MATRICES,
      1 + settings.saturation / 100,
      settings.vibrance / 100,
      VIVID,
      Math.cos(ANGLE),
      Math.sin(ANGLE),
      ...greyWeights(settings),
      COLOURFUL
    ]);
    const [casts, grey] = [takesCast(settings), settings.mono].map((on) => (on ? 1 : 0));
    const { gradeColours } = kernels();
    return (rows) => gradeColours(...addresses(rows), rows.r.length, numbers, hues, zones, casts, grey);
  }
};
