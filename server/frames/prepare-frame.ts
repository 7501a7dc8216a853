/** After import: the proxy that the bench works on, the facts of the file, its edges, and what becomes true by itself. */
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { UserError } from '../decode/user-error.ts';
import type { OnAdding } from '../jobs/jobs.ts';
import { originalPath } from '../originals/store-original.ts';
import { changedOriginal } from '../render/export-frame.ts';
import { giveBack, giveBackPlanes } from '../render/lent-memory.ts';
import { developInPool, edgesInPool } from '../render/linear-source.ts';
import type { Work } from '../work/engine.ts';
import { keepEdges } from './frame-edges.ts';
import { makeProxy, proxyPlanes } from './proxy.ts';
import { trueUpFrame } from './true-up-frame.ts';

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
}

async function prepare(
  context: Context,
  { id, sha256, name }: Preparing,
  signal: AbortSignal
): Promise<void> {
  const { pool, db, data } = context;
  const read = await pool.read(originalPath(data, sha256), name, signal);
  if (read.sha256 !== sha256) throw new UserError(changedOriginal(name));
  const { facts, planes } = await developInPool(read.decoded, pool, { signal });
  const proxy = await makeProxy(context, sha256, planes);
  const edges = await edgesInPool(planes, pool, { signal });
  giveBackPlanes(planes);
  const single = read.decoded.kind === 'mosaic' ? read.decoded.edges! : edges;
  await keepEdges(context, sha256, facts.size, edges, single);
  facts.sensorHalfDiagonal ??= await bodySensor(context, facts);
  const { rows: jobs } = await db.query<{ true_up: OnAdding; version: number }>(
    `update frames f set error = null, facts = $2, proxy = $3 from jobs j
     where f.id = $1 and j.id = f.job_id returning j.true_up, f.version`,
    [id, facts, proxy.size]
  );
  // Only what nobody has worked on yet: a frame prepared anew keeps its own correction.
  const [job] = jobs;
  if (job && job.true_up !== 'none' && job.version === 0) {
    const small = await proxyPlanes(proxy, facts.size, pool);
    await trueUpFrame(context, id, job.true_up, small);
    giveBackPlanes(small);
  }
  giveBack(proxy.codes);
  signal.throwIfAborted();
  await db.query(`update frames set state = 'ready' where id = $1`, [id]);
}

/** A frame whose preparing was broken off this often, by whatever ended the process, is left alone. */
const MOST_TRIES = 3;

export async function prepareFrame(context: Context, { key: id, tries, signal }: Work): Promise<void> {
  const { rows } = await context.db.query<Preparing>(
    `select id, job_id, sha256, name from frames where id = $1 and state = 'preparing'`,
    [id]
  );
  if (rows.length === 0) return;
  const [frame] = rows;
  try {
    if (tries >= MOST_TRIES)
      throw new UserError(
        'Preparing this file was broken off several times. Remove it, and add it again from the card.'
      );
    await prepare(context, frame, signal);
  } catch (error) {
    if (signal.aborted || isDatabaseAway(error)) throw error;
    const message =
      error instanceof UserError
        ? error.message
        : 'This file could not be prepared. Remove it and add it again.';
    if (!(error instanceof UserError)) console.error(`frame ${frame.name}:`, error);
    await context.db.query(`update frames set state = 'failed', error = $2 where id = $1`, [id, message]);
  }
  await context.notices.tell({ job: frame.job_id, frame: id });
}
