/** Stops that the first rendition's tone added to a place by its base, the broad luminance about it: highlights, shadows and bands. */
import { smoothstep } from '../../math/smoothstep.ts';
import { MIDDLE_GREY } from '../../steps/tone/middle-grey.ts';
import { FIRST_STOP, LAST_STOP, PER_STOP, bandStops } from '../../steps/tone/relight.ts';
import type { ToneSettings } from '../../steps/tone/step.ts';

/** Stops about the middle grey between which a control grows to its full effect, and that effect at 100, in stops. */
const HIGHLIGHTS = { from: -0.5, to: 3.5, most: 1.8 };
const SHADOWS = { from: 0.5, to: -4.5, most: 2 };

/** Stops to add where the base is so many stops about white. Never turns an order of bases round, but for bands that do. */
function baseStops(base: number, { exposure, highlights, shadows, bands }: ToneSettings): number {
  const aboutGrey = base + exposure - Math.log2(MIDDLE_GREY);
  return (
    (highlights / 100) * HIGHLIGHTS.most * smoothstep(HIGHLIGHTS.from, HIGHLIGHTS.to, aboutGrey) +
    (shadows / 100) * SHADOWS.most * (1 - smoothstep(SHADOWS.to, SHADOWS.from, aboutGrey)) +
    bandStops(bands, base)
  );
}

/** The same as a table over the bases. */
export const relightTable = (settings: ToneSettings): Float32Array =>
  Float32Array.from({ length: (LAST_STOP - FIRST_STOP) * PER_STOP + 1 }, (_, i) =>
    baseStops(FIRST_STOP + i / PER_STOP, settings)
  );
