/** How a picture is sharpened for where it is shown, at its own size. */
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
