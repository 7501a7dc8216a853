/** Single exports as earlier versions kept them become deliveries of one, with nothing lost. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { adoptExports } from '../deliveries/adopt-exports.ts';
import { actOnDelivery, deliveryById, itemsOfFrame } from '../deliveries/deliveries.ts';
import { folderName } from '../deliveries/delivery-folder.ts';
import { jobById } from '../jobs/jobs.ts';
import { type TestApp, openTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.remove());

describe('exports of earlier versions', () => {
  it('keep their pictures, now in the job’s folder, their reports and their states', async () => {
    const { db, data } = test.app;
    await db.query(`insert into originals (sha256, bytes) values ('ab', 1)`);
    const { rows } = await db.query<{ id: string }>(
      `insert into frames (job_id, sha256, name, state) values ($1, 'ab', 'A_01.dng', 'failed') returning id`,
      [test.jobId]
    );
    const [{ id: frame }] = rows;
    const report = { picture: { sha256: 'cd', pixels: { width: 40, height: 30 } } };
    const settings = { quality: 80, longEdge: 500, ppi: 240, keepPosition: false };
    const add = async (state: string, file: string | null, error: string | null = null): Promise<string> => {
      const made = await db.query<{ id: string }>(
        `insert into exports (frame_id, settings, recipe, state, file, bytes, report, error, created_at)
         values ($1, $2, '{}', $3, $4, 7, $5, $6, clock_timestamp()) returning id`,
        [frame, settings, state, file, file ? report : null, error]
      );
      return made.rows[0].id;
    };
    const done = [await add('done', 'A_01.jpg'), await add('done', 'A_01.jpg')];
    await add('failed', null, 'why it failed');
    const open = await add('queued', null);
    mkdirSync(join(data, 'exports'), { recursive: true });
    for (const [i, id] of done.entries()) writeFileSync(join(data, 'exports', `${id}.jpg`), `picture ${i}`);

    await adoptExports(test.app);
    await adoptExports(test.app);
    const items = (await itemsOfFrame(test.app, frame)).reverse();
    expect(items.map(({ state, placed, error }) => [state, placed, error])).toEqual([
      ['done', 'A_01.jpg', null],
      ['done', 'A_01-2.jpg', null],
      ['failed', null, 'why it failed'],
      ['cancelled', null, null]
    ]);
    const folder = join(test.app.deliveries, folderName((await jobById(test.app, test.jobId))!));
    expect(readFileSync(join(folder, 'A_01-2.jpg'), 'utf8')).toBe('picture 1');
    expect(existsSync(join(data, 'exports', `${done[0]}.jpg`))).toBe(false);
    expect(items[0]).toMatchObject({
      delivery_id: done[0],
      bytes: 7,
      width: 40,
      height: 30,
      quality: 80,
      sha256: 'cd'
    });
    expect((await db.query('select 1 from exports')).rowCount).toBe(0);
    // What was still to be made can be asked for again.
    expect(await deliveryById(test.app, open)).not.toBeNull();
    await actOnDelivery(test.app, open, 'retry');
    expect((await itemsOfFrame(test.app, frame))[0].state).toBe('queued');
  });
});
