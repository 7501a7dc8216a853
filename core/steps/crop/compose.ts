/** One composition, many ratios: the crop of each follows from it until it is touched by itself. */
import type { Rectangle } from './rectangle.ts';
import type { CropSettings } from './step.ts';

/** The same middle and the same area in another ratio. */
export function reshaped(rectangle: Rectangle, ratio: number): Rectangle {
  const area = rectangle.width * rectangle.height;
  const height = Math.sqrt(area / ratio);
  return { x: rectangle.x, y: rectangle.y, width: height * ratio, height };
}

/** The crop wanted for a ratio (null: any), before it is kept on real pixels; null for the largest. */
export function wantedCrop({ ratio, rectangle, own }: CropSettings, value: number | null): Rectangle | null {
  if (own[ratio]) return own[ratio];
  if (!rectangle || value === null) return rectangle;
  // A crop drawn in this very ratio stays what it is, to the last digit.
  const same = Math.abs(rectangle.width / rectangle.height / value - 1) < 1e-6;
  return same ? rectangle : reshaped(rectangle, value);
}

/** Crops touched by themselves, but for the one in hand: that follows the composition again. */
export const withoutOwn = ({ own, ratio }: CropSettings): CropSettings['own'] =>
  Object.fromEntries(Object.entries(own).filter(([name]) => name !== ratio));

/** Settings after the crop in hand was changed: alone, or with all that follow the composition. */
export function recomposed(crop: CropSettings, rectangle: Rectangle, alone: boolean): Partial<CropSettings> {
  const others = withoutOwn(crop);
  return alone
    ? { own: { ...others, [crop.ratio]: rectangle }, enabled: true }
    : { rectangle, own: others, enabled: true };
}
