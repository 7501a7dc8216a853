import type { Point } from '../camera/frame-geometry.ts';
import { largestRectangle, reach } from './largest-rectangle.ts';
import type { Rectangle } from './rectangle.ts';

/** Slack, relative to the crop's height, within which a crop still counts as inside. */
const SLACK = 1e-6;

/** True when the whole rectangle lies inside the outline. */
export function isInside(crop: Rectangle, outline: readonly Point[]): boolean {
  const ratio = crop.width / crop.height;
  const scaled = outline.map(([x, y]): Point => [x / ratio, y]);
  return reach(crop.x / ratio, crop.y, scaled) >= (crop.height / 2) * (1 - SLACK);
}

/**
 * The crop itself when it holds only real pixels; else the nearest one, of the same ratio, on the straight way
 * (in centre and size) from it to the largest crop of that ratio. Null when the outline has no room.
 */
export function fitCrop(crop: Rectangle, outline: readonly Point[]): Rectangle | null {
  if (isInside(crop, outline)) return crop;
  const ratio = crop.width / crop.height;
  const largest = largestRectangle(outline, ratio);
  if (!largest) return null;
  // Where the wanted crop is larger than any that fits, shrinking about a moving centre still ends at `largest`.
  const end =
    largest.height <= crop.height ? largest : { ...largest, width: crop.width, height: crop.height };
  const at = (t: number): Rectangle => {
    const height = crop.height + (end.height - crop.height) * t;
    return {
      x: crop.x + (end.x - crop.x) * t,
      y: crop.y + (end.y - crop.y) * t,
      width: height * ratio,
      height
    };
  };
  let low = 0;
  let high = 1;
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2;
    if (isInside(at(middle), outline)) high = middle;
    else low = middle;
  }
  return at(high);
}
