/**
 * Sharpening for the output at its own size: unsharp masking of the luma, kept within what the neighbourhood holds, so that
 * it steepens edges without drawing halos along them.
 */
import type { FrameSize } from '../camera/frame-geometry.ts';
import type { Sharpening } from './deliverable-schema.ts';

export interface SharpenOptions {
  /** Standard deviation of the blur, in pixels. */
  radius: number;
  /** Share of the difference from the blur that is added. */
  amount: number;
}

/** A screen shows single pixels; paper spreads them, the more the finer its resolution. */
export function sharpenOptions(sharpening: Sharpening, ppi: number): SharpenOptions | null {
  if (sharpening === 'none') return null;
  if (sharpening === 'screen') return { radius: 0.6, amount: 0.55 };
  return { radius: Math.max(0.7, Math.min(2, ppi / 300)), amount: 0.9 };
}

/** Most by which a value may leave the range of its neighbours, as a share of full scale. */
const OVERSHOOT = 0.012;

function gaussian(radius: number): Float32Array {
  const reach = Math.max(1, Math.ceil(radius * 2.5));
  const weights = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * radius * radius))
  );
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
}

/** Rows beyond a band that its sharpening looks at. */
export const sharpenReach = ({ radius }: SharpenOptions): number => Math.max(1, Math.ceil(radius * 2.5));

/**
 * Sharpens rows [from, to) of interleaved RGB (encoded values) into `out`, which has the size of `pixels`. The luma's
 * change is added to all three colours: hues stay.
 */
export function sharpen(
  pixels: Uint8Array | Uint16Array,
  { width, height }: FrameSize,
  out: Uint8Array | Uint16Array,
  options: SharpenOptions,
  from = 0,
  to = height
): void {
  const { amount, radius } = options;
  const top = pixels instanceof Uint16Array ? 65535 : 255;
  const weights = gaussian(radius);
  const reach = (weights.length - 1) / 2;
  const first = Math.max(0, from - reach);
  const last = Math.min(height, to + reach);
  const luma = new Float32Array((last - first) * width);
  for (let i = 0, p = first * width * 3; i < luma.length; i++, p += 3)
    luma[i] = 0.2126 * pixels[p] + 0.7152 * pixels[p + 1] + 0.0722 * pixels[p + 2];
  const across = new Float32Array(luma.length);
  for (let row = 0; row < last - first; row++) {
    const start = row * width;
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = -reach; k <= reach; k++)
        sum += weights[k + reach] * luma[start + Math.max(0, Math.min(width - 1, x + k))];
      across[start + x] = sum;
    }
  }
  const slack = OVERSHOOT * top;
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      let blurred = 0;
      for (let k = -reach; k <= reach; k++)
        blurred +=
          weights[k + reach] * across[(Math.max(first, Math.min(last - 1, y + k)) - first) * width + x];
      const value = luma[(y - first) * width + x];
      let [low, high] = [value, value];
      for (let v = Math.max(first, y - 1); v <= Math.min(last - 1, y + 1); v++) {
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const near = luma[(v - first) * width + u];
          if (near < low) low = near;
          else if (near > high) high = near;
        }
      }
      const wanted = value + amount * (value - blurred);
      const change = Math.max(low - slack, Math.min(high + slack, wanted)) - value;
      const p = (y * width + x) * 3;
      for (let c = 0; c < 3; c++) out[p + c] = Math.max(0, Math.min(top, pixels[p + c] + change)) + 0.5;
    }
  }
}
