import type { Pool, PoolClient } from 'pg';

/** Does work in one transaction: all of it stands in the end, or none. */
export async function inTransaction<T>(db: Pool, work: (client: PoolClient) => Promise<T>): Promise<T> {
  const client = await db.connect();
  // A connection that breaks tells its query; told to nobody else, it would end the process.
  const deaf = (): void => {};
  client.on('error', deaf);
  try {
    await client.query('begin');
    const done = await work(client);
    await client.query('commit');
    return done;
  } catch (error) {
    await client.query('rollback').catch(() => {});
    throw error;
  } finally {
    client.off('error', deaf);
    client.release();
  }
}
