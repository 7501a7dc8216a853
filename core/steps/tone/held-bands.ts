/** The bands of luminance that a picture holds. */
import { quantiles } from '../../math/quantiles.ts';
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { DARKEST_BAND, LIGHTEST_BAND } from './step.ts';

export interface HeldBands {
  darkest: number;
  lightest: number;
  /** Share of the picture, 0..1, whose broad light lies in each band, from the darkest that there can be on. */
  shares: number[];
}

/** Of the broad light, as tone goes by it; the darkest and the lightest band are those that hold more than a speck. */
export function heldBands({ bases, stops }: FrameLight): HeldBands {
  const broad = stops.map((own, i) => bases[i * 8] * own + bases[i * 8 + 4]);
  const shares = Array.from({ length: LIGHTEST_BAND - DARKEST_BAND + 1 }, () => 0);
  const bounded = (stop: number): number => Math.min(LIGHTEST_BAND, Math.max(DARKEST_BAND, Math.floor(stop)));
  for (const base of broad) shares[bounded(base) - DARKEST_BAND] += 1 / broad.length;
  const at = quantiles(broad);
  return { darkest: bounded(at(0.002)), lightest: bounded(at(0.998)), shares };
}

/** The share of the picture that a band holds, 0..1. */
export const shareOf = ({ shares }: HeldBands, stop: number): number => shares[stop - DARKEST_BAND] ?? 0;
