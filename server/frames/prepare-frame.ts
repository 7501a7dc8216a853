/** After import: the proxy that the bench works on, and the facts of the file. What takes longer follows by itself. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { UserError } from '../user-error.ts';
import { originalOf } from '../originals/store-original.ts';
import { readOriginal } from '../render/read-original.ts';
import type { Work } from '../work/engine.ts';
import { MEASURE } from '../work/names.ts';
import { LARGEST_DEVELOPED, makeProxy } from './proxy.ts';

/** Half the diagonal of a body's sensor, where the file says nothing of it and the catalogue knows the body. */
async function bodySensor(context: Context, facts: FrameFacts): Promise<number | null> {
  if (facts.focalLength35) return null;
  const { rows } = await context.db.query<{ sensor_half_diagonal: number }>(
    'select sensor_half_diagonal from camera_bodies where lower(maker) = lower($1) and lower(model) = lower($2)',
    [facts.make, facts.model]
  );
  return rows[0]?.sensor_half_diagonal ?? null;
}

interface Preparing {
  id: string;
  job_id: string;
  sha256: string;
  name: string;
  /** Of a frame that is made ready anew. */
  facts: FrameFacts | null;
}

async function prepare(context: Context, frame: Preparing, { signal, stillHeld }: Work): Promise<void> {
  const { pool, db, data } = context;
  const options = { signal, edges: LARGEST_DEVELOPED };
  const { decoded } = await readOriginal(pool, originalOf(data, frame), options);
  const { facts } = decoded;
  const proxy = await makeProxy(context, frame.sha256, decoded, signal);
  facts.sensorHalfDiagonal ??= await bodySensor(context, facts);
  await stillHeld();
  await db.query(
    `update frames set error = null, facts = $2, proxy = $3, measured = false, state = 'ready' where id = $1`,
    [frame.id, facts, proxy]
  );
  await context.enqueue(MEASURE, [frame.id]);
}

/** A frame whose preparing was broken off this often, by whatever ended the process, is left alone. */
const MOST_TRIES = 3;

export async function prepareFrame(context: Context, work: Work): Promise<void> {
  const { key: id, tries, signal } = work;
  const { rows } = await context.db.query<Preparing>(
    `select id, job_id, sha256, name, facts from frames where id = $1 and state = 'preparing'`,
    [id]
  );
  if (rows.length === 0) return;
  const [frame] = rows;
  try {
    if (tries >= MOST_TRIES)
      throw new UserError(
        'Preparing this file was broken off several times. Remove it, and add it again from the card.'
      );
    await prepare(context, frame, work);
  } catch (error) {
    if (signal.aborted || isDatabaseAway(error)) throw error;
    const message =
      error instanceof UserError
        ? error.message
        : 'This file could not be prepared. Remove it and add it again.';
    if (!(error instanceof UserError)) console.error(`frame ${frame.name}:`, error);
    await work.stillHeld();
    await context.db.query(`update frames set state = 'failed', error = $2 where id = $1`, [id, message]);
  }
  await context.notices.tell({ job: frame.job_id, frame: id });
}
