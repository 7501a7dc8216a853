/** Rows of encoded values as the bytes of a picture `width` pixels wide; each packer takes the rows of one tile. */
import { addressOf, giveBack, takeUint16, takeUint8 } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { addresses } from '../tile/planes.ts';
import type { Rows } from '../tile/tile.ts';

export type Pack = (rows: Rows) => void;

type Numbers = Uint8Array<ArrayBuffer> | Uint16Array<ArrayBuffer>;
type PackKernel = 'packRgb8' | 'packRgb16' | 'packRgba8';

/** Packs rows in the kernels' memory, and puts them where the picture is, which may be elsewhere. */
const packer =
  (
    out: { set(numbers: Numbers, at: number): void },
    width: number,
    kernel: PackKernel,
    channels: number,
    take: (length: number) => Numbers
  ): Pack =>
  (rows) => {
    const { length } = rows.r;
    const packed = take(length * channels);
    try {
      kernels()[kernel](...addresses(rows), addressOf(rows.valid), length, addressOf(packed));
      out.set(packed, rows.top * width * channels);
    } finally {
      giveBack(packed);
    }
  };

/** RGB of 8 or 16 bits; where there is no real pixel it is black. */
export const packRgb = (out: Uint8Array | Uint16Array, width: number): Pack =>
  out instanceof Uint16Array
    ? packer(out, width, 'packRgb16', 3, takeUint16)
    : packer(out, width, 'packRgb8', 3, takeUint8);

/** 8-bit RGBA for a canvas; clear where there is no real pixel, so that the sheet shows through. */
export const packRgba8 = (out: Uint8ClampedArray, width: number): Pack =>
  packer(out, width, 'packRgba8', 4, takeUint8);
