/**
 * What the Tone step makes of a luminance, scene-linear in and out: all of its controls but those that look about. In
 * stops about the middle grey, so that each acts alike at every exposure; all of them are monotone over their whole range.
 */
import { smoothstep } from '../../math/smoothstep.ts';
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { type Response, baseCurve, inverseBaseCurve } from './base-curve.ts';
import { pointCurve } from './point-curve.ts';
import { MIDDLE_GREY, rangeCurve } from './range-curve.ts';
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
  'black',
  'curve'
] as const satisfies readonly (keyof ToneSettings)[];
export type Bending = Pick<ToneSettings, (typeof BENDING)[number]>;

/** Where recovery begins to bend the light, and how far above white it reaches at most, in stops. */
const KNEE = 0.5;
const HEADROOM = 2;
const LEAST = 2 ** -16;

/** Light above the knee bent so that `2 ** (stops)` comes out as 1; its slope begins as 1. */
export function recovered(light: number, stops: number): number {
  if (light <= KNEE || stops <= 0) return light;
  const most = 2 ** stops;
  const bend = 1 / (1 - KNEE) - 1 / (most - KNEE);
  const above = light - KNEE;
  return KNEE + above / (1 + above * bend);
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

/** The luminance that the settings make of one. */
export function tonedLight(settings: Bending, response: Response | null): (light: number) => number {
  const curve = pointCurve(settings.curve);
  const ranged = settings.rendering === 'range' ? rangeCurve(settings) : null;
  const shown = (light: number): number => {
    if (ranged) return srgbDecode(curve(srgbEncode(ranged(light))));
    if (settings.curve.length === 0 || light >= 1) return light;
    return inverseBaseCurve(srgbDecode(curve(srgbEncode(baseCurve(light, response)))), response);
  };
  const gain = 2 ** settings.exposure;
  const stops = (settings.recovery / 100) * HEADROOM;
  return (light) => {
    const exposed = Math.max(LEAST, light) * gain;
    const bent = MIDDLE_GREY * 2 ** bentStops(Math.log2(exposed / MIDDLE_GREY), settings);
    return shown(recovered(bent, stops));
  };
}

/** By how much the settings enlarge a luminance: colours are multiplied by it, so that their hue stays. */
export function toneGain(settings: Bending, response: Response | null): (light: number) => number {
  const toned = tonedLight(settings, response);
  return (light) => {
    const from = Math.max(LEAST, light);
    return toned(from) / from;
  };
}
