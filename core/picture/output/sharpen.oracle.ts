/** What the kernel of sharpening has to compute, in plain words: for tests alone. */
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { SharpenOptions } from './sharpen.ts';

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

/**
 * Sharpens rows [from, to) of interleaved RGB (encoded values) into `out`, which has the size of `pixels`. The luma's
 * change is added to all three colours: hues stay.
 */
export function sharpenPlainly(
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
  const rows = last - first;
  const luma = new Float32Array(rows * width);
  for (let i = 0, p = first * width * 3; i < luma.length; i++, p += 3)
    luma[i] = 0.2126 * pixels[p] + 0.7152 * pixels[p + 1] + 0.0722 * pixels[p + 2];
  // Across first: the blur, and the least and most of three neighbours.
  const across = new Float32Array(luma.length);
  const least = new Float32Array(luma.length);
  const most = new Float32Array(luma.length);
  for (let row = 0; row < rows; row++) {
    const start = row * width;
    blurRow(luma, start, width, weights, across);
    for (let x = 0; x < width; x++) {
      const before = luma[start + (x > 0 ? x - 1 : x)];
      const value = luma[start + x];
      const after = luma[start + (x < width - 1 ? x + 1 : x)];
      least[start + x] = Math.min(before, value, after);
      most[start + x] = Math.max(before, value, after);
    }
  }
  const slack = OVERSHOOT * top;
  const blurred = new Float32Array(width);
  const startOf = (y: number): number => (Math.max(first, Math.min(last - 1, y)) - first) * width;
  for (let y = from; y < to; y++) {
    blurred.fill(0);
    for (let k = -reach; k <= reach; k++) {
      const weight = weights[k + reach];
      const start = startOf(y + k);
      for (let x = 0; x < width; x++) blurred[x] += weight * across[start + x];
    }
    const [above, here, below] = [startOf(y - 1), startOf(y), startOf(y + 1)];
    for (let x = 0; x < width; x++) {
      const value = luma[here + x];
      const low = Math.min(least[above + x], least[here + x], least[below + x]) - slack;
      const high = Math.max(most[above + x], most[here + x], most[below + x]) + slack;
      const wanted = value + amount * (value - blurred[x]);
      const change = (wanted < low ? low : wanted > high ? high : wanted) - value;
      const p = (y * width + x) * 3;
      for (let c = p; c < p + 3; c++) {
        const changed = pixels[c] + change;
        out[c] = (changed < 0 ? 0 : changed > top ? top : changed) + 0.5;
      }
    }
  }
}

/** One row's blur; beyond its ends the outermost value goes on. */
function blurRow(
  values: Float32Array,
  start: number,
  width: number,
  weights: Float32Array,
  out: Float32Array
): void {
  const reach = (weights.length - 1) / 2;
  for (let x = 0; x < width; x++) {
    let sum = 0;
    if (x >= reach && x < width - reach) {
      const begin = start + x - reach;
      for (let k = 0; k < weights.length; k++) sum += weights[k] * values[begin + k];
    } else {
      for (let k = -reach; k <= reach; k++)
        sum += weights[k + reach] * values[start + Math.max(0, Math.min(width - 1, x + k))];
    }
    out[start + x] = sum;
  }
}
