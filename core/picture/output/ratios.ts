import type { FrameSize } from '../../math/frame-geometry.ts';

/**
 * A ratio as practitioners write it: `free`, `original`, width:height such as `4:3` or `2.39:1`, or an exact size in pixels
 * such as `1200x630`.
 */
export type RatioName = string;

/** Ratios offered for a crop; their turned forms are a press away. */
export const RATIOS: readonly RatioName[] = [
  'free',
  'original',
  '3:2',
  '4:3',
  '5:4',
  '1:1',
  '16:9',
  '4:5',
  '5:7'
];

/** What a ratio may look like (a pattern for validation). */
export const RATIO_PATTERN =
  '^(free|original|\\d{1,4}(\\.\\d{1,3})?:\\d{1,4}(\\.\\d{1,3})?|\\d{2,5}x\\d{2,5})$';

/** Ratios beyond this, either way, leave no picture. */
const MOST = 10;

/** Exact size in pixels that a ratio names, or null. */
export function exactSize(name: RatioName): FrameSize | null {
  const parts = /^(\d+)x(\d+)$/.exec(name);
  return parts && { width: Number(parts[1]), height: Number(parts[2]) };
}

/** Width over height of a named ratio; null for a free one. */
export function ratioValue(name: RatioName, size: FrameSize): number | null {
  if (name === 'free') return null;
  if (name === 'original') return size.width / size.height;
  const [width, height] = name.split(/[:x]/).map(Number);
  return width / height;
}

/** The ratio that a text typed by hand means, or null when it means none of use. */
export function readRatio(text: string): RatioName | null {
  const name = text.trim().toLowerCase().replace(/\s+/g, '').replace('×', 'x').replaceAll(',', '.');
  if (!new RegExp(RATIO_PATTERN).test(name)) return null;
  const value = ratioValue(name, { width: 3, height: 2 });
  return value === null || (value >= 1 / MOST && value <= MOST) ? name : null;
}

/** Name of the same ratio turned by 90 degrees. */
export function turnedRatio(name: RatioName): RatioName {
  const between = name.includes(':') ? ':' : /^\d+x\d+$/.test(name) ? 'x' : null;
  return between ? name.split(between).reverse().join(between) : name;
}

/**
 * Whole pixel size nearest to width x height (not above it by more than rounding) that keeps a ratio to a
 * pixel: the height is the ratio's share of the width, rounded.
 */
export function pixelSize(width: number, ratio: number): FrameSize {
  const w = Math.max(1, Math.floor(width + 1e-6));
  return { width: w, height: Math.max(1, Math.round(w / ratio)) };
}
