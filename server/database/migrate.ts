import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Pool } from 'pg';
import { ROOT } from '../paths.ts';
import { transact, withClient } from './transaction.ts';

/** Any number: it only has to be the same for every process that migrates. */
const LOCK = 716_253;

/** Applies the numbered migrations that have not been applied, each in a transaction; safe to run at once from several processes. */
export async function migrate(db: Pool): Promise<string[]> {
  const folder = join(ROOT, 'server/database/migrations');
  const files = (await readdir(folder)).filter((file) => /^\d{3}-.+\.sql$/.test(file)).sort();
  const applied: string[] = [];
  await withClient(db, async (client) => {
    try {
      await client.query('select pg_advisory_lock($1)', [LOCK]);
      await client.query(
        'create table if not exists migrations (name text primary key, applied_at timestamptz default now())'
      );
      const { rows } = await client.query<{ name: string }>('select name from migrations');
      const known = new Set(rows.map((row) => row.name));
      for (const file of files) {
        if (known.has(file)) continue;
        const sql = await readFile(join(folder, file), 'utf8');
        await transact(client, async () => {
          await client.query(sql);
          await client.query('insert into migrations (name) values ($1)', [file]);
        }).catch((error: unknown) => {
          throw new Error(`Migration ${file} failed.`, { cause: error });
        });
        applied.push(file);
      }
    } finally {
      await client.query('select pg_advisory_unlock($1)', [LOCK]).catch(() => {});
    }
  });
  return applied;
}
