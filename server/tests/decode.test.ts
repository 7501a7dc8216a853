/** The raw library is loaded once for all files: none may leave traces in the next, nor may its memory grow. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, inject, it } from 'vitest';
import { decodeFile } from '../decode/decode-file.ts';
import { badFiles } from './bad-files.ts';

const photograph = (name: string): string => join(inject('photographs'), name);
async function mosaicOf(name: string): Promise<Buffer> {
  const decoded = await decodeFile(readFileSync(photograph(name)), name);
  if (decoded.kind !== 'mosaic') throw new Error('The demo camera writes mosaics.');
  const { buffer, byteOffset, byteLength } = decoded.mosaic.data;
  return Buffer.from(buffer, byteOffset, byteLength);
}

describe('unpacking many files', () => {
  it('gives each the same values, whatever came before it', async () => {
    const wanted = await mosaicOf('SML_0101.dng');
    const other = await mosaicOf('CPR_0003.dng');
    expect(other.equals(wanted)).toBe(false);
    for (const { name, bytes } of await badFiles(photograph('SML_0101.dng'))) {
      await decodeFile(bytes, name).catch(() => {});
      expect((await mosaicOf('SML_0101.dng')).equals(wanted), `after ${name}`).toBe(true);
    }
    expect((await mosaicOf('CPR_0003.dng')).equals(other)).toBe(true);
  });

  it('takes no more memory for many than for a few', async () => {
    const file = readFileSync(photograph('SML_0101.dng'));
    const resident = async (files: number): Promise<number> => {
      for (let i = 0; i < files; i++) await decodeFile(file, 'SML_0101.dng');
      return process.memoryUsage().rss;
    };
    const few = await resident(10);
    const many = await resident(40);
    // Each file has 3 MB of values; a library loaded anew for each would have left 300 MB and more behind.
    expect(many - few).toBeLessThan(150e6);
  });
});
