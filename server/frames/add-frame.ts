import { rm } from 'node:fs/promises';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { removeUnused } from '../originals/remove-unused.ts';
import { keepOriginal, receiveFile } from '../originals/store-original.ts';
import { withOriginal } from '../originals/with-original.ts';
import { diskError } from '../originals/write-whole.ts';
import { PREPARE } from '../work/names.ts';
import { beginReceiving } from './receiving.ts';
import { takeEarlyPicture } from './early-picture.ts';

export interface AddedFrame {
  id: string;
  /** True when the same file was in the job already: nothing was added. */
  known: boolean;
}

export interface Expected {
  /** Length of the file, where it is known. */
  bytes?: number | null;
  /** Others follow it at once: they come in before this one is prepared. */
  more?: boolean;
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
  { bytes: expectedBytes = null, more = false }: Expected = {}
): Promise<AddedFrame> {
  const name = cleanName(fileName);
  const job = await context.db.query('select 1 from jobs where id = $1', [jobId]);
  if (job.rowCount === 0) throw new UserError('This job no longer exists.');
  const received = beginReceiving(more);
  const file = await receiveFile(context.data, name, body, expectedBytes).finally(() => received());
  const { sha256, bytes } = file;
  const added = await withOriginal(context.db, sha256, async (client): Promise<AddedFrame> => {
    await keepOriginal(context.data, file);
    await client.query(
      'insert into originals (sha256, bytes) values ($1, $2) on conflict (sha256) do nothing',
      [sha256, bytes]
    );
    const inserted = await client.query<{ id: string }>(
      `insert into frames (job_id, sha256, name) select id, $2, $3 from jobs where id = $1
       on conflict (job_id, sha256) do nothing returning id`,
      [jobId, sha256, name]
    );
    if (inserted.rowCount === 1) return { id: inserted.rows[0].id, known: false };
    const known = await client.query<{ id: string }>(
      'select id from frames where job_id = $1 and sha256 = $2',
      [jobId, sha256]
    );
    if (known.rowCount === 0) throw new UserError('This job no longer exists.');
    return { id: known.rows[0].id, known: true };
  }).catch(async (error: unknown) => {
    await rm(file.temporary, { force: true });
    // The original may be kept by now without a frame.
    await removeUnused(context, [sha256]).catch(() => {});
    throw diskError(error);
  });
  const { id } = added;
  if (added.known) return added;
  // Without it the frame is only seen later.
  takeEarlyPicture(context, { id, jobId, sha256, name }).catch((error: Error) =>
    console.error(`picture of ${name}:`, error.message)
  );
  await context.enqueue(PREPARE, [id]);
  await context.notices.tell({ job: jobId, frame: id });
  return added;
}
