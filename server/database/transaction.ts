import type { Pool, PoolClient } from 'pg';

/** Work on one connection, which is given back whatever comes. A connection that breaks tells its query, and is thrown away. */
export async function withClient<T>(db: Pool, work: (client: PoolClient) => Promise<T>): Promise<T> {
  const client = await db.connect();
  let broken: Error | undefined;
  // Told to nobody else, it would end the process.
  const hear = (error: Error): void => void (broken = error);
  client.on('error', hear);
  try {
    return await work(client);
  } finally {
    client.off('error', hear);
    client.release(broken);
  }
}

/** Does work in one transaction of a connection: all of it stands in the end, or none. */
export async function transact<T>(client: PoolClient, work: () => Promise<T>): Promise<T> {
  try {
    await client.query('begin');
    const done = await work();
    await client.query('commit');
    return done;
  } catch (error) {
    await client.query('rollback').catch(() => {});
    throw error;
  }
}

export const inTransaction = <T>(db: Pool, work: (client: PoolClient) => Promise<T>): Promise<T> =>
  withClient(db, (client) => transact(client, () => work(client)));
