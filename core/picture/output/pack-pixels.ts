/** Rows of encoded values as the bytes of a picture `width` pixels wide; each packer takes the rows of one tile. */
import { addressOf, giveBack, takeUint16, takeUint8 } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { addresses } from '../tile/planes.ts';
import type { Rows } from '../tile/tile.ts';

export type Pack = (rows: Rows) => void;

type Numbers = Uint8Array<ArrayBuffer> | Uint16Array<ArrayBuffer>;

/** Packs rows in the kernels' memory, and puts them where the picture is, which may be elsewhere. */
const packer =
  (
    out: { set(numbers: Numbers, at: number): void },
    width: number,
    channels: number,
    take: (length: number) => Numbers,
    pack: (rows: Rows, to: number) => void
  ): Pack =>
  (rows) => {
    const packed = take(rows.r.length * channels);
    try {
      pack(rows, addressOf(packed));
      out.set(packed, rows.top * width * channels);
    } finally {
      giveBack(packed);
    }
  };

/**
 * RGB of 8 or 16 bits; where there is no real pixel it is black. Of 8 bits what is smoother than its steps is dithered, by where in
 * the picture it is: `first` is the row of it that the tile begins with.
 */
export const packRgb = (out: Uint8Array | Uint16Array, width: number, first = 0): Pack =>
  out instanceof Uint16Array
    ? packer(out, width, 3, takeUint16, (rows, to) =>
        kernels().packRgb16(...addresses(rows), addressOf(rows.valid), rows.r.length, to)
      )
    : packer(out, width, 3, takeUint8, (rows, to) =>
        kernels().packRgb8(
          ...addresses(rows),
          addressOf(rows.valid),
          rows.width,
          rows.height,
          first + rows.top,
          to
        )
      );

/** 8-bit RGBA for a canvas; clear where there is no real pixel, so that the sheet shows through. */
export const packRgba8 = (out: Uint8ClampedArray, width: number): Pack =>
  packer(out, width, 4, takeUint8, (rows, to) =>
    kernels().packRgba8(...addresses(rows), addressOf(rows.valid), rows.r.length, to)
  );
