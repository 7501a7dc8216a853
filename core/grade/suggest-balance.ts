/**
 * White balance by itself: the light's colour from the edges of the picture, which on the whole are of no colour (grey edge:
 * van de Weijer, Gevers & Gijsenij, IEEE TIP 16, 2007; first order, Minkowski norm 6).
 */
import type { FrameLight } from '../tile/frame-light.ts';
import { type Balance, balanceFor } from './white-balance.ts';

const NORM = 6;
/** Light beyond these tells no colour. */
const LIGHTEST = 0.95;
const DARKEST = 0.004;

export function suggestBalance({
  width,
  height,
  colours
}: Pick<FrameLight, 'width' | 'height' | 'colours'>): Balance {
  const sums = [0, 0, 0];
  const usable = (i: number): boolean => colours.every((plane) => plane[i] < LIGHTEST && plane[i] > DARKEST);
  for (let y = 1; y < height; y++)
    for (let x = 1; x < width; x++) {
      const i = y * width + x;
      if (!usable(i) || !usable(i - 1) || !usable(i - width)) continue;
      for (let c = 0; c < 3; c++) {
        const plane = colours[c];
        sums[c] += Math.hypot(plane[i] - plane[i - 1], plane[i] - plane[i - width]) ** NORM;
      }
    }
  if (sums.some((sum) => sum <= 0)) return { warmth: 0, tint: 0 };
  const [r, g, b] = sums.map((sum) => sum ** (1 / NORM));
  const { warmth, tint } = balanceFor([r / g, 1, b / g]);
  return { warmth: Math.round(warmth), tint: Math.round(tint) };
}
