/**
 * Scene to display as the first rendition had it. Without settings the plain rendering of raw files: the base curve, given per colour in sRGB's primaries,
 * so that all output spaces show the same. With them luminance is bent first and colours are scaled along with it, what
 * comes out above white fades to it, and the curves of the colours follow on the base curve.
 */
import type { Rendering } from '../../optics/frame-facts.ts';
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { LUMINANCE_REC2020, LUMINANCE_SRGB, REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { PLAIN_NUMBERS } from '../../steps/colour/grade-numbers.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { invert3 } from '../../math/matrix3.ts';
import { FIRST_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { RESPONSES, type Response, baseCurve } from './base-curve.ts';
import { isLevel, levelsCurve } from '../../steps/tone/levels.ts';
import { lightnessTable } from '../../steps/tone/lightness-curve.ts';
import { pointCurve } from '../../steps/tone/point-curve.ts';
import { type Levels, type ToneSettings, tonesAnything } from '../../steps/tone/step.ts';
import { BENDING, type Bending, toneGain } from './toned-light.ts';

interface Given {
  facts: { rendering: Rendering };
  recipe: { rendition: Rendition; tone: ToneSettings };
}

export interface ToneData {
  rendering: keyof typeof RESPONSES;
  /** Null: the base curve alone. */
  settings: ToneSettings | null;
}

const FROM_SRGB = invert3(REC2020_TO_SRGB);
/** Light beyond this, in shares of white, is scaled like it. */
const MOST_LIGHT = 8;

interface Tables {
  /** Gains by luminance; null: light stays as it is. */
  gains: Float32Array | null;
  /** The curve of each colour. */
  colours: readonly Float32Array[];
}

/** What bends a colour as displays show it: levels and curves, those of all colours before its own. */
interface Bends {
  levels: Levels[];
  curves: ToneSettings['curve'][];
}

/** The base curve with what bends it on. */
function colourTable(response: Response | null, { levels, curves }: Bends): Float32Array {
  const bends = [
    ...levels.filter((each) => !isLevel(each)).map(levelsCurve),
    ...curves.filter((points) => points.length > 0).map(pointCurve)
  ];
  return tabulate((light) => {
    const shown = baseCurve(light, response);
    return bends.length === 0
      ? shown
      : srgbDecode(bends.reduce((value, bend) => bend(value), srgbEncode(shown)));
  });
}

const gainsOf = keepingLast(
  ({ rendering, settings }: { rendering: ToneData['rendering']; settings: Bending }) => {
    const gain = toneGain(settings, RESPONSES[rendering]);
    return tabulate((share) => gain(share * MOST_LIGHT));
  }
);

const coloursOf = keepingLast(
  ({ rendering, all, own }: { rendering: ToneData['rendering']; all: Bends; own: readonly Bends[] }) => {
    const response = RESPONSES[rendering];
    const shared = colourTable(response, all);
    return own.map(({ levels, curves }) =>
      levels.every(isLevel) && curves.every((points) => points.length === 0)
        ? shared
        : colourTable(response, { levels: [...all.levels, ...levels], curves: [...all.curves, ...curves] })
    );
  }
);

const lightnessOf = keepingLast(lightnessTable);

const NOTHING: Bends = { levels: [], curves: [] };

function tablesOf({ rendering, settings }: ToneData): Tables {
  if (!settings)
    return { gains: null, colours: coloursOf({ rendering, all: NOTHING, own: [NOTHING, NOTHING, NOTHING] }) };
  const { levels, curveAll, levelsRed, levelsGreen, levelsBlue, curveRed, curveGreen, curveBlue } = settings;
  const bending = Object.fromEntries(BENDING.map((name) => [name, settings[name]])) as unknown as Bending;
  return {
    gains: gainsOf({ rendering, settings: bending }),
    colours: coloursOf({
      rendering,
      all: { levels: [levels], curves: [curveAll] },
      own: [
        { levels: [levelsRed], curves: [curveRed] },
        { levels: [levelsGreen], curves: [curveGreen] },
        { levels: [levelsBlue], curves: [curveBlue] }
      ]
    })
  };
}

export const firstToneStage: PixelStage<'first-tone', Given, ToneData> = {
  name: 'first-tone',
  kind: 'pixel',
  prepare({ facts, recipe: { rendition, tone } }) {
    if (rendition !== FIRST_RENDITION) return null;
    const settings = tonesAnything(tone) ? tone : null;
    // Finished pictures are of a display already.
    if (facts.rendering !== 'scene')
      return settings && { rendering: 'flat', settings: { ...settings, rendering: 'flat' } };
    return { rendering: settings?.rendering ?? 'plain', settings };
  },
  begin(_, data, arena) {
    const { gains, colours } = tablesOf(data);
    const gainTable = gains && arena.addressOf(gains);
    // Colours below zero keep their sign, unless the curve shows black itself as something else.
    const curves = colours.map(
      (table) => ({ at: arena.addressOf(table), odd: table[0] === 0 ? 1 : 0 }) as const
    );
    const toSrgb = arena.addressOf(REC2020_TO_SRGB);
    const fromSrgb = arena.addressOf(FROM_SRGB);
    const [wide, narrow] = [arena.addressOf(LUMINANCE_REC2020), arena.addressOf(LUMINANCE_SRGB)];
    const lightness = data.settings?.curveLightness.length
      ? arena.addressOf(lightnessOf(data.settings.curveLightness))
      : 0;
    const numbers = lightness && arena.addressOf(PLAIN_NUMBERS);
    const { fadeToWhite, gradeColours, lookUpPlane, mixColours, scaleByLuminance } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      if (gainTable !== null) scaleByLuminance(...planes, length, wide, gainTable, STEPS, MOST_LIGHT);
      mixColours(...planes, length, toSrgb, Infinity);
      if (gainTable !== null) fadeToWhite(...planes, length, narrow);
      for (const [i, plane] of planes.entries())
        lookUpPlane(plane, length, curves[i].at, STEPS, curves[i].odd);
      mixColours(...planes, length, fromSrgb, Infinity);
      if (lightness !== 0) gradeColours(...planes, length, numbers, 0, lightness, 0, 0);
    };
  }
};
