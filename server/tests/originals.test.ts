/** Originals that one job gives up while another takes them: what was answered for stays. */
import { existsSync, truncateSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { addFrame } from '../frames/add-frame.ts';
import { createJob } from '../jobs/jobs.ts';
import { removeJob } from '../jobs/remove-job.ts';
import { derivedPath } from '../originals/derived.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';
import { originalPath } from '../originals/store-original.ts';
import { type TestApp, bytesOf, openTestApp } from './test-app.ts';

let test: TestApp;
let files: Buffer[];
beforeAll(async () => {
  test = await openTestApp();
  files = await Promise.all(
    Array.from({ length: 40 }, (_, i) =>
      sharp({ create: { width: 40, height: 30, channels: 3, background: { r: i, g: 90, b: 200 } } })
        .png()
        .toBuffer()
    )
  );
});
afterAll(() => test.remove());

const add = (job: string, i: number) => addFrame(test.app, job, `f${i}.png`, bytesOf(files[i]));
const hashesOf = async (job: string): Promise<string[]> =>
  (
    await test.app.db.query<{ sha256: string }>('select sha256 from frames where job_id = $1', [job])
  ).rows.map(({ sha256 }) => sha256);

describe('originals', () => {
  it('that were answered for are there, whatever job is removed at the same time', async () => {
    let job = await createJob(test.app, { name: 'Card' });
    for (let i = 0; i < files.length; i++) await add(job, i);
    for (let round = 0; round < 4; round++) {
      const next = await createJob(test.app, { name: `Card ${round}` });
      const before = await hashesOf(job);
      // The card is dropped in again while its job is being removed.
      const removing = removeJob(test.app, job);
      await Promise.all(files.map((_, i) => add(next, i)));
      await removing;
      const kept = await hashesOf(next);
      expect(kept).toHaveLength(files.length);
      expect(kept.filter((sha256) => !existsSync(originalPath(test.app.data, sha256)))).toEqual([]);
      expect(new Set(kept)).toEqual(new Set(before));
      job = next;
    }
    const last = await hashesOf(job);
    expect(await removeJob(test.app, job)).toBeGreaterThan(0);
    expect(last.filter((sha256) => existsSync(originalPath(test.app.data, sha256)))).toEqual([]);
    const { rows } = await test.app.db.query('select 1 from originals where sha256 = any($1)', [last]);
    expect(rows).toEqual([]);
  });

  it('are not left behind by a frame that could not be added', async () => {
    const job = await createJob(test.app, { name: 'Gone' });
    await removeJob(test.app, job);
    await expect(add(job, 0)).rejects.toThrow(/no longer exists/);
    const { rows } = await test.app.db.query('select sha256 from originals');
    expect(rows).toEqual([]);
  });

  it('give up what was found out about them where its file was cut short, so that it is found out again', async () => {
    const sha256 = 'c'.repeat(64);
    await keepJson(test.app, sha256, 'edges.json', { edges: [1, 2] });
    expect(await keptJson(test.app, sha256, 'edges.json')).toEqual({ edges: [1, 2] });
    truncateSync(derivedPath(test.app.data, sha256, 'edges.json'), 9);
    expect(await keptJson(test.app, sha256, 'edges.json')).toBeNull();
    expect(await keptJson(test.app, sha256, 'other.json')).toBeNull();
  });
});
