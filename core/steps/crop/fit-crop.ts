import type { Point } from '../../math/frame-geometry.ts';
import { largestRectangle, nearestPlace } from './largest-rectangle.ts';
import type { Rectangle } from './rectangle.ts';
import { reach, searchPlace, squared } from './search-place.ts';

/** Slack, relative to the crop's height, within which a crop still counts as inside. */
const SLACK = 1e-6;
/** The score found is the best there is to this much. */
const PRECISION = 2e-4;

/** True when the whole rectangle lies inside the outline. */
export function isInside(crop: Rectangle, outline: readonly Point[]): boolean {
  const ratio = crop.width / crop.height;
  return reach(crop.x / ratio, crop.y, squared(outline, ratio)) >= (crop.height / 2) * (1 - SLACK);
}

/**
 * How much a crop shows of what was wanted, 0..1: what the two share over what they cover together (Jaccard), less a
 * little for every loss of size, so that a crop rather moves than shrinks where both would lose as much. All in squares
 * of half sides, `across` and `down` between their middles.
 */
export function likeness(wanted: number, half: number, across: number, down: number): number {
  const shared = (way: number): number => Math.max(0, Math.min(2 * half, wanted + half - way));
  const both = shared(across) * shared(down);
  return (both / (4 * wanted * wanted + 4 * half * half - both)) * Math.sqrt(half / wanted);
}

/**
 * The crop itself when it holds only real pixels; else, of all of its ratio that do and are not larger, the one most like
 * it. Null when the outline has no room.
 */
export function fitCrop(crop: Rectangle, outline: readonly Point[]): Rectangle | null {
  if (isInside(crop, outline)) return crop;
  const ratio = crop.width / crop.height;
  const scaled = squared(outline, ratio);
  const middle: Point = [crop.x / ratio, crop.y];
  const wanted = crop.height / 2;
  let place = searchPlace(scaled, {
    from: middle,
    score: (room, across, down) => likeness(wanted, Math.min(room, wanted), across, down),
    slack: () => PRECISION
  });
  if (!place) return null;
  // Nothing of it lies on real pixels: then the nearest place.
  if (place.score === 0) {
    const largest = largestRectangle(outline, ratio)!;
    place = nearestPlace(scaled, middle, Math.min(wanted, (largest.height / 2) * 0.999))!;
  }
  const height = Math.min(place.reach, wanted) * 2;
  return { x: place.x * ratio, y: place.y, width: height * ratio, height };
}
