import { existsSync } from 'node:fs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addFrame } from '../frames/add-frame.ts';
import { changeFrames, framesOfJob } from '../frames/frame-row.ts';
import { changeJob, createJob, jobById, listJobs, validJobChange } from '../jobs/jobs.ts';
import { lossOf, removeFrames, removeJob } from '../jobs/remove-job.ts';
import { originalPath } from '../originals/store-original.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const pictures: Buffer[] = [];

beforeAll(async () => {
  test = await openTestApp();
  for (const shade of [60, 120, 180]) {
    const background = { r: shade, g: shade, b: shade };
    pictures.push(
      await sharp({ create: { width: 320, height: 200, channels: 3, background } })
        .jpeg()
        .toBuffer()
    );
  }
}, 60000);
afterAll(() => test.remove());

async function jobWith(...which: number[]): Promise<string> {
  const job = await createJob(test.app, { name: `Job of ${which.length}` });
  for (const i of which) await addFrame(test.app, job, `P${i}.jpg`, bytesOf(pictures[i]));
  await until(async () => (await framesOfJob(test.app, job)).every(({ state }) => state === 'ready'));
  // What has just come in is not removed: it may be about to become a frame elsewhere.
  await test.app.db.query("update originals set created_at = created_at - interval '1 minute'");
  return job;
}
const isStored = (sha256: string): boolean => existsSync(originalPath(test.app.data, sha256));

describe('frames of a set', () => {
  it('are chosen or left out, and named, several at once, and no others', async () => {
    const job = await jobWith(0, 1, 2);
    const ids = (await framesOfJob(test.app, job)).map(({ id }) => id);
    await changeFrames(test.app, job, ids.slice(0, 2), { choice: 'chosen' });
    await changeFrames(test.app, job, ids.slice(1), { room: '  Hall ' });
    const told = (await framesOfJob(test.app, job)).map(({ choice, room }) => [choice, room]);
    expect(told).toEqual([
      ['chosen', ''],
      ['chosen', 'Hall'],
      ['undecided', 'Hall']
    ]);
    // Frames of another job are not reached by way of this one.
    const other = await createJob(test.app, { name: 'Other' });
    await changeFrames(test.app, other, ids, { choice: 'left out' });
    expect((await framesOfJob(test.app, job)).map(({ choice }) => choice)).not.toContain('left out');
    await removeJob(test.app, job);
  });

  it('give their originals’ space back when they are removed, unless another job stands on them', async () => {
    const [first, second] = [await jobWith(0, 1), await jobWith(1, 2)];
    const frames = await framesOfJob(test.app, first);
    const [alone, shared] = frames.map(({ sha256 }) => sha256);
    const loss = await lossOf(test.app, first, null);
    expect(loss).toEqual({ frames: 2, worked: 0, deliveries: 0, bytes: pictures[0].length });
    expect(await lossOf(test.app, first, [frames[1].id])).toMatchObject({ frames: 1, bytes: 0 });
    expect(await removeJob(test.app, first)).toBe(pictures[0].length);
    expect(await jobById(test.app, first)).toBeNull();
    expect([isStored(alone), isStored(shared)]).toEqual([false, true]);
    const left = await framesOfJob(test.app, second);
    expect(await removeFrames(test.app, second, [left[0].id])).toBe(pictures[1].length);
    expect(isStored(shared)).toBe(false);
    expect(await framesOfJob(test.app, second)).toHaveLength(1);
    // The same file can be added again after it was removed.
    await addFrame(test.app, second, 'P1.jpg', bytesOf(pictures[1]));
    await until(async () => (await framesOfJob(test.app, second)).every(({ state }) => state === 'ready'));
    expect(isStored(shared)).toBe(true);
  }, 60000);
});

describe('a job', () => {
  it('is renamed and changed field by field, put away, and its due day taken away again', async () => {
    const id = await createJob(test.app, { name: 'Quay', client: 'Orla Venn', due: '2026-12-01' });
    await changeJob(test.app, id, { name: ' Quay House ', site: 'Ebbfleetham' });
    expect(await jobById(test.app, id)).toMatchObject({
      name: 'Quay House',
      client: 'Orla Venn',
      site: 'Ebbfleetham',
      due: '2026-12-01',
      put_away: false
    });
    await changeJob(test.app, id, { due: null, put_away: true });
    const job = (await listJobs(test.app)).find((one) => one.id === id);
    expect(job).toMatchObject({ due: null, put_away: true, client: 'Orla Venn' });
    expect(() => validJobChange({ name: ' ' })).toThrow('name');
    expect(() => validJobChange({ due: 'soon' })).toThrow('due');
  });
});
