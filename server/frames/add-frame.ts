import { existsSync } from 'node:fs';
import type { Context } from '../context.ts';
import { UserError } from '../decode/user-error.ts';
import { originalPath, storeOriginal } from '../originals/store-original.ts';
import { PREPARE } from '../work/names.ts';
import { beginReceiving } from './receiving.ts';
import { takeEarlyPicture } from './early-picture.ts';

export interface AddedFrame {
  id: string;
  /** True when the same file was in the job already: nothing was added. */
  known: boolean;
}

/** A file name without folders and control characters. */
export function cleanName(name: string): string {
  const base = name.split(/[\\/]/).pop() ?? '';
  return (
    base
      .replace(/[\u0000-\u001f\u007f]/g, '')
      .trim()
      .slice(0, 200) || 'unnamed'
  );
}

/** Stores a file and makes it a frame of a job; its proxy is made in the background. */
export async function addFrame(
  context: Context,
  jobId: string,
  fileName: string,
  body: AsyncIterable<Uint8Array>,
  expectedBytes: number | null = null
): Promise<AddedFrame> {
  const name = cleanName(fileName);
  const job = await context.db.query('select 1 from jobs where id = $1', [jobId]);
  if (job.rowCount === 0) throw new UserError('This job no longer exists.');
  const received = beginReceiving();
  const { sha256, bytes } = await storeOriginal(context.data, name, body, expectedBytes).finally(() =>
    received()
  );
  await context.db.query(
    'insert into originals (sha256, bytes) values ($1, $2) on conflict (sha256) do update set created_at = clock_timestamp()',
    [sha256, bytes]
  );
  if (!existsSync(originalPath(context.data, sha256)))
    throw new UserError('This file was being removed from another job just now. Add it again.');
  const inserted = await context.db.query<{ id: string }>(
    'insert into frames (job_id, sha256, name) values ($1, $2, $3) on conflict (job_id, sha256) do nothing returning id',
    [jobId, sha256, name]
  );
  if (inserted.rowCount === 0) {
    const known = await context.db.query<{ id: string }>(
      'select id from frames where job_id = $1 and sha256 = $2',
      [jobId, sha256]
    );
    return { id: known.rows[0].id, known: true };
  }
  const { id } = inserted.rows[0];
  // Without it the frame is only seen later.
  takeEarlyPicture(context, { id, jobId, sha256, name }).catch((error: Error) =>
    console.error(`picture of ${name}:`, error.message)
  );
  await context.enqueue(PREPARE, [id]);
  await context.notices.tell({ job: jobId, frame: id });
  return { id, known: false };
}
