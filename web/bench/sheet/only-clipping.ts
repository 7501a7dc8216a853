/** A picture of nothing but what clips, while a setting that moves an end is dragged. */
import type { Clipping } from '../state/clipping.ts';

/** Settings that are dragged against an end, and which end each moves. */
export const ENDS: Readonly<Record<string, 'light' | 'dark'>> = {
  exposure: 'light',
  recovery: 'light',
  white: 'light',
  highlights: 'light',
  black: 'dark',
  shadows: 'dark'
};

const CHANNELS: Record<Clipping, readonly number[]> = {
  off: [0, 1, 2],
  any: [0, 1, 2],
  red: [0],
  green: [1],
  blue: [2]
};

/**
 * 8-bit RGBA of the same size. Light: black, with each colour where it is at its top; dark: white, without each colour where
 * it is at its bottom. `clipping`: the colour that is looked at, or any.
 */
export function onlyClipping(
  data: ArrayLike<number>,
  end: 'light' | 'dark',
  clipping: Clipping = 'any'
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(data.length);
  const channels = CHANNELS[clipping];
  const [limit, plain, clipped] = end === 'light' ? [255, 0, 255] : [0, 255, 0];
  for (let i = 0; i < data.length; i += 4) {
    for (let c = 0; c < 3; c++) out[i + c] = channels.includes(c) && data[i + c] === limit ? clipped : plain;
    out[i + 3] = data[i + 3];
  }
  return out;
}
