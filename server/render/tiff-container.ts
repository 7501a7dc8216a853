/**
 * Pixels as an uncompressed TIFF 6.0 in memory, with profile and resolution: the form in which the encoder takes pixels that
 * have a profile already. Asked for a profile, it would take the values for those of another space and convert them.
 */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import { bytesOf } from '../bytes-of.ts';

const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const UNDEFINED = 7;
const BYTES: Record<number, number> = { [SHORT]: 2, [LONG]: 4, [RATIONAL]: 8, [UNDEFINED]: 1 };
const HEADER = 8;
const ENTRY = 12;

interface Entry {
  tag: number;
  type: number;
  count: number;
  value: Buffer;
}

function numbers(
  tag: number,
  type: typeof SHORT | typeof LONG | typeof RATIONAL,
  ...values: number[]
): Entry {
  const value = Buffer.alloc(values.length * (type === SHORT ? 2 : 4));
  values.forEach((each, i) =>
    type === SHORT ? value.writeUInt16LE(each, i * 2) : value.writeUInt32LE(each, i * 4)
  );
  return { tag, type, count: value.length / BYTES[type], value };
}

/** Interleaved RGB of 8 or 16 bits (in this machine's order, which is the file's: little-endian). */
export function tiffContainer(
  pixels: Uint8Array | Uint16Array,
  { width, height }: FrameSize,
  profile: Uint8Array,
  ppi: number
): Buffer {
  const bits = pixels.BYTES_PER_ELEMENT * 8;
  // In the order of their tags, as the standard wants it.
  const entries: Entry[] = [
    numbers(256, LONG, width),
    numbers(257, LONG, height),
    numbers(258, SHORT, bits, bits, bits),
    numbers(259, SHORT, 1),
    numbers(262, SHORT, 2),
    numbers(273, LONG, 0),
    numbers(277, SHORT, 3),
    numbers(278, LONG, height),
    numbers(279, LONG, pixels.byteLength),
    numbers(282, RATIONAL, ppi, 1),
    numbers(283, RATIONAL, ppi, 1),
    numbers(284, SHORT, 1),
    numbers(296, SHORT, 2),
    { tag: 34675, type: UNDEFINED, count: profile.length, value: Buffer.from(profile) }
  ];
  const directory = Buffer.alloc(2 + entries.length * ENTRY + 4);
  const apart: Buffer[] = [];
  let end = HEADER + directory.length;
  const place = (value: Buffer): number => {
    const at = end;
    const padded = value.length % 2 === 0 ? value : Buffer.concat([value, Buffer.alloc(1)]);
    apart.push(padded);
    end += padded.length;
    return at;
  };
  directory.writeUInt16LE(entries.length, 0);
  let offsetOfPixels = 0;
  entries.forEach(({ tag, type, count, value }, i) => {
    const at = 2 + i * ENTRY;
    directory.writeUInt16LE(tag, at);
    directory.writeUInt16LE(type, at + 2);
    directory.writeUInt32LE(count, at + 4);
    if (value.length <= 4) value.copy(directory, at + 8);
    else directory.writeUInt32LE(place(value), at + 8);
    if (tag === 273) offsetOfPixels = at + 8;
  });
  directory.writeUInt32LE(end, offsetOfPixels);
  const header = Buffer.alloc(HEADER);
  header.write('II', 'latin1');
  header.writeUInt16LE(42, 2);
  header.writeUInt32LE(HEADER, 4);
  return Buffer.concat([header, directory, ...apart, bytesOf(pixels)]);
}
