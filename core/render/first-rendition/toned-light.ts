/** What the first rendition's tone made of a luminance: its curve came before the base curve that shows it. */
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { MIDDLE_GREY } from '../../steps/tone/middle-grey.ts';
import { pointCurve } from '../../steps/tone/point-curve.ts';
import { rangeCurve } from '../../steps/tone/range-curve.ts';
import type { ToneSettings } from '../../steps/tone/step.ts';
import { BENDING as TONES, LEAST, bentStops } from '../../steps/tone/toned-light.ts';
import { type Response, baseCurve, inverseBaseCurve } from './base-curve.ts';

export const BENDING = [...TONES, 'curve'] as const;
export type Bending = Pick<ToneSettings, (typeof BENDING)[number]>;

/** Where recovery began to bend the light, and how far above white it reached at most, in stops. */
const KNEE = 0.5;
const HEADROOM = 2;

/** Light above the knee bent so that `2 ** (stops)` comes out as 1; its slope begins as 1. */
function recovered(light: number, stops: number): number {
  if (light <= KNEE || stops <= 0) return light;
  const most = 2 ** stops;
  const bend = 1 / (1 - KNEE) - 1 / (most - KNEE);
  const above = light - KNEE;
  return KNEE + above / (1 + above * bend);
}

/** The luminance that the settings make of one. */
export function tonedLight(settings: Bending, response: Response | null): (light: number) => number {
  const curve = pointCurve(settings.curve);
  const ranged = settings.rendering === 'range' ? rangeCurve(settings, MIDDLE_GREY) : null;
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
