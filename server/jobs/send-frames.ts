/** Frames moved or copied to another job: with their recipes, revisions, rooms and choices. */
import type { PoolClient } from 'pg';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { UserError } from '../user-error.ts';
import { PREPARE } from '../work/names.ts';

export interface SentFrames {
  /** The frames as they are in the other job. */
  sent: string[];
  /** Names of those whose file was there already: they stay where they are. */
  known: string[];
}

interface Row {
  id: string;
  name: string;
  state: string;
}

const COPIED =
  'sha256, name, state, error, facts, proxy, recipe, measured, room, choice, lines_said, outside, profile, look';

/** Moves a frame, or copies it: both answer the frame in the other job. */
async function send(client: PoolClient, id: string, to: string, copies: boolean): Promise<Row> {
  if (!copies) {
    const { rows } = await client.query<Row>(
      'update frames set job_id = $2, place = null where id = $1 returning id, name, state',
      [id, to]
    );
    return rows[0];
  }
  const { rows } = await client.query<Row>(
    `insert into frames (job_id, ${COPIED}) select $2, ${COPIED} from frames where id = $1
     returning id, name, state`,
    [id, to]
  );
  await client.query(
    `insert into revisions (frame_id, letter, name, recipe, for_delivery, made_at)
     select $2, letter, name, recipe, for_delivery, made_at from revisions where frame_id = $1`,
    [id, rows[0].id]
  );
  return rows[0];
}

/** `copies`: the frames stay in their job as well. */
export async function sendFrames(
  context: Context,
  from: string,
  { ids, to, copies }: { ids: readonly string[]; to: string; copies: boolean }
): Promise<SentFrames> {
  if (from === to) throw new UserError('The frames are in this job already. Choose another one.');
  const { sent, known } = await inTransaction(context.db, async (client) => {
    const job = await client.query('select 1 from jobs where id = $1 for update', [to]);
    if (job.rowCount === 0) throw new UserError('The job to send them to no longer exists.');
    const { rows: all } = await client.query<Row & { there: boolean }>(
      `select id, name, state,
         exists (select from frames t where t.job_id = $3 and t.sha256 = f.sha256) as there
       from frames f where job_id = $1 and id = any($2) order by name, created_at for update`,
      [from, ids, to]
    );
    const rows: Row[] = [];
    for (const { id, there } of all) if (!there) rows.push(await send(client, id, to, copies));
    return { sent: rows, known: all.filter(({ there }) => there).map(({ name }) => name) };
  });
  // A copy of a frame that is not ready yet is made ready by itself.
  const waiting = sent.filter(({ state }) => copies && state === 'preparing').map(({ id }) => id);
  if (waiting.length > 0) await context.enqueue(PREPARE, waiting);
  await context.notices.tell({ job: to });
  await context.notices.tell({ job: from });
  return { sent: sent.map(({ id }) => id), known };
}
