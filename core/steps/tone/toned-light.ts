/**
 * What the Tone step makes of a light, scene-linear in and out: all of its controls but those that look about. In
 * stops about the middle grey, so that each acts alike at every exposure; all of them are monotone over their whole range.
 */
import { smoothstep } from '../../math/smoothstep.ts';
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { type Response, baseCurve } from './base-curve.ts';
import { pointCurve } from './point-curve.ts';
import { MIDDLE_GREY } from './middle-grey.ts';
import { rangeCurve } from './range-curve.ts';
import type { ToneSettings } from './step.ts';

/** The settings that bend a luminance: all that do not look about, and no colour by itself. */
export const BENDING = [
  'rendering',
  'exposure',
  'recovery',
  'rangeWhite',
  'rangeBlack',
  'rangeMiddle',
  'contrast',
  'midtones',
  'white',
  'black'
] as const satisfies readonly (keyof ToneSettings)[];
export type Bending = Pick<ToneSettings, (typeof BENDING)[number]>;

export const bendingOf = (settings: ToneSettings): Bending =>
  Object.fromEntries(BENDING.map((name) => [name, settings[name]])) as unknown as Bending;

/** Where recovery begins to bend the light, and how far above white it reaches at most, in stops. */
const KNEE = 0.5;
/** How late recovery draws down: the order of lights holds up to 1.5 for two stops. */
const EASE = 1.4;
const GROWTH = 1.25;
const HEADROOM = 2;
/** The least light that is told. */
export const LEAST = 2 ** -16;

/** Stops above white that a recovery brings back: slowly at first, since colours near to white change fast. */
export const stopsOfRecovery = (recovery: number): number => HEADROOM * (recovery / 100) ** GROWTH;
/** The recovery, 0 to 100, that brings so many stops back. */
export const recoveryOf = (stops: number): number =>
  Math.min(100, Math.round(100 * (Math.max(0, stops) / HEADROOM) ** (1 / GROWTH)));

/**
 * Light above the knee drawn down so that `2 ** stops` comes out as 1, and what is lighter by as many stops: a little recovery
 * changes no light by much.
 */
export function recovered(light: number, stops: number): number {
  if (light <= KNEE || stops <= 0) return light;
  const share = Math.min(1, Math.log2(light / KNEE) / (stops - Math.log2(KNEE)));
  return light * 2 ** (-stops * share ** EASE);
}

/** Stops above the middle grey after contrast, midtones, white and black. */
export function bentStops(
  stops: number,
  { contrast, midtones, white, black }: Pick<Bending, 'contrast' | 'midtones' | 'white' | 'black'>
): number {
  const steep = contrast >= 0 ? (0.8 * contrast) / 100 : (0.6 * contrast) / 100;
  // Steepest about the middle, and back where it was at the ends.
  let bent = stops + steep * stops * Math.exp(-((stops / 3) ** 2));
  bent += (midtones / 100) * Math.exp(-((bent / 2) ** 2));
  // The lightest stop and a half below white, the darkest six.
  bent += (white / 100) * smoothstep(0, 2.47, bent);
  bent += ((black > 0 ? 1.5 : 3) * black * (1 - smoothstep(-6, -1, bent))) / 100;
  return bent;
}

/** The light that the settings make of one, before any base curve; that of a range is shown as it is. */
export function tonedLight(settings: Bending): (light: number) => number {
  const ranged = settings.rendering === 'range' ? rangeCurve(settings) : null;
  const gain = 2 ** settings.exposure;
  const stops = stopsOfRecovery(settings.recovery);
  return (light) => {
    const exposed = Math.max(LEAST, light) * gain;
    const bent = MIDDLE_GREY * 2 ** bentStops(Math.log2(exposed / MIDDLE_GREY), settings);
    const toned = recovered(bent, stops);
    return ranged ? ranged(toned) : toned;
  };
}

/** What of a display's light a light is shown as; more than 1 above white. */
export function shownLight(settings: Bending, response: Response | null): (light: number) => number {
  const toned = tonedLight(settings);
  return (light) => baseCurve(toned(light), response);
}

/** By how much a function enlarges a light: colours are multiplied by it, so that their hue stays. */
export const gainOf =
  (of: (light: number) => number) =>
  (light: number): number => {
    const from = Math.max(LEAST, light);
    return of(from) / from;
  };

/** A curve on what is shown, 0..1, in the steps of a display; what is lighter goes on beside it. */
export function curvedLight(points: ToneSettings['curve']): (shown: number) => number {
  const curve = pointCurve(points);
  return (shown) => {
    const bounded = Math.min(1, shown);
    return srgbDecode(curve(srgbEncode(bounded))) + shown - bounded;
  };
}
