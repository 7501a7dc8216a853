/** Looks as bytes: the length of a header, the header as JSON, then the values in single precision, little-endian. */
import type { Look } from './look.ts';

export function storeLook({ values, ...header }: Look): Uint8Array<ArrayBuffer> {
  const json = new TextEncoder().encode(JSON.stringify(header));
  // Values begin at a multiple of four.
  const length = Math.ceil(json.length / 4) * 4;
  const bytes = new Uint8Array(4 + length + values.length * 4).fill(0x20);
  new DataView(bytes.buffer).setUint32(0, length, true);
  bytes.set(json, 4);
  new Float32Array(bytes.buffer, 4 + length).set(values);
  return bytes;
}

export function readStoredLook(bytes: Uint8Array): Look {
  // A copy: the bytes may lie anywhere in a larger buffer.
  const own = new Uint8Array(bytes);
  const length = new DataView(own.buffer).getUint32(0, true);
  const header = JSON.parse(new TextDecoder().decode(own.subarray(4, 4 + length))) as Omit<Look, 'values'>;
  return { ...header, values: new Float32Array(own.buffer, 4 + length) };
}
