/** Makes all pictures of one frame for a delivery: unpacked and developed once, however many there are. */
import { randomUUID } from 'node:crypto';
import { parse } from 'node:path';
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { nameKey } from '../../core/picture/output/file-name.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { hashOf } from '../../core/settings/hash.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { inTransaction } from '../database/transaction.ts';
import { UserError } from '../user-error.ts';
import { type FrameRow, frameById } from '../frames/frame-row.ts';
import { openStored } from './open-stored.ts';
import { type Job, jobById } from '../jobs/jobs.ts';
import { removeHalfWritten, writeWhole } from '../originals/write-whole.ts';
import { readRecipe } from '../frames/read-recipe.ts';
import { type OpenedFrame, renderPicture } from '../render/export-frame.ts';
import type { Rights } from '../render/xmp.ts';
import type { Work } from '../work/engine.ts';
import { deliveryFolder, pathInFolder, placeFile, unfinishedFolder } from './delivery-folder.ts';
import { AT_ONCE, type Begin, keepInHand } from './in-hand.ts';
import { pictureRequest } from './picture-request.ts';

interface Item {
  id: string;
  deliverable: Deliverable;
  recipe: PartialRecipe;
  rights: Rights;
  file: string;
  placed: string | null;
}

/** Least time between two progress figures written to the database, in milliseconds. */
const PROGRESS_EVERY = 200;
/** A frame whose pictures were broken off this often, by whatever ended the process, is left alone. */
const MOST_TRIES = 6;

/** What making the pictures of one frame is about. */
interface Run {
  context: Context;
  deliveryId: string;
  frame: FrameRow;
  job: Job;
  folder: string;
  /** Ends all of it: the claim was lost, or the process ends. */
  signal: AbortSignal;
  /** Throws where the claim was lost. */
  stillHeld: Work['stillHeld'];
  /** Names this run in the rows that it works on: what another one does is not written over. */
  claim: string;
  /** Ends single pictures. */
  making: Map<string, AbortController>;
}

const tell = ({ context, deliveryId, frame }: Run, item: string): Promise<void> =>
  context.notices.tell({ delivery: deliveryId, frame: frame.id, item });

/** What an earlier run left in the middle begins anew, without what it may have left half written. */
async function beginAnew({ context, deliveryId, frame, folder }: Run): Promise<void> {
  const { rows } = await context.db.query<{ placed: string | null }>(
    `update delivery_items set state = 'queued', progress = 0, claim = null
     where delivery_id = $1 and frame_id = $2 and state = 'running' returning placed`,
    [deliveryId, frame.id]
  );
  for (const { placed } of rows) if (placed) await removeHalfWritten(pathInFolder(folder, placed));
}

/** The next picture of the frame, which nobody else is at; null when there is none, or the delivery rests. */
async function nextItem({ context, deliveryId, frame, claim }: Run): Promise<Item | null> {
  const { rows } = await context.db.query<Item>(
    `update delivery_items set state = 'running', machine = $3, claim = $4, progress = 0, started_at = now()
     where state = 'queued' and id = (
       select i.id from delivery_items i join deliveries d on d.id = i.delivery_id
       where d.id = $1 and i.frame_id = $2 and i.state = 'queued' and not d.paused and not d.cancelled
       order by i.position limit 1 for update of i skip locked)
     returning id, deliverable, recipe, rights, file, placed`,
    [deliveryId, frame.id, context.machine, claim]
  );
  return rows[0] ? { ...rows[0], recipe: readRecipe(rows[0].recipe) } : null;
}

/** A picture that a run still has in hand: its id and the run's claim. */
const OURS = `id = $1 and state = 'running' and claim = $2`;

/**
 * Gives a picture its name in the job's folder, kept in its row first: after a crash it gets the same again. Processes that
 * share the folder take turns, so that none takes a name that another is about to write. Null where its file is there and is
 * kept; undefined where the picture is in other hands by now, or cancelled.
 */
async function settleName(
  { context, frame, folder, job, claim }: Run,
  item: Item
): Promise<string | null | undefined> {
  return inTransaction(context.db, async (client) => {
    // A process that is stopped in the middle does not keep all others waiting.
    await client.query(`set local idle_in_transaction_session_timeout = '10s'`);
    await client.query(`select pg_advisory_xact_lock(hashtextextended($1, 0))`, [`names of ${job.id}`]);
    const held = await client.query(`select 1 from delivery_items where ${OURS} for update`, [
      item.id,
      claim
    ]);
    if (held.rowCount === 0) return undefined;
    if (item.placed) return item.placed;
    // Only names that begin as its own can be in the way, of pictures whose files may not be there yet.
    const { rows } = await client.query<{ placed: string }>(
      `select i.placed from delivery_items i join deliveries d on d.id = i.delivery_id
       where d.job_id = $1 and i.placed is not null and starts_with(lower(i.placed), lower($2))
         and (d.id = (select delivery_id from delivery_items where id = $3) or i.state in ('queued', 'running'))`,
      [frame.job_id, parse(item.file).name, item.id]
    );
    const reserved = new Set(rows.map(({ placed }) => nameKey(placed)));
    const placed = await placeFile(folder, item.file, item.deliverable.existing, reserved);
    await client.query('update delivery_items set placed = $2 where id = $1', [item.id, placed]);
    return placed;
  });
}

async function makePicture(
  run: Run,
  item: Item,
  placed: string,
  open: (onProgress: (share: number) => void) => Promise<OpenedFrame>
): Promise<void> {
  const { context, folder, making, claim } = run;
  const own = new AbortController();
  making.set(item.id, own);
  const signal = AbortSignal.any([own.signal, run.signal]);
  let told = 0;
  const onProgress = (share: number): void => {
    if (performance.now() - told < PROGRESS_EVERY) return;
    told = performance.now();
    context.db
      .query(`update delivery_items set progress = $3 where ${OURS}`, [item.id, claim, share])
      .then(() => tell(run, item.id))
      .catch(() => {});
  };
  try {
    await tell(run, item.id);
    // A cancelling that came before the picture was in hand was heard by nobody.
    await endCancelled(run);
    signal.throwIfAborted();
    const opened = await open((share) => onProgress(0.3 * share));
    const { bytes, size, quality, encodes, report } = await renderPicture(
      opened,
      pictureRequest(item.deliverable, item.rights),
      context.pool,
      { signal, onProgress: (share) => onProgress(0.3 + 0.7 * share) }
    );
    signal.throwIfAborted();
    await run.stillHeld();
    await writeWhole(pathInFolder(folder, placed), bytes, unfinishedFolder(context));
    await context.db.query(
      `update delivery_items set state = 'done', progress = 1, bytes = $3, width = $4, height = $5, quality = $6,
         encodes = $7, sha256 = $8, report = $9, error = null, finished_at = now() where ${OURS}`,
      [item.id, claim, bytes.length, size.width, size.height, quality, encodes, report.picture.sha256, report]
    );
  } catch (error) {
    if (own.signal.aborted) return;
    if (run.signal.aborted || isDatabaseAway(error)) throw error;
    if (!(error instanceof UserError)) console.error(`delivery ${item.file}:`, error);
    const message =
      error instanceof UserError
        ? error.message
        : 'This picture failed through a fault in Line True. Try it again.';
    await context.db.query(
      `update delivery_items set state = 'failed', error = $3, finished_at = now() where ${OURS}`,
      [item.id, claim, message]
    );
  } finally {
    making.delete(item.id);
    await tell(run, item.id);
  }
}

/** Ends pictures that were cancelled, by whichever process was asked to. */
async function endCancelled({ context, deliveryId, making }: Run): Promise<void> {
  const ids = [...making.keys()];
  if (ids.length === 0) return;
  const { rows } = await context.db.query<{ id: string }>(
    `select id from delivery_items where delivery_id = $1 and state = 'cancelled' and id = any($2)`,
    [deliveryId, ids]
  );
  for (const { id } of rows) making.get(id)?.abort();
}

/** Leaves alone what ended the process again and again. */
async function giveUp(context: Context, deliveryId: string, frameId: string): Promise<void> {
  await context.db.query(
    `update delivery_items set state = 'failed', finished_at = now(),
       error = 'Making this picture was broken off several times. Retry it, or add its file again.'
     where delivery_id = $1 and frame_id = $2 and state in ('queued', 'running')`,
    [deliveryId, frameId]
  );
  await context.notices.tell({ delivery: deliveryId, frame: frameId });
}

/** A frame as it was opened by a recipe, and the pictures that are made of it. */
interface Opening {
  key: string;
  opened: Promise<OpenedFrame> | null;
  pictures: Promise<unknown>[];
  /** Settles when the one before it is closed: two at once would take twice the memory. */
  free: Promise<void>;
}

/** Opens a frame for pictures by their recipes, one recipe after another. */
function usingOpened(
  open: (recipe: PartialRecipe, onProgress: (share: number) => void) => Promise<OpenedFrame>
): {
  make<T>(
    recipe: PartialRecipe,
    work: (open: (onProgress: (share: number) => void) => Promise<OpenedFrame>) => Promise<T>
  ): Promise<T>;
  close(): Promise<void>;
} {
  let last: Opening | null = null;
  async function settle(of: Opening): Promise<void> {
    await Promise.allSettled(of.pictures);
    // By now whoever wanted it has asked for it.
    const used = await of.opened?.catch(() => null);
    await used?.close();
  }
  return {
    make(recipe, work) {
      const key = hashOf(recipe);
      if (last?.key !== key) {
        const before = last;
        last = { key, opened: null, pictures: [], free: Promise.resolve() };
        if (before) last.free = settle(before);
      }
      const own = last;
      const made = work(async (onProgress) => {
        await own.free;
        return (own.opened ??= open(recipe, onProgress));
      });
      own.pictures.push(made);
      return made;
    },
    async close() {
      if (!last) return;
      await last.free;
      await settle(last);
    }
  };
}

/** The work's key names delivery and frame. */
export async function deliverFrame(context: Context, { key, tries, signal, stillHeld }: Work): Promise<void> {
  const [deliveryId, frameId] = key.split(':');
  const frame = await frameById(context, frameId);
  const job = frame && (await jobById(context, frame.job_id));
  if (!frame || !job) return;
  if (tries >= MOST_TRIES) return giveUp(context, deliveryId, frameId);
  const folder = await deliveryFolder(context, deliveryId);
  const claim = randomUUID();
  const run: Run = { context, deliveryId, frame, job, folder, signal, stillHeld, claim, making: new Map() };
  await beginAnew(run);
  const using = usingOpened((recipe, onProgress) =>
    openStored(context, frame, recipe, { signal, onProgress })
  );
  const deaf = context.notices.listen((notice) => {
    if (notice === null || (notice.delivery === deliveryId && !notice.item))
      void endCancelled(run).catch(() => {});
  });
  // One frame at a time gives out its pictures; once the last one is in hand, the next frame's turn comes:
  // unpacking keeps one core busy while the last pictures are rendered and encoded on the other.
  const begin: Begin = async () => {
    for (;;) {
      signal.throwIfAborted();
      // A process that was stopped may go on after another one has taken its work.
      await stillHeld();
      const item = await nextItem(run);
      if (!item) return null;
      const placed = await settleName(run, item);
      if (placed) return { made: using.make(item.recipe, (open) => makePicture(run, item, placed, open)) };
      if (placed === undefined) continue;
      await context.db.query(
        `update delivery_items set state = 'skipped', progress = 1, finished_at = now() where ${OURS}`,
        [item.id, claim]
      );
      await tell(run, item.id);
    }
  };
  try {
    const { rest } = await context.deliveryTurn(() => keepInHand(begin, AT_ONCE));
    await rest;
  } finally {
    deaf();
    await using.close();
  }
}
