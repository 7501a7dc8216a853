import type { Histogram } from './messages.ts';

/** Numbers that the kernel counts: 64 of each colour, pixels, those clipped high, those clipped low. */
export const COUNTS = 195;

export function histogramOf(counts: Uint32Array): Histogram {
  const colour = (c: number): number[] => [...counts.subarray(c * 64, (c + 1) * 64)];
  return {
    counts: [colour(0), colour(1), colour(2)],
    pixels: counts[192],
    clippedHigh: counts[193],
    clippedLow: counts[194]
  };
}
