/**
 * One at a time for each original: whoever makes a frame of one, and whoever gives its space back, in any process. Else a file
 * that was answered for could be taken away by the end of a job that held it as well.
 */
import type { Pool, PoolClient } from 'pg';
import { inTransaction } from '../database/transaction.ts';

export const withOriginal = <T>(
  db: Pool,
  sha256: string,
  work: (client: PoolClient) => Promise<T>
): Promise<T> =>
  inTransaction(db, async (client) => {
    await client.query('select pg_advisory_xact_lock(hashtextextended($1, 1))', [sha256]);
    return work(client);
  });
