/** Making the database where a start that was killed left something behind. */
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { startCluster } from '../start/postgres.ts';

describe('a database that was never whole', () => {
  it('is made anew, whatever a killed start left of it; one that was is kept', async () => {
    const data = mkdtempSync(join(tmpdir(), 'line-true-cluster-'));
    chmodSync(data, 0o755);
    const folder = join(data, 'database');
    // Half of a cluster under its own name, as earlier versions left it, one beside, and a password that nothing knows.
    for (const left of ['cluster/base', 'making-7/base']) mkdirSync(join(folder, left), { recursive: true });
    writeFileSync(join(folder, 'cluster/base/half'), 'x');
    writeFileSync(join(data, 'database-password'), 'of another try');
    const ask = async (url: string, sql: string): Promise<unknown[]> => {
      const client = new pg.Client({ connectionString: url });
      await client.connect();
      try {
        return (await client.query(sql)).rows as unknown[];
      } finally {
        await client.end();
      }
    };
    const first = await startCluster(data, () => {});
    await ask(first.url, 'create table kept as select 7 as seven');
    await first.stop();
    expect(readdirSync(folder).filter((name) => name.startsWith('making-'))).toEqual([]);
    expect(existsSync(join(folder, 'cluster/base/half'))).toBe(false);
    // Killed between the mark and the name.
    const second = await startCluster(data, () => {});
    expect(await ask(second.url, 'select seven from kept')).toEqual([{ seven: 7 }]);
    await second.stop();
    rmSync(data, { recursive: true, force: true });
  });
});
