import type { Context } from '../context.ts';

/** Frames of a job that another program has, with what is wrong with their files. */
export async function handedFrames(
  context: Context,
  jobId: string
): Promise<Map<string, { out: boolean; error: string | null }>> {
  const { rows } = await context.db.query<{ id: string; out: boolean; error: string | null }>(
    `select h.frame_id as id, bool_or(h.returned_id is null and h.state <> 'failed') as out, min(h.error) as error
     from hand_overs h join frames f on f.id = h.frame_id where f.job_id = $1 group by h.frame_id`,
    [jobId]
  );
  return new Map(rows.map(({ id, out, error }) => [id, { out, error }]));
}
