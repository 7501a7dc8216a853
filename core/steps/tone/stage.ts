/**
 * Scene to display. Colours are multiplied by what tone makes of their light, so that hues stay, and by the same rule from nothing
 * set to everything. What comes out above white goes to white at its hue; the curves of what is shown follow.
 */
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { gamutNumbers } from '../../colour/oklab.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { IDENTITY, invert3 } from '../../math/matrix3.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { RENDITION, type Rendition } from '../../settings/rendition.ts';
import { PLAIN_NUMBERS } from '../colour/grade-numbers.ts';
import { RESPONSES } from './base-curve.ts';
import { isLevel, levelsCurve } from './levels.ts';
import { lightnessTable } from './lightness-curve.ts';
import { pointCurve } from './point-curve.ts';
import { type ToneSettings, tonesAnything, untouchedTone } from './step.ts';
import { BENDING, type Bending, curvedLight, gainOf, shownLight } from './toned-light.ts';

interface Given {
  facts: { rendering: Rendering };
  recipe: { rendition: Rendition; tone: ToneSettings };
}

export interface ToneData {
  response: keyof typeof RESPONSES;
  settings: ToneSettings;
}

const FROM_SRGB = invert3(REC2020_TO_SRGB);
/** Light beyond this, in shares of white, is multiplied like it. */
const MOST_LIGHT = 8;
/** What colours within the working space come to at most in sRGB's primaries. */
const MOST_SHOWN = 2;

/** What bends each colour as displays show it. */
const COLOUR_CURVES = [
  'levels',
  'levelsRed',
  'levelsGreen',
  'levelsBlue',
  'curveAll',
  'curveRed',
  'curveGreen',
  'curveBlue'
] as const;
type Curves = Pick<ToneSettings, (typeof COLOUR_CURVES)[number]>;

const gainsOf = keepingLast(({ response, bending }: { response: ToneData['response']; bending: Bending }) => {
  const gain = gainOf(shownLight(bending, RESPONSES[response]));
  return tabulate((share) => gain(share * MOST_LIGHT));
});

const curveGainsOf = keepingLast((points: ToneSettings['curve']) => {
  const gain = gainOf(curvedLight(points));
  return tabulate((share) => gain(share * MOST_SHOWN));
});

/** What bends each colour as displays show it: levels and curves, those of all colours before its own. Null: nothing does. */
const colourTablesOf = keepingLast((settings: Curves) => {
  const bendsOf = (
    levels: 'levels' | 'levelsRed' | 'levelsGreen' | 'levelsBlue',
    curve: 'curveAll' | 'curveRed' | 'curveGreen' | 'curveBlue'
  ): ((shown: number) => number)[] => [
    ...(isLevel(settings[levels]) ? [] : [levelsCurve(settings[levels])]),
    ...(settings[curve].length === 0 ? [] : [pointCurve(settings[curve])])
  ];
  const all = bendsOf('levels', 'curveAll');
  const each = [
    bendsOf('levelsRed', 'curveRed'),
    bendsOf('levelsGreen', 'curveGreen'),
    bendsOf('levelsBlue', 'curveBlue')
  ];
  if (all.length === 0 && each.every((bends) => bends.length === 0)) return null;
  const tableOf = (bends: typeof all): Float32Array =>
    tabulate((shown) => srgbDecode(bends.reduce((value, bend) => bend(value), srgbEncode(shown))));
  const shared = tableOf(all);
  return each.map((own) => (own.length === 0 ? shared : tableOf([...all, ...own])));
});

const lightnessOf = keepingLast(lightnessTable);

const INTO_WORKING = gamutNumbers(IDENTITY);

const picked = <K extends keyof ToneSettings>(
  settings: ToneSettings,
  names: readonly K[]
): Pick<ToneSettings, K> => Object.fromEntries(names.map((name) => [name, settings[name]])) as never;

export const toneStage: PixelStage<'tone', Given, ToneData> = {
  name: 'tone',
  kind: 'pixel',
  prepare({ facts, recipe: { rendition, tone } }) {
    if (rendition !== RENDITION) return null;
    const settings = tonesAnything(tone) ? tone : null;
    if (facts.rendering === 'scene')
      return { response: settings?.rendering ?? 'plain', settings: settings ?? untouchedTone() };
    // Finished pictures are of a display already.
    return settings && { response: 'none', settings: { ...settings, rendering: 'plain' } };
  },
  begin(_, { response, settings }, arena) {
    const gains = arena.addressOf(gainsOf({ response, bending: picked(settings, BENDING) }));
    const curve = settings.curve.length === 0 ? 0 : arena.addressOf(curveGainsOf(settings.curve));
    const colours = colourTablesOf(picked(settings, COLOUR_CURVES))?.map((table) => arena.addressOf(table));
    const lightness =
      settings.curveLightness.length === 0 ? 0 : arena.addressOf(lightnessOf(settings.curveLightness));
    const [toSrgb, fromSrgb] = [arena.addressOf(REC2020_TO_SRGB), arena.addressOf(FROM_SRGB)];
    const plain = lightness && arena.addressOf(PLAIN_NUMBERS);
    const intoWorking = arena.addressOf(INTO_WORKING);
    const { bendPlane, gradeColours, mapIntoGamut, mixColours, scaleByNorm } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      scaleByNorm(...planes, length, toSrgb, gains, STEPS, MOST_LIGHT);
      mapIntoGamut(...planes, length, intoWorking);
      if (curve !== 0) scaleByNorm(...planes, length, toSrgb, curve, STEPS, MOST_SHOWN);
      if (colours) {
        mixColours(...planes, length, toSrgb, Infinity);
        for (const [i, plane] of planes.entries()) bendPlane(plane, length, colours[i], STEPS, 1, 0);
        mixColours(...planes, length, fromSrgb, Infinity);
      }
      if (lightness !== 0) gradeColours(...planes, length, plain, 0, lightness, 0, 0);
    };
  }
};
