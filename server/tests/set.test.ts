import { existsSync } from 'node:fs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addFrame } from '../frames/add-frame.ts';
import { changeFrames, framesOfJob, orderFrames } from '../frames/frame-row.ts';
import { changeJob, createJob, jobById, listJobs, validJobChange } from '../jobs/jobs.ts';
import { sendFrames } from '../jobs/send-frames.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { readProxy } from '../frames/proxy.ts';
import { keepRevision, revisionsOf } from '../recipes/revisions.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { lossOf, removeFrames, removeJob } from '../jobs/remove-job.ts';
import { derivedPath } from '../originals/derived.ts';
import { writeWhole } from '../originals/write-whole.ts';
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
});
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
  });

  it('are removed while they are measured: what is written beside them meanwhile holds nothing up', async () => {
    const job = await jobWith(0);
    const [{ id, sha256 }] = await framesOfJob(test.app, job);
    let writes = true;
    const written = (async () => {
      // The folder may go while one is written.
      for (let i = 0; writes; i++)
        await writeWhole(derivedPath(test.app.data, sha256, `${i}.json`), '{}').catch(() => {});
    })();
    const removed = removeFrames(test.app, job, [id]);
    await new Promise((done) => setTimeout(done, 200));
    writes = false;
    await written;
    expect(await removed).toBe(pictures[0].length);
    expect(isStored(sha256)).toBe(false);
  });
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

describe('frames sent to another job', () => {
  const frameNamed = async (job: string, name: string) =>
    (await framesOfJob(test.app, job)).find((frame) => frame.name === name)!;

  it('have the order that a hand gave them, those that come later after it by their names, and by names again', async () => {
    const { app } = test;
    const jobId = await jobWith(0, 1, 2);
    const names = async (): Promise<string[]> => (await framesOfJob(app, jobId)).map(({ name }) => name);
    const before = await names();
    const ids = (await framesOfJob(app, jobId)).map(({ id }) => id);
    await orderFrames(app, jobId, [...ids].reverse());
    expect(await names()).toEqual([...before].reverse());
    await orderFrames(app, jobId, [ids[1]]);
    expect(await names()).toEqual([before[1], ...before.filter((_, i) => i !== 1)]);
    const other = await createJob(app, { name: 'Elsewhere' });
    await orderFrames(app, other, [...ids].reverse());
    expect(await names()).toEqual([before[1], ...before.filter((_, i) => i !== 1)]);
    await orderFrames(app, jobId, []);
    expect(await names()).toEqual(before);
  });

  it('are moved with all that is theirs, except files that are there already', async () => {
    const [from, to] = [await jobWith(0, 1), await jobWith(1)];
    const { id, version } = await frameNamed(from, 'P0.jpg');
    await saveRecipe(test.app, id, version, { tone: { exposure: 1 } } as never);
    await keepRevision(test.app, id, { tone: { exposure: 1 } } as never, 'As wanted');
    await changeFrames(test.app, from, [id], { room: 'Hall', choice: 'chosen' });
    const ids = (await framesOfJob(test.app, from)).map((frame) => frame.id);
    const { sent, known } = await sendFrames(test.app, from, { ids, to, copies: false });
    expect([sent, known]).toEqual([[id], ['P1.jpg']]);
    expect((await framesOfJob(test.app, from)).map(({ name }) => name)).toEqual(['P1.jpg']);
    const moved = await frameNamed(to, 'P0.jpg');
    expect(moved).toMatchObject({ id, room: 'Hall', choice: 'chosen', recipe: { tone: { exposure: 1 } } });
    expect((await revisionsOf(test.app, id)).map(({ name }) => name)).toEqual(['As wanted']);
    // And back.
    await sendFrames(test.app, to, { ids: [id], to: from, copies: false });
    expect((await framesOfJob(test.app, from)).map(({ name }) => name)).toEqual(['P0.jpg', 'P1.jpg']);
  });

  it('are copied, each of both worked on by itself; the original goes with the last of them', async () => {
    const [from, to] = [await jobWith(2), await createJob(test.app, { name: 'Copies' })];
    const own = await frameNamed(from, 'P2.jpg');
    await saveRecipe(test.app, own.id, own.version, { tone: { exposure: 2 } } as never);
    await keepRevision(test.app, own.id, { tone: { exposure: 2 } } as never, 'Both');
    const { sent } = await sendFrames(test.app, from, { ids: [own.id], to, copies: true });
    const copy = await frameNamed(to, 'P2.jpg');
    expect(copy).toMatchObject({ id: sent[0], state: 'ready', recipe: { tone: { exposure: 2 } } });
    expect((await revisionsOf(test.app, copy.id)).map(({ name }) => name)).toEqual(['Both']);
    await saveRecipe(test.app, copy.id, copy.version, { tone: { exposure: -1 } } as never);
    expect((await frameNamed(from, 'P2.jpg')).recipe).toMatchObject({ tone: { exposure: 2 } });
    await removeJob(test.app, from);
    expect(isStored(copy.sha256)).toBe(true);
    await inScope(async ({ ownAll }) => expect(ownAll(await readProxy(test.app, copy)).width).toBe(320));
    expect(
      (await sendFrames(test.app, to, { ids: [own.id], to: await jobWith(0), copies: true })).sent
    ).toEqual([]);
  });

  it('stay where they are where the job is this one, or gone', async () => {
    const from = await jobWith(0);
    const ids = (await framesOfJob(test.app, from)).map(({ id }) => id);
    await expect(sendFrames(test.app, from, { ids, to: from, copies: true })).rejects.toThrow('already');
    const gone = await createJob(test.app, { name: 'Gone' });
    await removeJob(test.app, gone);
    for (const copies of [true, false])
      await expect(sendFrames(test.app, from, { ids, to: gone, copies })).rejects.toThrow('no longer exists');
    expect(await framesOfJob(test.app, from)).toHaveLength(1);
  });
});
