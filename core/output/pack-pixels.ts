/** Rows of encoded values as the bytes of a picture `width` pixels wide; each packer takes the rows of one tile. */
import type { Rows } from '../tile/tile.ts';

export type Pack = (rows: Rows) => void;

/** RGB of 8 or 16 bits; where there is no real pixel it is black. */
export function packRgb(out: Uint8Array | Uint16Array, width: number): Pack {
  const most = out instanceof Uint16Array ? 65535 : 255;
  return ({ r, g, b, valid, top }) => {
    for (let i = 0, at = top * width * 3; i < r.length; i++, at += 3) {
      out[at] = valid[i] * r[i] * most + 0.5;
      out[at + 1] = valid[i] * g[i] * most + 0.5;
      out[at + 2] = valid[i] * b[i] * most + 0.5;
    }
  };
}

/** 8-bit RGBA for a canvas; clear where there is no real pixel, so that the sheet shows through. */
export const packRgba8 =
  (out: Uint8ClampedArray, width: number): Pack =>
  ({ r, g, b, valid, top }) => {
    for (let i = 0, at = top * width * 4; i < r.length; i++, at += 4) {
      out[at] = r[i] * 255;
      out[at + 1] = g[i] * 255;
      out[at + 2] = b[i] * 255;
      out[at + 3] = valid[i] * 255;
    }
  };
