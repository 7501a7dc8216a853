/** Skies as bytes: width and height, then red, green and blue of each pixel as codes of sRGB in 16 bits, little-endian. */
import type { FrameSize } from '../../../math/frame-geometry.ts';

export interface StoredSky extends FrameSize {
  /** Interleaved. */
  codes: Uint16Array;
}

const HEADER = 8;

export function storeSky({ width, height, codes }: StoredSky): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEADER + codes.length * 2);
  const header = new DataView(bytes.buffer);
  header.setUint32(0, width, true);
  header.setUint32(4, height, true);
  new Uint16Array(bytes.buffer, HEADER).set(codes);
  return bytes;
}

export function readStoredSky(bytes: Uint8Array): StoredSky {
  // A copy: the bytes may lie anywhere in a larger buffer.
  const own = new Uint8Array(bytes);
  const header = new DataView(own.buffer);
  const [width, height] = [header.getUint32(0, true), header.getUint32(4, true)];
  return { width, height, codes: new Uint16Array(own.buffer, HEADER, 3 * width * height) };
}
