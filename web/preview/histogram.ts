import type { Histogram } from './messages.ts';

/** Values that each curve is counted by. */
export const BINS = 256;
/** Numbers that the kernel counts: three colours and luminance, then pixels and those that are clipped. */
export const COUNTS = 4 * BINS + 9;

export function histogramOf(counts: Uint32Array): Histogram {
  const curve = (c: number): number[] => [...counts.subarray(c * BINS, (c + 1) * BINS)];
  const [pixels, clippedHigh, clippedLow, ...ends] = counts.subarray(4 * BINS);
  return {
    counts: [curve(0), curve(1), curve(2)],
    luminance: curve(3),
    pixels,
    clippedHigh,
    clippedLow,
    high: ends.slice(0, 3),
    low: ends.slice(3)
  };
}
