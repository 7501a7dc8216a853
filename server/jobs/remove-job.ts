/** Removing a job: what is lost by it is told before, and its space given back. */
import type { Context } from '../context.ts';
import { removeUnused } from '../originals/remove-unused.ts';

export interface Loss {
  frames: number;
  /** Frames whose recipe holds anything. */
  worked: number;
  deliveries: number;
  /** Bytes of originals that stand in no other job. */
  bytes: number;
}

/** What removing frames would lose: all of a job's, or some by their ids. */
export async function lossOf(context: Context, job: string, ids: readonly string[] | null): Promise<Loss> {
  const { rows } = await context.db.query<Loss>(
    `with going as (select * from frames where job_id = $1 and ($2::uuid[] is null or id = any($2)))
     select
       (select count(*)::int from going) as frames,
       (select count(*)::int from going where recipe <> '{}') as worked,
       (select count(distinct i.delivery_id)::int from delivery_items i join going g on g.id = i.frame_id)
         as deliveries,
       (select coalesce(sum(o.bytes), 0)::float8 from originals o
         where o.sha256 in (select sha256 from going)
           and not exists (select from frames f where f.sha256 = o.sha256 and f.id not in (select id from going)))
         as bytes`,
    [job, ids]
  );
  return rows[0];
}

/** Removes frames from their job; delivered files stay where they are. Answers the bytes that it gave back. */
export async function removeFrames(context: Context, job: string, ids: readonly string[]): Promise<number> {
  const { rows } = await context.db.query<{ sha256: string }>(
    'delete from frames where job_id = $1 and id = any($2) returning sha256',
    [job, ids]
  );
  // Without a frame of its own to name: the whole job is told anew.
  await context.notices.tell({ job });
  return removeUnused(
    context,
    rows.map(({ sha256 }) => sha256)
  );
}

/** Removes a job with its frames; delivered files stay where they are. Answers the bytes that it gave back. */
export async function removeJob(context: Context, id: string): Promise<number> {
  const { rows } = await context.db.query<{ sha256: string }>('select sha256 from frames where job_id = $1', [
    id
  ]);
  await context.db.query('delete from jobs where id = $1', [id]);
  await context.notices.tell({ job: id });
  return removeUnused(
    context,
    rows.map(({ sha256 }) => sha256)
  );
}
