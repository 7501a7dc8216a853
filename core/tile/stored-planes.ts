/**
 * Planes as 16-bit numbers, interleaved, for proxies and full-size tiles: code = 65535 · √(value / 2.5). The root spends the
 * codes as photon noise does, finest in the shadows; the largest value stands for light of e^1.5 = 4.48, 2.16 EV above white.
 */
import { srgbDecode } from '../colour/srgb-transfer.ts';
import type { Planes } from './planes.ts';

/** Largest value that can be stored. */
export const MOST_STORED = 2.5;

const decoded = (of: (code: number) => number): Float32Array =>
  Float32Array.from({ length: 65536 }, (_, code) => of(code / 65535));

/** Values of the codes. */
export const STORED_16 = decoded((share) => MOST_STORED * share * share);
/** The same up to white, for pictures that show all above it as white. */
export const STORED_TO_WHITE_16 = STORED_16.map((value) => Math.min(1, value));
/** Plain linear codes, as pictures from elsewhere have them. */
export const LINEAR_16 = decoded((share) => share);
export const SRGB_16 = decoded(srgbDecode);

/** Writes rows [from, to) of planes as interleaved codes, row 0 at the beginning of `out`. */
export function storePlanes(planes: Planes, out: Uint16Array, from = 0, to = planes.height): void {
  const scale = 65535 / Math.sqrt(MOST_STORED);
  const code = (value: number): number => (value > 0 ? Math.min(65535, Math.sqrt(value) * scale + 0.5) : 0);
  for (let i = from * planes.width, at = i * 3; i < to * planes.width; i++, at += 3) {
    out[at] = code(planes.r[i]);
    out[at + 1] = code(planes.g[i]);
    out[at + 2] = code(planes.b[i]);
  }
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
  const rows = codes.length / 3 / width;
  for (let y = 0; y < rows; y++) {
    let to = (top + y) * planes.width + left;
    let from = y * width * 3;
    for (let x = 0; x < width; x++, to++, from += 3) {
      planes.r[to] = values[codes[from]];
      planes.g[to] = values[codes[from + 1]];
      planes.b[to] = values[codes[from + 2]];
    }
  }
}
