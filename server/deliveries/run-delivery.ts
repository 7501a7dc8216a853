/** Makes all pictures of one frame for a delivery: unpacked and developed once, however many there are. */
import { parse } from 'node:path';
import type { Deliverable } from '../../core/output/deliverable-schema.ts';
import { nameKey } from '../../core/output/file-name.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { frameById } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { type OpenedFrame, openFrame, renderPicture } from '../render/export-frame.ts';
import type { Rights } from '../render/xmp.ts';
import { deliveryFolder, pathInFolder, placeFile } from './delivery-folder.ts';
import { AT_ONCE, type Begin, keepInHand } from './in-hand.ts';
import { pictureRequest } from './picture-request.ts';

interface Claimed {
  id: string;
  deliverable: Deliverable;
  recipe: PartialRecipe;
  rights: Rights;
  file: string;
  placed: string | null;
}

/** Least time between two progress figures written to the database, in milliseconds. */
const PROGRESS_EVERY = 200;

/** Takes the next picture of the frame; null when there is none, or the delivery rests. */
async function claim(app: App, deliveryId: string, frameId: string): Promise<Claimed | null> {
  const { rows } = await app.db.query<Claimed>(
    `update delivery_items set state = 'running', worker = $3, progress = 0, started_at = now()
     where id = (
       select i.id from delivery_items i join deliveries d on d.id = i.delivery_id
       where d.id = $1 and i.frame_id = $2 and i.state = 'queued' and not d.paused and not d.cancelled
       order by i.position limit 1 for update of i skip locked)
     returning id, deliverable, recipe, rights, file, placed`,
    [deliveryId, frameId, app.worker]
  );
  return rows[0] ?? null;
}

/** Gives a picture its name in the folder, kept in its row first: after a crash it gets the same again. */
async function settleName(
  app: App,
  deliveryId: string,
  folder: string,
  item: Claimed
): Promise<string | null> {
  if (item.placed) return item.placed;
  // Only names that begin as its own can be in the way.
  const { rows } = await app.db.query<{ placed: string }>(
    `select placed from delivery_items
     where delivery_id = $1 and placed is not null and starts_with(lower(placed), lower($2))`,
    [deliveryId, parse(item.file).name]
  );
  const reserved = new Set(rows.map(({ placed }) => nameKey(placed)));
  const placed = await placeFile(folder, item.file, item.deliverable.existing, reserved);
  await app.db.query('update delivery_items set placed = $2 where id = $1', [item.id, placed]);
  return placed;
}

async function makePicture(
  app: App,
  item: Claimed,
  placed: string,
  folder: string,
  open: (onProgress: (share: number) => void) => Promise<OpenedFrame>
): Promise<void> {
  const controller = new AbortController();
  app.running.set(item.id, controller);
  let told = 0;
  const onProgress = (share: number): void => {
    if (performance.now() - told < PROGRESS_EVERY) return;
    told = performance.now();
    app.db
      .query(`update delivery_items set progress = $2 where id = $1 and state = 'running'`, [item.id, share])
      .catch(() => {});
  };
  try {
    const opened = await open((share) => onProgress(0.3 * share));
    const { bytes, size, quality, encodes, report } = await renderPicture(
      opened,
      pictureRequest(item.deliverable, item.rights),
      app.pool,
      { signal: controller.signal, onProgress: (share) => onProgress(0.3 + 0.7 * share) }
    );
    await writeWhole(pathInFolder(folder, placed), bytes);
    await app.db.query(
      `update delivery_items set state = 'done', progress = 1, bytes = $2, width = $3, height = $4, quality = $5,
         encodes = $6, sha256 = $7, report = $8, error = null, finished_at = now() where id = $1 and state = 'running'`,
      [item.id, bytes.length, size.width, size.height, quality, encodes, report.picture.sha256, report]
    );
  } catch (error) {
    if (controller.signal.aborted) return;
    if (!(error instanceof UserError)) console.error(`delivery ${item.file}:`, error);
    const message =
      error instanceof UserError
        ? error.message
        : 'This picture failed through a fault in Line True. Try it again.';
    await app.db.query(
      `update delivery_items set state = 'failed', error = $2, finished_at = now() where id = $1 and state = 'running'`,
      [item.id, message]
    );
  } finally {
    app.running.delete(item.id);
  }
}

/** `id` names delivery and frame. */
export async function runDelivery(app: App, id: string): Promise<void> {
  const [deliveryId, frameId] = id.split(':');
  const frame = await frameById(app, frameId);
  const job = frame && (await jobById(app, frame.job_id));
  if (!frame || !job) return;
  const folder = deliveryFolder(app.deliveries, job);
  let opened: Promise<OpenedFrame> | null = null;
  const openFor =
    (recipe: PartialRecipe) =>
    (onProgress: (share: number) => void): Promise<OpenedFrame> =>
      (opened ??= openFrame(
        {
          path: originalPath(app.data, frame.sha256),
          name: frame.name,
          recipe,
          choose: (facts) => choiceFor(app, facts, recipe.lens?.profile)
        },
        app.pool,
        { onProgress }
      ));
  // One frame at a time gives out its pictures; once the last one is in hand, the next frame's turn comes:
  // unpacking keeps one core busy while the last pictures are rendered and encoded on the other.
  const begin: Begin = async () => {
    for (;;) {
      const item = await claim(app, deliveryId, frameId);
      if (!item) return null;
      const placed = await settleName(app, deliveryId, folder, item);
      if (placed !== null) return { made: makePicture(app, item, placed, folder, openFor(item.recipe)) };
      await app.db.query(
        `update delivery_items set state = 'skipped', progress = 1, finished_at = now() where id = $1`,
        [item.id]
      );
    }
  };
  const { rest } = await app.deliveryTurn(() => keepInHand(begin, AT_ONCE));
  await rest;
  const used = await (opened as Promise<OpenedFrame> | null)?.catch(() => null);
  used?.close();
}
