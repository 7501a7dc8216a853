/** Stops that tone adds to a place by its base, the broad luminance about it: highlights, shadows and bands. */
import { smoothstep } from '../../math/smoothstep.ts';
import { limitSlope } from './limit-slope.ts';
import { MIDDLE_GREY } from './middle-grey.ts';
import type { ToneSettings } from './step.ts';

/** Stops about white from the darkest to the lightest base that is told apart, and entries of a table for each. */
export const FIRST_STOP = -13;
export const LAST_STOP = 6;
export const PER_STOP = 32;

/** Stops about the middle grey between which shadows grow to their full effect, and that effect at 100, in stops. */
const SHADOWS = { from: 0.5, to: -4.5, most: 2 };
/**
 * Highlights, in stops: about the middle grey where they set in; about white where they have their full effect, so much of it at
 * 100, and at white itself, which is to stay a white: light above it comes down as far as it takes to lie no higher than white.
 */
const HIGHLIGHTS = { from: -1, fullAt: -1.2, most: 0.8, atWhite: 0.36, above: 1.7 };
/** How much all together may flatten and steepen a gradient, in stops for each stop of the base. */
const FLATTEST = 0.55;
const STEEPEST = 0.45;

const WHITE = -Math.log2(MIDDLE_GREY);

/** Stops by which highlights at 100 move a base that is so many stops about the middle grey. */
function highlightStops(aboutGrey: number): number {
  const aboutWhite = aboutGrey - WHITE;
  const { from, fullAt, most, atWhite, above } = HIGHLIGHTS;
  if (aboutWhite <= fullAt) return most * smoothstep(from, WHITE + fullAt, aboutGrey);
  if (aboutWhite <= 0) return most + (atWhite - most) * smoothstep(fullAt, 0, aboutWhite);
  return atWhite + (above - atWhite) * smoothstep(0, 3, aboutWhite);
}

/** What the bands add at a base: each most in its middle, fading into its neighbours' so that equal ones are even. */
export function bandStops(bands: ToneSettings['bands'], base: number): number {
  let sum = 0;
  for (const { stop, change } of bands) {
    const away = Math.abs(base - (stop + 0.5));
    if (away < 1) sum += (change * (1 + Math.cos(Math.PI * away))) / 2;
  }
  return sum;
}

/**
 * Stops to add by the base, from the first stop to the last. No settings turn an order of bases round: what they ask for together is
 * held to slopes that a gradient bears.
 */
export function relightTable({ exposure, highlights, shadows, bands }: ToneSettings): Float32Array {
  const wanted = Array.from({ length: (LAST_STOP - FIRST_STOP) * PER_STOP + 1 }, (_, i) => {
    const base = FIRST_STOP + i / PER_STOP;
    const aboutGrey = base + exposure + WHITE;
    return (
      (highlights / 100) * highlightStops(aboutGrey) +
      (shadows / 100) * SHADOWS.most * (1 - smoothstep(SHADOWS.to, SHADOWS.from, aboutGrey)) +
      bandStops(bands, base)
    );
  });
  return Float32Array.from(limitSlope(wanted, FLATTEST / PER_STOP, STEEPEST / PER_STOP, PER_STOP / 2));
}

/** Stops that are added at a base. */
export function relitStops(settings: ToneSettings): (base: number) => number {
  const table = relightTable(settings);
  return (base) => {
    const place = Math.min(table.length - 1, Math.max(0, (base - FIRST_STOP) * PER_STOP));
    const low = Math.min(table.length - 2, Math.floor(place));
    return table[low] + (table[low + 1] - table[low]) * (place - low);
  };
}
