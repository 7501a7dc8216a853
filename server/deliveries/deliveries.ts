/** Deliveries: starting one, its state, and what can be done with it while it runs. */
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { type FrameRow, framesOfJob } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { DELIVER, enqueueMany } from '../queue.ts';
import { removeHalfWritten } from '../originals/write-whole.ts';
import { deliveryFolder, pathInFolder } from './delivery-folder.ts';
import { listDeliverables } from './deliverables.ts';
import { type Estimate, estimateDelivery } from './estimate.ts';
import { type NamedFrame, type NamedItem, nameItems } from './name-items.ts';

export type ItemState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled' | 'skipped';

export interface ItemRow {
  id: string;
  frame_id: string;
  frame: string;
  deliverable: string;
  file: string;
  placed: string | null;
  state: ItemState;
  progress: number;
  error: string | null;
  bytes: number | null;
  width: number | null;
  height: number | null;
  quality: number | null;
  encodes: number | null;
  sha256: string | null;
}

export interface DeliveryRow {
  id: string;
  job_id: string;
  paused: boolean;
  cancelled: boolean;
  created_at: string;
}

/** Pairs of a frame's and a deliverable's id. */
export type Pick = [string, string];

/** Most pictures of one delivery. */
const MOST_ITEMS = 20_000;

interface DeliveredFrame extends NamedFrame {
  row: FrameRow & { facts: FrameFacts };
}

async function namedPicks(
  app: App,
  jobId: string,
  picks: readonly Pick[]
): Promise<NamedItem<DeliveredFrame>[]> {
  if (picks.length === 0) throw new UserError('Tick at least one picture.');
  if (picks.length > MOST_ITEMS)
    throw new UserError(`A delivery holds up to ${MOST_ITEMS} pictures. Split it.`);
  const job = await jobById(app, jobId);
  if (!job) throw new UserError('This job no longer exists.');
  const frames = new Map((await framesOfJob(app, jobId)).map((frame) => [frame.id, frame]));
  const deliverables = new Map((await listDeliverables(app)).map((row) => [row.id, row.document]));
  const chosen = picks.map(([frameId, deliverableId]) => {
    const row = frames.get(frameId);
    const deliverable = deliverables.get(deliverableId);
    if (!row || !deliverable)
      throw new UserError('A chosen frame or deliverable no longer exists. Reload the page.');
    if (row.state !== 'ready' || !row.facts)
      throw new UserError(`${row.name} is not ready to be delivered yet.`);
    const { crop } = completeRecipe(row.recipe);
    const frame: DeliveredFrame = {
      id: row.id,
      name: row.name,
      room: row.room,
      taken: row.facts.taken,
      ratio: crop.enabled ? crop.ratio : 'original',
      row: row as DeliveredFrame['row']
    };
    return { frame, deliverable };
  });
  return nameItems(job, chosen);
}

export interface Planned extends Estimate {
  items: { frame: string; deliverable: string; file: string }[];
}

/** What a delivery would make, with an estimate; refuses what starting it would refuse. */
export async function planDelivery(app: App, jobId: string, picks: readonly Pick[]): Promise<Planned> {
  const items = await namedPicks(app, jobId, picks);
  const estimate = await estimateDelivery(
    app,
    items.map(({ frame, deliverable }) => ({ frameId: frame.id, frame: frame.row.facts.size, deliverable }))
  );
  return {
    items: items.map(({ frame, deliverable, file }) => ({
      frame: frame.name,
      deliverable: deliverable.name,
      file
    })),
    ...estimate
  };
}

/** Queues a delivery of frames as their recipes stand now. */
export async function startDelivery(app: App, jobId: string, picks: readonly Pick[]): Promise<string> {
  const items = await namedPicks(app, jobId, picks);
  const rows = items.map(({ frame, deliverable, file, rights }, position) => ({
    position,
    frame_id: frame.id,
    deliverable,
    recipe: frame.row.recipe,
    rights,
    file
  }));
  const client = await app.db.connect();
  let id: string;
  try {
    await client.query('begin');
    const made = await client.query<{ id: string }>(
      'insert into deliveries (job_id) values ($1) returning id',
      [jobId]
    );
    id = made.rows[0].id;
    await client.query(
      `insert into delivery_items (delivery_id, position, frame_id, deliverable, recipe, rights, file)
       select $1, position, frame_id, deliverable, recipe, rights, file
       from jsonb_to_recordset($2::jsonb)
         as r(position int, frame_id uuid, deliverable jsonb, recipe jsonb, rights jsonb, file text)`,
      [id, JSON.stringify(rows)]
    );
    await client.query('commit');
  } catch (error) {
    await client.query('rollback');
    throw error;
  } finally {
    client.release();
  }
  await enqueueFrames(app, id);
  return id;
}

/** Queues every frame of a delivery that still has pictures to make. */
async function enqueueFrames(app: App, deliveryId: string): Promise<void> {
  const { rows } = await app.db.query<{ frame_id: string }>(
    `select frame_id from delivery_items where delivery_id = $1 and state = 'queued'
     group by frame_id order by min(position)`,
    [deliveryId]
  );
  await enqueueMany(
    app,
    DELIVER,
    rows.map(({ frame_id }) => `${deliveryId}:${frame_id}`)
  );
}

export async function deliveriesOfJob(app: App, jobId: string): Promise<DeliveryRow[]> {
  const { rows } = await app.db.query<DeliveryRow>(
    'select id, job_id, paused, cancelled, created_at from deliveries where job_id = $1 order by created_at desc limit 30',
    [jobId]
  );
  return rows;
}

export async function deliveryById(app: App, id: string): Promise<DeliveryRow | null> {
  const { rows } = await app.db.query<DeliveryRow>(
    'select id, job_id, paused, cancelled, created_at from deliveries where id = $1',
    [id]
  );
  return rows[0] ?? null;
}

export async function itemsOf(app: App, deliveryId: string): Promise<ItemRow[]> {
  const { rows } = await app.db.query<ItemRow>(
    `select i.id, i.frame_id, f.name as frame, i.deliverable->>'name' as deliverable, i.file, i.placed, i.state, i.progress,
       i.error, i.bytes::float8 as bytes, i.width, i.height, i.quality, i.encodes, i.sha256
     from delivery_items i join frames f on f.id = i.frame_id where i.delivery_id = $1 order by i.position`,
    [deliveryId]
  );
  return rows;
}

export type DeliveryAction = 'pause' | 'resume' | 'cancel' | 'retry';

export async function actOnDelivery(app: App, id: string, action: DeliveryAction): Promise<void> {
  if (action === 'pause' || action === 'resume') {
    await app.db.query('update deliveries set paused = $2 where id = $1', [id, action === 'pause']);
  } else if (action === 'cancel') {
    await app.db.query('update deliveries set cancelled = true, paused = false where id = $1', [id]);
    const { rows } = await app.db.query<{ id: string }>(
      `update delivery_items set state = 'cancelled', finished_at = now()
       where delivery_id = $1 and state in ('queued', 'running') returning id`,
      [id]
    );
    for (const item of rows) app.running.get(item.id)?.abort();
  } else {
    await app.db.query('update deliveries set cancelled = false, paused = false where id = $1', [id]);
    await app.db.query(
      `update delivery_items set state = 'queued', progress = 0, error = null
       where delivery_id = $1 and state in ('failed', 'cancelled')`,
      [id]
    );
  }
  if (action === 'resume' || action === 'retry') await enqueueFrames(app, id);
}

/** Asks again for what this machine left undone when it last stopped, and removes what it left half written. */
export async function resumeDeliveries(app: App): Promise<void> {
  const broken = await app.db.query<{ placed: string | null; job_id: string; name: string }>(
    `update delivery_items i set state = 'queued', progress = 0 from deliveries d join jobs j on j.id = d.job_id
     where i.delivery_id = d.id and i.state = 'running' and i.worker = $1 returning i.placed, j.id as job_id, j.name`,
    [app.worker]
  );
  for (const { placed, job_id: id, name } of broken.rows)
    if (placed) await removeHalfWritten(pathInFolder(deliveryFolder(app.deliveries, { id, name }), placed));
  const { rows } = await app.db.query<{ id: string }>(
    `select distinct d.id from deliveries d join delivery_items i on i.delivery_id = d.id
     where i.state = 'queued' and not d.paused and not d.cancelled`
  );
  for (const { id } of rows) await enqueueFrames(app, id);
}
