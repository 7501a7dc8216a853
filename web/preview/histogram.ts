import type { Histogram } from './messages.ts';

/** Counts encoded values; blank (transparent) pixels do not count. */
export function histogramOf(rgba: Uint8ClampedArray): Histogram {
  const counts: Histogram['counts'] = [new Array(64).fill(0), new Array(64).fill(0), new Array(64).fill(0)];
  let pixels = 0;
  let clippedHigh = 0;
  let clippedLow = 0;
  for (let i = 0; i < rgba.length; i += 4) {
    if (rgba[i + 3] === 0) continue;
    pixels++;
    const r = rgba[i];
    const g = rgba[i + 1];
    const b = rgba[i + 2];
    counts[0][r >> 2]++;
    counts[1][g >> 2]++;
    counts[2][b >> 2]++;
    if (r === 255 || g === 255 || b === 255) clippedHigh++;
    if (r === 0 && g === 0 && b === 0) clippedLow++;
  }
  return { counts, pixels, clippedHigh, clippedLow };
}
