/**
 * The colour of the light by itself, from the edges of the picture, which on the whole are of no colour (grey edge:
 * van de Weijer, Gevers & Gijsenij, IEEE TIP 16, 2007; first order, Minkowski norm 6).
 */
import type { FrameLight } from '../tile/frame-light.ts';
import type { Vector3 } from '../math/vector3.ts';

/** Minkowski norm of the edges' strengths. */
const NORM = 6;
/** Light beyond these tells no colour. */
const LIGHTEST = 0.95;
const DARKEST = 0.004;

/** Working colour of the light, green 1, that the frame was taken in as shot; white where it has no edges. */
export function lightColour({
  width,
  height,
  colours
}: Pick<FrameLight, 'width' | 'height' | 'colours'>): Vector3 {
  const sums = [0, 0, 0];
  const [r, g, b] = colours;
  const usable = (i: number): boolean =>
    r[i] > DARKEST &&
    g[i] > DARKEST &&
    b[i] > DARKEST &&
    r[i] < LIGHTEST &&
    g[i] < LIGHTEST &&
    b[i] < LIGHTEST;
  for (let y = 1; y < height; y++)
    for (let x = 1; x < width; x++) {
      const i = y * width + x;
      if (!usable(i) || !usable(i - 1) || !usable(i - width)) continue;
      for (let c = 0; c < 3; c++) {
        const plane = colours[c];
        const [across, down] = [plane[i] - plane[i - 1], plane[i] - plane[i - width]];
        const square = across * across + down * down;
        // The sixth power of the edge's strength.
        sums[c] += square * square * square;
      }
    }
  if (sums.some((sum) => sum <= 0)) return [1, 1, 1];
  const [red, green, blue] = sums.map((sum) => sum ** (1 / NORM));
  return [red / green, 1, blue / green];
}
