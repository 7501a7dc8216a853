/**
 * Sharpening for the output at its own size: unsharp masking of the luma, kept within what the neighbourhood holds, so that
 * it steepens edges without drawing halos along them.
 */
import { inArena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
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

/**
 * Sharpens rows [from, to) of interleaved RGB (encoded values) into `out`, which has the size of `pixels`. The luma's
 * change is added to all three colours: hues stay.
 */
export function sharpen(
  pixels: Uint8Array | Uint16Array,
  { width, height }: FrameSize,
  out: Uint8Array | Uint16Array,
  { amount, radius }: SharpenOptions,
  from = 0,
  to = height
): void {
  const deep = pixels instanceof Uint16Array;
  const weights = gaussian(radius);
  const reach = (weights.length - 1) / 2;
  const rows = Math.min(height, to + reach) - Math.max(0, from - reach);
  inArena((arena) => {
    // Four planes, a row, and room for each to begin at a round address.
    const work = arena.float32((4 * rows + 1) * width + 5 * 16);
    kernels().sharpenRows(
      addressOf(pixels),
      width,
      height,
      addressOf(out),
      deep ? 1 : 0,
      arena.addressOf(weights),
      reach,
      amount,
      OVERSHOOT * (deep ? 65535 : 255),
      from,
      to,
      addressOf(work)
    );
  });
}
