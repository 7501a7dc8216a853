/** A mask as hatching: dark and light strokes side by side, so that they read on any picture, denser where more belongs to it. */

/** Pixels from one stroke to the next, and the width of its dark and of its light half. */
const PITCH = 9;
const HALF = 1.3;

/** `weights`: grey of the mask in four bytes a pixel, as drawn; answers four bytes a pixel. */
export function hatching(
  weights: Uint8ClampedArray,
  width: number,
  height: number
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(width * height * 4);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      const weight = weights[at] / 255;
      if (weight < 0.03) continue;
      const place = (x + y) % PITCH;
      // Where it fades, strokes become thinner.
      const reach = HALF * (0.35 + 0.65 * weight);
      const light = place >= HALF && place < HALF + reach;
      if (place >= reach && !light) continue;
      out[at] = out[at + 1] = out[at + 2] = light ? 255 : 17;
      out[at + 3] = Math.round(255 * (0.25 + 0.6 * weight));
    }
  return out;
}
