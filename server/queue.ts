/**
 * Queued work. The row in `frames` or `exports` is the truth; a queue entry only says that there is something
 * to do. Work begins by claiming the row, so that an entry delivered twice does no harm.
 */
import type { App } from './app.ts';
import { prepareFrame } from './frames/prepare-frame.ts';
import { removeAbandoned } from './originals/store-original.ts';
import { resumeDeliveries } from './deliveries/deliveries.ts';
import { removeHalfWritten } from './originals/write-whole.ts';
import { runDelivery } from './deliveries/run-delivery.ts';
import { exportPath, runExport } from './deliveries/run-export.ts';

export const PREPARE = 'prepare-frame';
export const EXPORT = 'export-frame';
export const DELIVER = 'deliver-frame';

const QUEUE = { retryLimit: 2, expireInSeconds: 1800 };
const POLL = { pollingIntervalSeconds: 0.5, batchSize: 1 };

export async function enqueue(app: App, queue: string, id: string): Promise<void> {
  await app.boss.send(queue, { id }, QUEUE);
}

/** Asks for many in their order: put in together, they would all have the same time and come in any order. */
export async function enqueueMany(app: App, queue: string, ids: readonly string[]): Promise<void> {
  for (const id of ids) await enqueue(app, queue, id);
}

/** Starts taking work, after asking again for what this machine left undone when it last stopped. */
export async function startWork(app: App): Promise<void> {
  await removeAbandoned(app.data);
  for (const queue of [PREPARE, EXPORT, DELIVER]) await app.boss.createQueue(queue);
  const broken = await app.db.query<{ id: string }>(
    `update exports set state = 'queued', progress = 0 where state = 'running' and worker = $1 returning id`,
    [app.worker]
  );
  for (const { id } of broken.rows) await removeHalfWritten(exportPath(app.data, id));
  const frames = await app.db.query<{ id: string }>(`select id from frames where state = 'preparing'`);
  for (const { id } of frames.rows) await enqueue(app, PREPARE, id);
  const exports = await app.db.query<{ id: string }>(`select id from exports where state = 'queued'`);
  for (const { id } of exports.rows) await enqueue(app, EXPORT, id);
  await resumeDeliveries(app);
  await app.boss.work<{ id: string }>(EXPORT, POLL, async ([job]) => runExport(app, job.data.id));
  // Two of each: unpacking keeps one core busy, while the other works on what was unpacked before.
  for (let n = 0; n < 2; n++) {
    await app.boss.work<{ id: string }>(PREPARE, POLL, async ([job]) => prepareFrame(app, job.data.id));
    await app.boss.work<{ id: string }>(DELIVER, POLL, async ([job]) => runDelivery(app, job.data.id));
  }
}
