import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Pool } from 'pg';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import { writeProfiles } from '../lenses/catalogue.ts';
import { ROOT } from '../paths.ts';

/** Any number: it only has to be the same for every process that migrates. */
const LOCK = 716_253;

/** Applies the numbered migrations that have not been applied, each in a transaction; safe to run at once from several processes. */
export async function migrate(db: Pool): Promise<string[]> {
  const folder = join(ROOT, 'server/database/migrations');
  const files = (await readdir(folder)).filter((file) => /^\d{3}-.+\.sql$/.test(file)).sort();
  const client = await db.connect();
  const applied: string[] = [];
  try {
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    await client.query(
      'create table if not exists migrations (name text primary key, applied_at timestamptz default now())'
    );
    const { rows } = await client.query<{ name: string }>('select name from migrations');
    const known = new Set(rows.map((row) => row.name));
    for (const file of files) {
      if (known.has(file)) continue;
      await client.query('begin');
      try {
        await client.query(await readFile(join(folder, file), 'utf8'));
        await client.query('insert into migrations (name) values ($1)', [file]);
        await client.query('commit');
      } catch (error) {
        await client.query('rollback');
        throw new Error(`Migration ${file} failed.`, { cause: error });
      }
      applied.push(file);
    }
    await writeProfiles(client, shippedProfiles, 'shipped');
  } finally {
    await client.query('select pg_advisory_unlock($1)', [LOCK]).catch(() => {});
    client.release();
  }
  return applied;
}
