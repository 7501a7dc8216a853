/** Writes a frame into its job's hand-over folder as it stood when that was asked for, with a note of where it came from. */
import { createHash } from 'node:crypto';
import { mkdir } from 'node:fs/promises';
import { dirname, join, parse } from 'node:path';
import { nameKey, safeName } from '../../core/picture/output/file-name.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { folderName, pathInFolder, placeFile } from '../deliveries/delivery-folder.ts';
import { pictureRequest } from '../deliveries/picture-request.ts';
import { type FrameRow, frameById, isReady } from '../frames/frame-row.ts';
import { openStored } from '../deliveries/open-stored.ts';
import { readRecipe } from '../frames/read-recipe.ts';
import { type Job, jobById } from '../jobs/jobs.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { renderPicture } from '../render/export-frame.ts';
import { UserError } from '../user-error.ts';
import type { Work } from '../work/engine.ts';
import { handOverFolder, noteOf, unfinishedHandOvers } from './hand-over-folder.ts';
import { type HandOverSettings, handedDeliverable } from './hand-overs.ts';
import { seenOf } from './seen.ts';

interface Queued {
  frame_id: string;
  settings: HandOverSettings;
  recipe: PartialRecipe;
  file: string | null;
  handed_at: Date;
}

/** Whose picture it is is said when it is delivered. */
const NO_RIGHTS = { title: '', caption: '', creator: '', copyright: '', keywords: [] };
/** A file that was begun and broken off this often is left alone. */
const MOST_TRIES = 3;

/** A name that no other file has, kept in the row before the file is written: after a crash it gets the same again. */
async function settleName(context: Context, id: string, job: Job, frame: FrameRow): Promise<string> {
  const folder = folderName(job);
  const { rows } = await context.db.query<{ file: string }>(
    'select file from hand_overs where starts_with(file, $1)',
    [`${folder}/`]
  );
  const reserved = new Set(rows.map(({ file }) => nameKey(file.slice(folder.length + 1))));
  const wanted = `${safeName(parse(frame.name).name)}-handed-over.tif`;
  const name = await placeFile(join(handOverFolder(context), folder), wanted, 'number', reserved);
  const file = `${folder}/${name}`;
  await context.db.query('update hand_overs set file = $2 where id = $1', [id, file]);
  return file;
}

async function write(
  context: Context,
  id: string,
  { recipe, settings, file: settled, handed_at }: Queued,
  frame: FrameRow,
  job: Job,
  { signal, stillHeld }: Work
): Promise<void> {
  const opened = await openStored(context, frame, readRecipe(recipe), { signal });
  try {
    const request = pictureRequest(handedDeliverable(settings), NO_RIGHTS);
    const { bytes, size, report } = await renderPicture(opened, request, context.pool, { signal });
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    await stillHeld();
    const file = settled ?? (await settleName(context, id, job, frame));
    const path = pathInFolder(handOverFolder(context), file);
    await mkdir(dirname(path), { recursive: true });
    const note = {
      format: 'line-true-hand-over',
      version: 1,
      about:
        'This picture was handed over by Line True. Change it, and save it under its name: it comes back by itself, as a frame beside the one it is of.',
      job: job.name,
      frame: frame.name,
      room: frame.room,
      handed: handed_at.toISOString(),
      picture: { ...size, sha256, space: settings.space, depth: settings.depth },
      report
    };
    await writeWhole(noteOf(path), `${JSON.stringify(note, null, 2)}\n`, unfinishedHandOvers(context));
    await writeWhole(path, bytes, unfinishedHandOvers(context));
    await context.db.query(
      `update hand_overs set state = 'out', error = null, sha256 = $2, seen = $3, width = $4, height = $5 where id = $1`,
      [id, sha256, await seenOf(path), size.width, size.height]
    );
  } finally {
    await opened.close();
  }
}

export async function writeHandOver(context: Context, work: Work): Promise<void> {
  const { key: id, tries, signal } = work;
  const { rows } = await context.db.query<Queued>(
    `select frame_id, settings, recipe, file, handed_at from hand_overs where id = $1 and state = 'queued'`,
    [id]
  );
  const frame = rows[0] ? await frameById(context, rows[0].frame_id) : null;
  const job = frame && (await jobById(context, frame.job_id));
  if (!job) return;
  try {
    if (tries >= MOST_TRIES)
      throw new UserError('Writing this file was broken off several times. Try it again.');
    if (!isReady(frame)) throw new UserError('This frame is not ready yet. Hand it over once it is.');
    await write(context, id, rows[0], frame, job, work);
  } catch (error) {
    if (signal.aborted || isDatabaseAway(error)) throw error;
    if (!(error instanceof UserError)) console.error(`hand-over of ${frame.name}:`, error);
    const message =
      error instanceof UserError
        ? error.message
        : 'This frame could not be handed over through a fault in Line True.';
    await work.stillHeld();
    await context.db.query(`update hand_overs set state = 'failed', error = $2 where id = $1`, [id, message]);
  }
  await context.notices.tell({ job: job.id, frame: frame.id });
}
