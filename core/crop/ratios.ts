import type { FrameSize } from '../camera/frame-geometry.ts';

/** Ratios offered for a crop, width : height as practitioners write them. */
export const RATIOS = [
  'free',
  'original',
  '3:2',
  '4:3',
  '5:4',
  '1:1',
  '16:9',
  '4:5',
  '5:7',
  '2:3',
  '3:4',
  '9:16',
  '7:5'
] as const;
export type RatioName = (typeof RATIOS)[number];

/** Width over height of a named ratio; null for a free one. */
export function ratioValue(name: RatioName, size: FrameSize): number | null {
  if (name === 'free') return null;
  if (name === 'original') return size.width / size.height;
  const [width, height] = name.split(':').map(Number);
  return width / height;
}

/** Name of the same ratio turned by 90 degrees. */
export function turnedRatio(name: RatioName): RatioName {
  if (!name.includes(':')) return name;
  const turned = name.split(':').reverse().join(':') as RatioName;
  return RATIOS.includes(turned) ? turned : name;
}

/**
 * Whole pixel size nearest to width x height (not above it by more than rounding) that keeps a ratio to a
 * pixel: the height is the ratio's share of the width, rounded.
 */
export function pixelSize(width: number, ratio: number): FrameSize {
  const w = Math.max(1, Math.floor(width + 1e-6));
  return { width: w, height: Math.max(1, Math.round(w / ratio)) };
}
