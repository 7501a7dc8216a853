/** Files that would end the process that reads them: they end a reader, and nothing else. */
import { readFileSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createReader } from '../decode/reader.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById } from '../frames/frame-row.ts';
import { originalPath } from '../originals/store-original.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

const dng = (): Buffer => Buffer.from(readFileSync(join(inject('photographs'), 'SML_0101.dng')));

/** A copy with the count of one entry changed, in whatever directory it stands; entries are 12 bytes, counts at 4. */
function withCount(tag: number, count: number): Buffer {
  const bytes = dng();
  const visit = (at: number): boolean => {
    for (let i = 0; i < bytes.readUInt16LE(at); i++) {
      const entry = at + 2 + i * 12;
      const found = bytes.readUInt16LE(entry);
      if (found === tag) {
        bytes.writeUInt32LE(count, entry + 4);
        return true;
      }
      // Directories beneath: SubIFDs, Exif, GPS.
      if ([330, 34665, 34853].includes(found) && visit(bytes.readUInt32LE(entry + 8))) return true;
    }
    return false;
  };
  if (visit(bytes.readUInt32LE(4))) return bytes;
  // The demo camera does not write it: an entry of the first directory takes its place.
  const first = bytes.readUInt32LE(4) + 2;
  const entries = bytes.readUInt16LE(first - 2);
  const last = first + (entries - 1) * 12;
  bytes.writeUInt16LE(tag, last);
  bytes.writeUInt32LE(count, last + 4);
  return bytes;
}

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.remove());

describe('a damaged file', () => {
  it.concurrent.each([
    [40962, 0x7fffffff],
    [41486, 0xffffffff],
    [50721, 100_000_000]
  ])(
    'whose tag %i claims %i values is opened or refused in words, and the app goes on',
    async (tag, count) => {
      const { id } = await addFrame(test.app, test.jobId, `${tag}.dng`, bytesOf(withCount(tag, count)));
      const frame = await until(async () => {
        const found = await frameById(test.app, id);
        return found?.state !== 'preparing' && found;
      }, 100);
      if (frame.state === 'failed') expect(frame.error).toMatch(/damaged|cannot be read/);
      const sound = Buffer.concat([dng(), Buffer.from(String(tag))]);
      const next = await addFrame(test.app, test.jobId, `after-${tag}.dng`, bytesOf(sound));
      await until(async () => (await frameById(test.app, next.id))?.measured === true);
    }
  );

  it('is refused when its stored original is no longer what was added', async () => {
    const bytes = Buffer.concat([dng(), Buffer.from('rot')]);
    const { id } = await addFrame(test.app, test.jobId, 'rot.dng', bytesOf(bytes));
    const { sha256 } = (await until(async () => {
      const found = await frameById(test.app, id);
      return found?.measured && found;
    }))!;
    writeFileSync(originalPath(test.app.data, sha256), Buffer.concat([dng(), Buffer.from('rust')]));
    await test.app.db.query(`update frames set state = 'preparing' where id = $1`, [id]);
    await test.app.enqueue('prepare-frame', [id]);
    const failed = await until(async () => {
      const found = await frameById(test.app, id);
      return found?.state === 'failed' && found;
    });
    expect(failed.error).toMatch(/no longer what was added/);
  });
});

describe('a reader', () => {
  const path = (): string => {
    const file = join(mkdtempSync(join(tmpdir(), 'line-true-reader-')), 'a.dng');
    writeFileSync(file, dng());
    return file;
  };

  it('that takes too long or too much memory is ended, twice; then the file is left alone', async () => {
    for (const limits of [{ seconds: 0.05 }, { bytes: 1e6 }]) {
      const reader = createReader(limits);
      await expect(reader.read(path(), 'a.dng')).rejects.toThrow(/broke off twice/);
      reader.close();
    }
  });

  it('gives the same file the same values, one after another and at once, and stops when asked', async () => {
    const reader = createReader();
    const file = path();
    const reads = await Promise.all([1, 2, 3].map(() => reader.read(file, 'a.dng')));
    const data = reads.map(({ decoded }) => (decoded.kind === 'mosaic' ? decoded.mosaic.data : null)!);
    expect(data[0].length).toBeGreaterThan(1e6);
    for (const other of data.slice(1))
      expect(Buffer.compare(Buffer.from(other), Buffer.from(data[0]))).toBe(0);
    expect(new Set(reads.map(({ sha256 }) => sha256)).size).toBe(1);
    const stop = new AbortController();
    const stopped = reader.read(file, 'a.dng', { signal: stop.signal });
    stop.abort(new Error('not wanted any more'));
    await expect(stopped).rejects.toThrow(/not wanted/);
    await expect(reader.read(file, 'notes.txt')).resolves.toBeDefined();
    reader.close();
  });
});
