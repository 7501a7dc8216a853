/** Deliveries: starting one, its state, and what can be done with it while it runs. */
import { digitalSourceType, disclose, disclosureSentence } from '../../core/steps/mend/disclosure.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { ratioInHand } from '../../core/steps/crop/step.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { type Revision, revisionsForDelivery } from '../recipes/revisions.ts';
import { UserError } from '../user-error.ts';
import { type FrameRow, frameById, framesOfJob } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { DELIVER } from '../work/names.ts';
import { listDeliverables } from './deliverables.ts';
import { folderName } from './delivery-folder.ts';
import { type Estimate, estimateDelivery } from './estimate.ts';
import type { NamedFrame } from '../../core/picture/output/file-tokens.ts';
import { type NamedItem, nameItems } from './name-items.ts';

export type ItemState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled' | 'skipped';

export interface ItemRow {
  id: string;
  delivery_id: string;
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

/** A frame of a job and what is made of it. */
interface Chosen {
  row: FrameRow;
  /** The revision that is delivered; null: the frame as it stands. */
  revision: Revision | null;
  deliverable: Deliverable;
}

/** Says in what goes along with a picture what was mended in it, as far as the deliverable asks; refuses what it refuses. */
function disclosed(item: NamedItem<DeliveredFrame>): NamedItem<DeliveredFrame> {
  const { frame, deliverable, rights } = item;
  const told = disclose(completeRecipe(frame.row.recipe));
  if (deliverable.onlyDust && told.beyondDust)
    throw new UserError(
      `"${deliverable.name}" refuses frames in which more than dust was mended, and ${frame.name} is one (${told.words}). ` +
        'Mark a revision without it for delivery, or allow it in the deliverable.'
    );
  if (deliverable.onlyDust && frame.row.outside)
    throw new UserError(
      `"${deliverable.name}" refuses frames in which more than dust was mended, and ${frame.name} was changed in another ` +
        'program, where nobody can tell. Leave it out, or allow it in the deliverable.'
    );
  if (deliverable.disclosure === 'none') return item;
  const sourceType = digitalSourceType(told, frame.row.facts.rendering);
  const says = deliverable.disclosure === 'caption' && (told.beyondDust || told.dust > 0);
  const caption = says
    ? [rights.caption, disclosureSentence(told)].filter(Boolean).join(' ')
    : rights.caption;
  return { ...item, rights: { ...rights, caption, sourceType } };
}

async function named(
  context: Context,
  jobId: string,
  chosen: readonly Chosen[]
): Promise<NamedItem<DeliveredFrame>[]> {
  const job = await jobById(context, jobId);
  if (!job) throw new UserError('This job no longer exists.');
  const items = chosen.map(({ row, revision, deliverable }) => {
    if (row.state !== 'ready' || !row.facts)
      throw new UserError(`${row.name} is not ready to be delivered yet.`);
    const { crop } = completeRecipe(row.recipe);
    const frame: DeliveredFrame = {
      id: row.id,
      name: row.name,
      room: row.room,
      taken: row.facts.taken,
      ratio: ratioInHand(crop),
      revision,
      row: row as DeliveredFrame['row']
    };
    return { frame, deliverable };
  });
  return nameItems(job, items).map(disclosed);
}

async function namedPicks(
  context: Context,
  jobId: string,
  picks: readonly Pick[]
): Promise<NamedItem<DeliveredFrame>[]> {
  if (picks.length === 0) throw new UserError('Tick at least one picture.');
  if (picks.length > MOST_ITEMS)
    throw new UserError(`A delivery holds up to ${MOST_ITEMS} pictures. Split it.`);
  const marked = await revisionsForDelivery(
    context,
    picks.map(([frameId]) => frameId)
  );
  const frames = new Map((await framesOfJob(context, jobId)).map((frame) => [frame.id, frame]));
  const deliverables = new Map((await listDeliverables(context)).map((row) => [row.id, row.document]));
  const chosen = picks.flatMap(([frameId, deliverableId]) => {
    const row = frames.get(frameId);
    const deliverable = deliverables.get(deliverableId);
    if (!row || !deliverable)
      throw new UserError('A chosen frame or deliverable no longer exists. Reload the page.');
    const revisions = marked.get(frameId) ?? [null];
    return revisions.map((revision, turn) => ({
      turn,
      item: { row: { ...row, recipe: revision?.recipe ?? row.recipe }, revision, deliverable } as Chosen
    }));
  });
  if (chosen.length > MOST_ITEMS)
    throw new UserError(
      `With all marked revisions this would be more than ${MOST_ITEMS} pictures. Split it.`
    );
  // All pictures of a frame's first revision before those of its next: a frame is opened once for each.
  const items = chosen.sort((one, other) => one.turn - other.turn).map(({ item }) => item);
  return named(context, jobId, items);
}

export interface Planned extends Estimate {
  items: { frame: string; deliverable: string; file: string }[];
}

/** What a delivery would make, with an estimate; refuses what starting it would refuse. */
export async function planDelivery(
  context: Context,
  jobId: string,
  picks: readonly Pick[]
): Promise<Planned> {
  const items = await namedPicks(context, jobId, picks);
  const estimate = await estimateDelivery(
    context,
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

/** Queues a delivery of frames by the revisions that are marked for it, else as their recipes stand now. */
export async function startDelivery(
  context: Context,
  jobId: string,
  picks: readonly Pick[]
): Promise<string> {
  return start(context, jobId, await namedPicks(context, jobId, picks));
}

/** A delivery of one: this frame as its recipe stands now, by a deliverable of its own. */
export async function deliverOne(
  context: Context,
  frameId: string,
  deliverable: Deliverable
): Promise<string> {
  const row = await frameById(context, frameId);
  if (!row) throw new UserError('This frame no longer exists.');
  return start(context, row.job_id, await named(context, row.job_id, [{ row, revision: null, deliverable }]));
}

async function start(
  context: Context,
  jobId: string,
  items: readonly NamedItem<DeliveredFrame>[]
): Promise<string> {
  const rows = items.map(({ frame, deliverable, file, rights }, position) => ({
    position,
    frame_id: frame.id,
    deliverable,
    recipe: frame.row.recipe,
    rights,
    file
  }));
  const job = await jobById(context, jobId);
  if (!job) throw new UserError('This job no longer exists.');
  const folder = folderName(job);
  const id = await inTransaction(context.db, async (client) => {
    const made = await client.query<{ id: string }>(
      'insert into deliveries (job_id, folder) select id, $2 from jobs where id = $1 returning id',
      [jobId, folder]
    );
    await client.query(
      `insert into delivery_items (delivery_id, position, frame_id, deliverable, recipe, rights, file)
       select $1, position, frame_id, deliverable, recipe, rights, file
       from jsonb_to_recordset($2::jsonb)
         as r(position int, frame_id uuid, deliverable jsonb, recipe jsonb, rights jsonb, file text)`,
      [made.rows[0].id, JSON.stringify(rows)]
    );
    return made.rows[0].id;
  });
  await context.notices.tell({ delivery: id });
  await enqueueFrames(context, id);
  return id;
}

/** Queues every frame of a delivery that still has pictures to make. */
async function enqueueFrames(context: Context, deliveryId: string): Promise<void> {
  const { rows } = await context.db.query<{ frame_id: string }>(
    `select frame_id from delivery_items where delivery_id = $1 and state = 'queued'
     group by frame_id order by min(position)`,
    [deliveryId]
  );
  await context.enqueue(
    DELIVER,
    rows.map(({ frame_id }) => `${deliveryId}:${frame_id}`)
  );
}

export async function deliveriesOfJob(context: Context, jobId: string): Promise<DeliveryRow[]> {
  const { rows } = await context.db.query<DeliveryRow>(
    'select id, job_id, paused, cancelled, created_at from deliveries where job_id = $1 order by created_at desc limit 30',
    [jobId]
  );
  return rows;
}

export async function deliveryById(context: Context, id: string): Promise<DeliveryRow | null> {
  const { rows } = await context.db.query<DeliveryRow>(
    'select id, job_id, paused, cancelled, created_at from deliveries where id = $1',
    [id]
  );
  return rows[0] ?? null;
}

const ITEMS = `select i.id, i.delivery_id, i.frame_id, f.name as frame, i.deliverable->>'name' as deliverable,
  i.file, i.placed, i.state, i.progress, i.error, i.bytes::float8 as bytes, i.width, i.height, i.quality, i.encodes, i.sha256
  from delivery_items i join frames f on f.id = i.frame_id`;

/** Pictures of a delivery in their order: all, or some by their ids. */
export async function itemsOf(
  context: Context,
  deliveryId: string,
  ids: readonly string[] | null = null
): Promise<ItemRow[]> {
  const { rows } = await context.db.query<ItemRow>(
    `${ITEMS} where i.delivery_id = $1 and ($2::uuid[] is null or i.id = any($2)) order by i.position`,
    [deliveryId, ids]
  );
  return rows;
}

/** Most pictures of a frame that are looked back at. */
const MOST_OF_FRAME = 20;

/** The latest pictures of a frame, the newest first, whichever delivery they belong to. */
export async function itemsOfFrame(context: Context, frameId: string): Promise<ItemRow[]> {
  const { rows } = await context.db.query<ItemRow>(
    `${ITEMS} join deliveries d on d.id = i.delivery_id where i.frame_id = $1
     order by d.created_at desc, i.position limit $2`,
    [frameId, MOST_OF_FRAME]
  );
  return rows;
}

export type DeliveryAction = 'pause' | 'resume' | 'cancel' | 'retry';

export async function actOnDelivery(context: Context, id: string, action: DeliveryAction): Promise<void> {
  if (action === 'pause' || action === 'resume') {
    await context.db.query('update deliveries set paused = $2 where id = $1', [id, action === 'pause']);
  } else if (action === 'cancel') {
    await inTransaction(context.db, async (client) => {
      await client.query('update deliveries set cancelled = true, paused = false where id = $1', [id]);
      await client.query(
        `update delivery_items set state = 'cancelled', finished_at = now()
         where delivery_id = $1 and state in ('queued', 'running')`,
        [id]
      );
    });
  } else {
    await inTransaction(context.db, async (client) => {
      await client.query('update deliveries set cancelled = false, paused = false where id = $1', [id]);
      await client.query(
        `update delivery_items set state = 'queued', progress = 0, error = null
         where delivery_id = $1 and state in ('failed', 'cancelled')`,
        [id]
      );
    });
  }
  // Whoever makes its pictures hears of it, too.
  await context.notices.tell({ delivery: id });
  if (action === 'resume' || action === 'retry') await enqueueFrames(context, id);
}
