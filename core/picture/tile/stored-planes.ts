/**
 * Planes as 16-bit numbers, interleaved, for proxies and full-size tiles: code = 65535 · √(value / 2.5). The root spends the
 * codes as photon noise does, finest in the shadows; the largest value stands for light of e^1.5 = 4.48, 2.16 EV above white.
 */
import { srgbDecode } from '../../colour/srgb-transfer.ts';
import { addressOf, giveBack, isShared, keptTable, takeUint16 } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { type Planes, addresses } from './planes.ts';

/** Largest value that can be stored. */
export const MOST_STORED = 2.5;

const decoded = (of: (code: number) => number): Float32Array =>
  Float32Array.from({ length: 65536 }, (_, code) => of(code / 65535));

/** Values of the codes. */
export const STORED_16 = decoded((share) => MOST_STORED * share * share);
/** Plain linear codes, as pictures from elsewhere have them. */
export const LINEAR_16 = decoded((share) => share);
export const SRGB_16 = decoded(srgbDecode);

/** Writes rows [from, to) of planes as interleaved codes, row 0 at the beginning of `out`. */
export function storePlanes(planes: Planes, out: Uint16Array, from = 0, to = planes.height): void {
  const { width } = planes;
  storeArea(planes, { left: 0, top: from, width, height: to - from }, out.subarray(from * width * 3));
}

/** Writes a part of planes, `width` by `height` pixels from a place on, as interleaved codes. */
export function storeArea(
  planes: Planes,
  { left, top, width, height }: { left: number; top: number; width: number; height: number },
  out: Uint16Array
): void {
  const scale = 65535 / Math.sqrt(MOST_STORED);
  const to = addressOf(out);
  for (let y = 0; y < height; y++)
    kernels().storeCodes(
      ...addresses(planes, (top + y) * planes.width + left),
      width,
      to + y * width * 6,
      scale
    );
}

/** Copies interleaved codes, `width` pixels to a row, into planes at a place. */
export function fillPlanes(
  codes: Uint16Array,
  width: number,
  planes: Planes,
  values: Float32Array,
  left = 0,
  top = 0
): void {
  if (!isShared(codes)) {
    const copy = takeUint16(codes.length);
    try {
      copy.set(codes);
      fillPlanes(copy, width, planes, values, left, top);
    } finally {
      giveBack(copy);
    }
    return;
  }
  const { fillFromCodes } = kernels();
  const table = keptTable(values);
  const rows = codes.length / 3 / width;
  for (let y = 0; y < rows; y++)
    fillFromCodes(
      addressOf(codes) + y * width * 6,
      width,
      table,
      ...addresses(planes, (top + y) * planes.width + left)
    );
}
