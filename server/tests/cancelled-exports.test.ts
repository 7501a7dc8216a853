/** Exports that are cancelled at any moment, beside others that are not: nothing of theirs is lost, and no memory. */
import { createHash } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { seededRandom } from '../../core/math/random.ts';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { takenBytes } from '../../core/picture/kernels/heap.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { exportFrame } from '../render/export-frame.ts';
import { type Pool, createPool } from '../render/pool.ts';

const ALL: PartialRecipe = {
  lens: { fringeOne: 60 },
  lines: { pitch: 4 },
  tone: { highlights: -60, shadows: 40, fine: 20 },
  colour: { saturation: 20, look: 'plaster', lookAmount: 60 }
};

let pool: Pool;
let png: string;
/** The threads of the pool, as they are begun. */
const threads = new Set<Worker>();
const { unref } = Worker.prototype;
Worker.prototype.unref = function (this: Worker) {
  threads.add(this);
  this.once('exit', () => threads.delete(this));
  return unref.call(this);
};

beforeAll(async () => {
  pool = createPool();
  png = join(mkdtempSync(join(tmpdir(), 'line-true-cancelled-')), 'boards.png');
  const [width, height] = [1300, 900];
  const pixels = Buffer.alloc(width * height * 3);
  for (let i = 0; i < pixels.length; i++) pixels[i] = (i * 7 + Math.floor(i / width) * 3) % 251;
  writeFileSync(
    png,
    await sharp(pixels, { raw: { width, height, channels: 3 } })
      .png()
      .toBuffer()
  );
});
afterAll(async () => {
  Worker.prototype.unref = unref;
  await pool.destroy();
});

const exported = (
  path: string,
  recipe: PartialRecipe,
  signal?: AbortSignal
): ReturnType<typeof exportFrame> =>
  exportFrame(
    {
      path,
      name: basename(path),
      recipe,
      choose: () => NO_CHOICE,
      encoding: { format: 'jpeg', quality: 85, ppi: 300, keepPosition: false, space: 'srgb' } as never,
      depth: 8,
      longEdge: 1200
    },
    pool,
    { signal }
  );
const sha256 = ({ bytes }: { bytes: Uint8Array }): string => createHash('sha256').update(bytes).digest('hex');

describe('exports', () => {
  it('that are cancelled leave others as they are, and the memory as it was', async () => {
    const raw = join(inject('photographs'), 'SML_0101.dng');
    // Threads keep tables for good: they are there after a first round.
    const wanted = [await exported(png, ALL), await exported(raw, ALL)].map(sha256);
    await Promise.all([exported(png, ALL), exported(raw, ALL)]);
    const before = takenBytes();
    const random = seededRandom(3);
    let cancelled = 0;
    const all = Array.from({ length: 24 }, async (_, i) => {
      const path = i % 3 === 0 ? raw : png;
      if (i % 2 === 0) return sha256(await exported(path, ALL)) === wanted[i % 3 === 0 ? 1 : 0];
      const stop = new AbortController();
      setTimeout(() => stop.abort(new Error('cancelled')), 4000 * random() ** 2);
      return exported(path, ALL, stop.signal).then(
        () => true,
        (error: Error) => {
          cancelled++;
          return error.message === 'cancelled';
        }
      );
    });
    expect(await Promise.all(all)).toEqual(all.map(() => true));
    expect(cancelled).toBeGreaterThan(3);
    expect(takenBytes()).toBe(before);
  });

  it('that fail give all of their memory back, whatever fails', async () => {
    await exported(png, {});
    const before = takenBytes();
    const failing: [PartialRecipe, RegExp][] = [
      [{ colour: { look: 'constructor' } }, /look of this frame is not known/],
      [{ lens: { profile: 'nobody-has-this' } }, /is not in the catalogue/],
      [{ lens: { bow: -20, wave: 5 } }, /folds back|./],
      [{ lines: { marks: [{ id: 'a', kind: 'plumb', a: [0, 0], b: [0, 0] }] } }, /./]
    ];
    for (const [recipe, why] of failing)
      await exported(png, recipe).catch((error: Error) => expect(error.message).toMatch(why));
    await expect(exported('/nowhere.png', {})).rejects.toThrow();
    expect(takenBytes()).toBe(before);
  });

  it('go on when a thread dies by itself, in the middle of its work, and its memory is given back', async () => {
    const wanted = sha256(await exported(png, ALL));
    await exported(png, ALL);
    const before = takenBytes();
    const running = exported(png, ALL);
    await new Promise((resolve) => setTimeout(resolve, 500));
    // Nobody asks it to: as if it had run out of memory.
    const [dying] = threads;
    const died = new Promise<void>((resolve) => dying.once('exit', () => resolve()));
    await dying.terminate();
    await died;
    expect(sha256(await running)).toBe(wanted);
    // The tables that the dead thread kept are made anew by the next.
    for (let n = 0; n < 3; n++) expect(sha256(await exported(png, ALL))).toBe(wanted);
    expect(takenBytes()).toBeLessThanOrEqual(before);
  });
});
