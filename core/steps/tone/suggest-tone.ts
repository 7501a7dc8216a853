/** What tone by itself would be: each control from the frame's own light, as a practitioner goes about it. */
import { quantiles } from '../../math/quantiles.ts';
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { MIDDLE_EPSILON } from '../../measure/light/measure-light.ts';
import { lightColours } from '../colour/light-colour.ts';
import { RESPONSES } from './base-curve.ts';
import { MIDDLE_GREY } from './middle-grey.ts';
import { relitStops } from './relight.ts';
import { type ToneSettings, untouchedTone } from './step.ts';
import { bentStops, recoveryOf, shownLight } from './toned-light.ts';

/** What is set together when all of tone is to be set by itself. */
export const TOGETHER = [
  'exposure',
  'recovery',
  'highlights',
  'shadows',
  'contrast',
  'white',
  'black',
  'middle'
] as const;
/** The range that a picture holds, for the rendering of that name. */
export const RANGE = ['rangeWhite', 'rangeMiddle', 'rangeBlack'] as const;
/** All that can be suggested. */
export const SUGGESTED = [...TOGETHER, ...RANGE, 'haze'] as const;
export type Suggestion = Pick<ToneSettings, (typeof SUGGESTED)[number]>;

const NEUTRAL = untouchedTone();
const GREY = Math.log2(MIDDLE_GREY);
/** Where the middle of all tones, the lightest and the darkest are to lie, in stops about the middle grey or about white. */
const MEDIAN = 0.6;
const LIGHTEST = 2.2;
/** And a light fifth of it, as a closed sky is. */
const LARGE_LIGHT = -0.1;
/** Stops that the middle may be too light by, and the share of what is beyond them that is taken back. */
const GLARING = 0.4;
const GLARING_SHARE = 0.6;
const HIGHLIGHTS_BEGIN = 0;
const SHADOWS_BEGIN = -2.3;
/** A lift up to this is taken as it is, and what is more in part; after sunset, when lamps are far warmer than the sky, of all a part. */
const LIFT = 1.2;
const LIFT_SHARE = 0.6;
/** What needs more than this to be light is dark, and meant to be. */
const MOST_LIFT = 2;
const EVENING = { apart: 1, share: 0.3 };
/** What of white the lightest and the darkest tones are shown as. */
const SHOWN_WHITE = 0.95;
const SHOWN_BLACK = 0.004;
/** Stops that light spreads about a place from which on a picture needs no more local contrast. */
const TEXTURED = 0.3;
/** Stops between dark and light parts below which a picture is flat. */
const FLAT = 3.5;

const clamp = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** The whole number between two at which something that rises reaches zero, or the nearer end. */
function reached(from: number, to: number, of: (value: number) => number): number {
  let [low, high] = [from, to];
  while (high - low > 1) {
    const middle = Math.round((low + high) / 2);
    if (of(middle) < 0) low = middle;
    else high = middle;
  }
  return high;
}

/** Every so many cells tell as much as all. */
const STRIDE = 5;

/** A number of each of some cells. */
function sampled(cells: number, of: (i: number) => number): Float32Array {
  const out = new Float32Array(Math.ceil(cells / STRIDE));
  for (let n = 0, i = 0; i < cells; n++, i += STRIDE) out[n] = of(i);
  return out;
}

/** The most contrast that, beside what else is set, lifts the lightest tones, in stops about white, no further than white. */
function roomFor(lightest: number, { midtones, white, black }: ToneSettings): number {
  const lifted = (contrast: number): number =>
    bentStops(lightest - GREY, { contrast, midtones, white, black }) + GREY;
  return reached(0, 41, (contrast) => lifted(contrast) - Math.max(0, lightest)) - 1;
}

/** Share of haze that a share of the cells has less of, and how far light usually spreads about a cell, in stops. */
function detailOf({ bases, haze, stops }: FrameLight): { haze: number; spread: number } {
  const shares = sampled(stops.length, (i) => clamp(haze[i * 2] * stops[i] + haze[i * 2 + 1], 0, 1));
  // A base's slope tells the variance that it was fitted to.
  const spreads = sampled(stops.length, (i) => {
    const slope = clamp(bases[i * 8 + 2], 0, 0.999);
    return Math.sqrt((MIDDLE_EPSILON * slope) / (1 - slope));
  });
  return { haze: quantiles(shares)(0.25), spread: quantiles(spreads)(0.5) };
}

/** Whether lamps that are far warmer than it stand out from what lights the frame. */
function isEvening(frame: FrameLight): boolean {
  const { light, other } = lightColours(frame);
  return other !== null && Math.log(other[0] / other[2]) - Math.log(light[0] / light[2]) > EVENING.apart;
}

/** The brightest colour of some cells, in stops about white. */
const brightest = ({ colours: [r, g, b], stops }: FrameLight): Float32Array =>
  sampled(stops.length, (i) => Math.log2(Math.max(1e-6, r[i], g[i], b[i])));

/** Stops of some cells, with what highlights, shadows and bands make of them. */
function relitLight({ bases, stops }: FrameLight, settings: ToneSettings): Float32Array {
  const relit = relitStops(settings);
  return sampled(stops.length, (i) => stops[i] + relit(bases[i * 8] * stops[i] + bases[i * 8 + 4]));
}

/**
 * `current`: what is set. The controls that are `asked` for are told together, by the picture as all others have it; of these the answer
 * holds what is set.
 */
export function suggestTone(
  light: FrameLight,
  current: ToneSettings,
  asked: readonly (keyof Suggestion)[] = TOGETHER
): Suggestion {
  const isAsked = (name: keyof Suggestion): boolean => asked.includes(name);
  const standing: ToneSettings = {
    ...current,
    ...Object.fromEntries(asked.map((name) => [name, NEUTRAL[name]]))
  };
  const told = <N extends keyof Suggestion>(name: N, find: () => number): number =>
    isAsked(name) ? find() : current[name];
  const at = quantiles(relitLight(light, standing));

  const exposure = told('exposure', () => {
    const wanted = Math.min(MEDIAN + GREY - at(0.5), LIGHTEST - at(0.98), LARGE_LIGHT - at(0.8));
    // A light picture is meant to be one: it is darkened as far as its lightest parts are above white, and in part where it is all light.
    const darker = Math.min(0, -at(0.98), GLARING_SHARE * (wanted + GLARING));
    const full = Math.min(MOST_LIFT, wanted <= LIFT ? wanted : LIFT + LIFT_SHARE * (wanted - LIFT));
    const lifted = isEvening(light) ? EVENING.share * full : full;
    const stops = Math.max(-4, wanted < 0 ? Math.max(wanted, darker) : lifted);
    return Math.abs(stops) < 0.1 ? 0 : Math.round(stops * 20) / 20;
  });
  const recovery = told('recovery', () => recoveryOf(quantiles(brightest(light))(0.999) + exposure));
  const highlights = told(
    'highlights',
    () => -clamp(Math.round(25 * (at(0.99) + exposure - HIGHLIGHTS_BEGIN)), 0, 100)
  );
  const shadows = told('shadows', () =>
    clamp(Math.round(30 * (SHADOWS_BEGIN + GREY - at(0.05) - exposure)), 0, 100)
  );
  const contrast = told('contrast', () =>
    Math.min(
      clamp(Math.round(25 * (FLAT - (at(0.95) - at(0.05)))), 0, 40),
      Math.max(0, roomFor(at(0.98) + exposure, standing))
    )
  );
  const settings = { ...standing, exposure, recovery, contrast };
  const shown = (stops: number, own: Partial<ToneSettings>): number => {
    const all = { ...settings, ...own };
    return shownLight(all, RESPONSES[all.rendering])(2 ** stops);
  };
  const white = told('white', () =>
    Math.max(
      0,
      reached(-1, 60, (value) => shown(at(0.995), { white: value }) - SHOWN_WHITE)
    )
  );
  const black = told('black', () =>
    Math.max(
      -60,
      reached(-61, 0, (value) => shown(at(0.005), { white, black: value }) - SHOWN_BLACK)
    )
  );
  const aboutGrey = (share: number): number => Math.round((at(share) + exposure - GREY) * 10) / 10;
  return {
    exposure,
    recovery,
    highlights,
    shadows,
    contrast,
    white,
    black,
    middle: told('middle', () => clamp(Math.round(50 * (TEXTURED - detailOf(light).spread)), 0, 15)),
    haze: told('haze', () => clamp(Math.round(200 * (detailOf(light).haze - 0.15)), 0, 80)),
    rangeWhite: told('rangeWhite', () => clamp(aboutGrey(0.998), 0.5, 10)),
    rangeBlack: told('rangeBlack', () => clamp(aboutGrey(0.002), -14, -1)),
    rangeMiddle: told('rangeMiddle', () => clamp(Math.round(aboutGrey(0.5) * 5) / 10, -3, 3))
  };
}
