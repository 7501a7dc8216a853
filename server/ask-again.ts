/** Asks for work that rows say is open and nobody has in the queue: after an update, or when an asking was broken off. */
import type { Context } from './context.ts';
import { DELIVER, HAND_OVER, MEASURE, PREPARE, type WorkName } from './work/names.ts';

/** Keys of a query's rows for which nothing is queued or in hand. */
async function unasked(context: Context, name: WorkName, query: string): Promise<string[]> {
  const { rows } = await context.db.query<{ key: string }>(
    `select key from (${query}) open where not exists (
       select 1 from pgboss.job j where j.name = $1 and j.singleton_key = open.key and j.state in ('created', 'retry', 'active'))`,
    [name]
  );
  return rows.map(({ key }) => key);
}

export async function askAgain(context: Context): Promise<void> {
  const frames = `select id::text as key from frames where state = 'preparing' order by created_at, name`;
  await context.enqueue(PREPARE, await unasked(context, PREPARE, frames));
  const unmeasured = `select id::text as key from frames where state = 'ready' and not measured order by created_at, name`;
  await context.enqueue(MEASURE, await unasked(context, MEASURE, unmeasured));
  const pictures = `select i.delivery_id || ':' || i.frame_id as key from delivery_items i
    join deliveries d on d.id = i.delivery_id
    where i.state in ('queued', 'running') and not d.paused and not d.cancelled
    group by i.delivery_id, i.frame_id, d.created_at order by d.created_at, min(i.position)`;
  await context.enqueue(DELIVER, await unasked(context, DELIVER, pictures));
  const handed = `select id::text as key from hand_overs where state = 'queued' order by handed_at`;
  await context.enqueue(HAND_OVER, await unasked(context, HAND_OVER, handed));
}
