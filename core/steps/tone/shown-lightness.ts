import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import { RESPONSES } from './base-curve.ts';
import { levelsCurve } from './levels.ts';
import { pointCurve } from './point-curve.ts';
import { relitStops } from './relight.ts';
import { type ToneSettings, tonesAnything, untouchedTone } from './step.ts';
import { curvedLight, shownLight } from './toned-light.ts';

/** CIELAB lightness (CIE 15), 0..100, of a share of white. */
const lightness = (share: number): number =>
  share > 216 / 24389 ? 116 * Math.cbrt(share) - 16 : (24389 / 27) * share;

/**
 * The lightness, CIELAB L* 0..100, that an even grey of so many stops about white is shown as by all that tone does to it but the
 * bands, and colours by themselves.
 */
export function shownLightness(tone: ToneSettings, rendering: Rendering): (stops: number) => number {
  const settings: ToneSettings = { ...(tonesAnything(tone) ? tone : untouchedTone()), bands: [] };
  const scene = rendering === 'scene';
  const ofScene = scene ? settings : { ...settings, rendering: 'plain' as const };
  const relit = relitStops(settings);
  const shown = shownLight(ofScene, scene ? RESPONSES[settings.rendering] : null);
  const curved = curvedLight(settings.curve);
  const [levels, curveAll] = [levelsCurve(settings.levels), pointCurve(settings.curveAll)];
  const ofLightness = pointCurve(settings.curveLightness);
  return (stops) => {
    const light = Math.min(1, curved(Math.min(1, shown(2 ** (stops + relit(stops))))));
    const bent = srgbDecode(curveAll(levels(srgbEncode(light))));
    // The lightness of OKLab, for greys, is the cube root of their luminance.
    return lightness(ofLightness(Math.cbrt(bent)) ** 3);
  };
}
