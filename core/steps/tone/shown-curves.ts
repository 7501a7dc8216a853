/** Levels and curves: what bends colours as displays show them, after the base curve. */
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { invert3 } from '../../math/matrix3.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { type Planes, addresses } from '../../picture/tile/planes.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { PLAIN_NUMBERS } from '../colour/grade-numbers.ts';
import { isLevel, levelsCurve } from './levels.ts';
import { lightnessTable } from './lightness-curve.ts';
import { pointCurve } from './point-curve.ts';
import type { ToneSettings } from './step.ts';
import { curvedLight, gainOf } from './toned-light.ts';

const FROM_SRGB = invert3(REC2020_TO_SRGB);
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

const colourCurves = (settings: ToneSettings): Curves =>
  Object.fromEntries(COLOUR_CURVES.map((name) => [name, settings[name]])) as Curves;

/** The changes of rows that the settings ask for, in their order; none where all of them are neutral. */
export function shownCurves(settings: ToneSettings, arena: Arena): ((rows: Planes) => void)[] {
  const { bendPlane, gradeColours, mixColours, scaleByNorm } = kernels();
  const toSrgb = arena.addressOf(REC2020_TO_SRGB);
  const changes: ((rows: Planes) => void)[] = [];
  if (settings.curve.length > 0) {
    const curve = arena.addressOf(curveGainsOf(settings.curve));
    changes.push((rows) => scaleByNorm(...addresses(rows), rows.r.length, toSrgb, curve, STEPS, MOST_SHOWN));
  }
  const colours = colourTablesOf(colourCurves(settings))?.map((table) => arena.addressOf(table));
  if (colours) {
    const fromSrgb = arena.addressOf(FROM_SRGB);
    changes.push((rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      mixColours(...planes, length, toSrgb, Infinity);
      for (const [i, plane] of planes.entries()) bendPlane(plane, length, colours[i], STEPS, 1, 0);
      mixColours(...planes, length, fromSrgb, Infinity);
    });
  }
  if (settings.curveLightness.length > 0) {
    const lightness = arena.addressOf(lightnessOf(settings.curveLightness));
    const plain = arena.addressOf(PLAIN_NUMBERS);
    changes.push((rows) => gradeColours(...addresses(rows), rows.r.length, plain, 0, lightness, 0, 0));
  }
  return changes;
}
