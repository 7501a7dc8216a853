/**
 * The colour of the light by itself: what is shown is on the whole of no colour, and more so what is light and not far from
 * grey (shades of grey: Finlayson & Trezzi, Color Imaging Conference 2004; Minkowski norm 2, weighed by nearness to grey).
 */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import type { Vector3 } from '../../math/vector3.ts';

/** How far from grey, in natural logarithms of red and blue against green, a colour still speaks for the light. */
const NEAR_GREY = 0.5;
/** Share of what is found that is left undone: the camera's own white is seldom all wrong. */
const HELD_BACK = 0.1;
/** Light beyond these tells no colour. */
const LIGHTEST = 0.95;
const DARKEST = 0.004;

/** Working colour of the light, green 1, that the frame was taken in as shot; white where it tells none. */
export function lightColour({ colours }: Pick<FrameLight, 'colours'>): Vector3 {
  const [reds, greens, blues] = colours;
  const sums = [0, 0, 0];
  for (let i = 0; i < reds.length; i++) {
    const [r, g, b] = [reds[i], greens[i], blues[i]];
    if (Math.min(r, g, b) < DARKEST || Math.max(r, g, b) > LIGHTEST) continue;
    const away = Math.log(r / g) ** 2 + Math.log(b / g) ** 2;
    const weight = Math.exp(-away / (2 * NEAR_GREY ** 2));
    sums[0] += weight * r * r;
    sums[1] += weight * g * g;
    sums[2] += weight * b * b;
  }
  if (sums[1] === 0) return [1, 1, 1];
  // The square root of the norm, and of what is held back, in one.
  const against = (sum: number): number => (sum / sums[1]) ** ((1 - HELD_BACK) / 2);
  return [against(sums[0]), 1, against(sums[2])];
}
