/** Files that must be refused with a clear message. */
import { readFileSync } from 'node:fs';
import sharp from 'sharp';

const noise = (length: number): Buffer => {
  const out = Buffer.alloc(length);
  for (let i = 0, state = 7; i < length; i++)
    out[i] = (state = (Math.imul(state, 1103515245) + 12345) >>> 0) >>> 16;
  return out;
};

/** A copy of a DNG with the entries of its first directory changed. */
function withTags(dng: Buffer, tags: Record<number, number>): Buffer {
  const copy = Buffer.from(dng);
  const at = copy.readUInt32LE(4);
  for (let i = 0; i < copy.readUInt16LE(at); i++) {
    const entry = at + 2 + i * 12;
    const value = tags[copy.readUInt16LE(entry)];
    if (value !== undefined) copy.writeUInt32LE(value, entry + 8);
  }
  return copy;
}

export interface BadFile {
  what: string;
  name: string;
  bytes: Buffer;
  message: RegExp;
}

export async function badFiles(dngPath: string): Promise<BadFile[]> {
  const dng = readFileSync(dngPath);
  const jpeg = await sharp(noise(640 * 480 * 3), { raw: { width: 640, height: 480, channels: 3 } })
    .jpeg()
    .toBuffer();
  return [
    { what: 'an empty file', name: 'empty.dng', bytes: Buffer.alloc(0), message: /empty/ },
    {
      what: 'a text file named .dng',
      name: 'notes.dng',
      bytes: Buffer.from('Shot list\n1. west front\n'.repeat(80)),
      message: /text file/
    },
    {
      what: 'a truncated raw',
      name: 'cut.dng',
      bytes: dng.subarray(0, Math.floor(dng.length * 0.4)),
      message: /cut short|damaged/
    },
    {
      what: 'a raw with a huge false size',
      name: 'huge.dng',
      bytes: withTags(dng, { 256: 60000, 257: 60000 }),
      message: /cut short|damaged|megapixels/
    },
    {
      what: 'a JPEG cut in half',
      name: 'half.jpg',
      bytes: jpeg.subarray(0, jpeg.length >> 1),
      message: /JPEG.*damaged or cut short/
    },
    { what: 'noise named .nef', name: 'noise.nef', bytes: noise(50000), message: /cannot be read/ },
    { what: 'a file of no known kind', name: 'letter.docx', bytes: noise(5000), message: /no picture file/ },
    {
      what: 'a tiny picture',
      name: 'dot.png',
      bytes: await sharp({ create: { width: 4, height: 4, channels: 3, background: '#888' } })
        .png()
        .toBuffer(),
      message: /too small/
    }
  ];
}
