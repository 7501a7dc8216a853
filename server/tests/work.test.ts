/** Queued work: shared by any number of processes, taken up when one dies, and never done twice. */
import { type ChildProcess, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { actOnDelivery, deliverOne, itemsOf } from '../deliveries/deliveries.ts';
import { soundDeliverable } from '../deliveries/deliverables.ts';
import { folderName } from '../deliveries/delivery-folder.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { ROOT } from '../paths.ts';
import { type Engine, type Work, startEngine } from '../work/engine.ts';
import { DELIVER, PREPARE } from '../work/names.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let frameId = '';
const workers: ChildProcess[] = [];

async function startWorker(name: string): Promise<ChildProcess> {
  const args = ['--database', process.env.DATABASE_URL!, '--data', test.app.data];
  const child = spawn(join(ROOT, 'bin/worker'), args, {
    detached: true,
    env: { ...process.env, LINE_TRUE_MACHINE: name },
    stdio: ['ignore', 'pipe', 'inherit']
  });
  workers.push(child);
  await new Promise<void>((resolve, reject) => {
    child.stdout!.on('data', (text: Buffer) => text.includes('Taking work') && resolve());
    child.once('exit', (code) => reject(new Error(`bin/worker ended with ${code}.`)));
  });
  return child;
}

beforeAll(async () => {
  test = await openTestApp();
  const noise = { type: 'gaussian', mean: 120, sigma: 40 } as const;
  const picture = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#888', noise } })
    .jpeg()
    .toBuffer();
  frameId = (await addFrame(test.app, test.jobId, 'noise.jpg', bytesOf(picture))).id;
  await until(async () => (await frameById(test.app, frameId))?.measured === true);
  // Every beginning and every end of a picture, and who made it.
  await test.app.db.query(`
    create table log (item uuid, state text, machine text);
    create function keep_log() returns trigger language plpgsql as $$
      begin
        if new.state <> old.state then insert into log values (new.id, new.state, new.machine); end if;
        return new;
      end $$;
    create trigger keep_log after update on delivery_items for each row execute function keep_log();`);
});
afterAll(async () => {
  for (const { pid } of workers) {
    try {
      process.kill(-pid!, 'SIGKILL');
    } catch {
      // It has ended already.
    }
  }
  await test.remove();
});

describe('processes that share a database and a folder', () => {
  it('share 40 deliveries, none twice; when one is killed in the middle, the others finish all', async () => {
    const [one] = await Promise.all([startWorker('one'), startWorker('two')]);
    // All pictures have the same name at first, so that processes contend for it.
    const deliverable = await soundDeliverable({
      name: 'Same',
      pattern: '{frame}',
      sizeKind: 'long',
      width: 700
    });
    const ids = await Promise.all(
      Array.from({ length: 40 }, () => deliverOne(test.app, frameId, deliverable))
    );
    const items = async () => (await Promise.all(ids.map((id) => itemsOf(test.app, id)))).flat();
    const doneBy = async (machine: string): Promise<number> => {
      const { rows } = await test.app.db.query<{ count: number }>(
        `select count(*)::int from log where state = 'done' and machine = $1`,
        [machine]
      );
      return rows[0].count;
    };
    await until(async () => (await doneBy('one')) >= 2 && (await doneBy('two')) >= 2);
    process.kill(-one.pid!, 'SIGKILL');
    const killed = Date.now();
    await until(async () => (await items()).every(({ state }) => state === 'done'), 120);
    expect(Date.now() - killed).toBeLessThan(120_000);

    const made = await items();
    const folder = join(test.app.deliveries, folderName((await jobById(test.app, test.jobId))!));
    const files = readdirSync(folder);
    expect(files.sort()).toEqual(made.map(({ placed }) => placed!).sort());
    expect(new Set(files).size).toBe(40);
    for (const { placed, sha256 } of made)
      expect(
        createHash('sha256')
          .update(readFileSync(join(folder, placed!)))
          .digest('hex')
      ).toBe(sha256);
    const { rows } = await test.app.db.query<{
      state: string;
      item: string;
      times: number;
      machines: string[];
    }>(
      `select state, item, count(*)::int as times, array_agg(machine) as machines from log
       where state in ('running', 'done') group by state, item`
    );
    // Only what the killed one had in hand was begun a second time.
    for (const { state, times, machines } of rows)
      if (state === 'done') expect(times).toBe(1);
      else if (times > 1) expect(machines).toContain('one');
    expect(rows.filter(({ state, times }) => state === 'running' && times > 1).length).toBeLessThanOrEqual(2);
  });

  it('hear of a cancelling, whoever was asked', async () => {
    const deliverable = await soundDeliverable({
      name: 'Slow',
      pattern: '{frame}-{deliverable}',
      format: 'avif',
      sizeKind: 'long',
      width: 8000,
      enlarge: true
    });
    const id = await deliverOne(test.app, frameId, deliverable);
    await until(async () => (await itemsOf(test.app, id))[0].state === 'running');
    await actOnDelivery(test.app, id, 'cancel');
    expect((await itemsOf(test.app, id))[0].state).toBe('cancelled');
    // The claim is let go of, once the picture was dropped.
    await until(async () => {
      const { rowCount } = await test.app.db.query(
        `select 1 from pgboss.job where singleton_key = $1 and state = 'active'`,
        [`${id}:${frameId}`]
      );
      return rowCount === 0;
      // An encoder that has begun is not broken off.
    }, 110);
    expect((await itemsOf(test.app, id))[0].state).toBe('cancelled');
  });
});

describe('a process that is stopped past its claim, and goes on', () => {
  it.each([
    ['at work', 'slow'],
    ['before its picture has a name', 'unnamed']
  ])(
    'makes nothing twice, and completes nothing of another’s: %s',
    async (_, kind) => {
      const stalled = await startWorker('stalled');
      const names = await test.app.db.connect();
      const ofJob = [`names of ${test.jobId}`];
      if (kind === 'unnamed') await names.query(`select pg_advisory_lock(hashtextextended($1, 0))`, ofJob);
      const deliverable = await soundDeliverable({
        name: 'Slow',
        pattern: `{frame}-${kind}`,
        format: 'avif',
        sizeKind: 'long',
        width: 2000,
        enlarge: true
      });
      await test.app.db.query('truncate log');
      const ids: string[] = [];
      const items = async () => (await Promise.all(ids.map((id) => itemsOf(test.app, id)))).flat();
      const inHand = async (): Promise<string | undefined> =>
        (
          await test.app.db.query<{ id: string }>(
            `select id from delivery_items where machine = 'stalled' and state = 'running'`
          )
        ).rows[0]?.id;
      // Others take work too: there is more of it until this one has some.
      await until(async () => {
        if ((await items()).filter(({ state }) => state === 'queued').length < 3)
          ids.push(await deliverOne(test.app, frameId, deliverable));
        return inHand();
      }, 120);
      process.kill(-stalled.pid!, 'SIGSTOP');
      const held = await inHand();
      expect(held).toBeDefined();
      await names.query('select pg_advisory_unlock_all()');
      names.release();
      await until(async () => (await items()).every(({ state }) => state === 'done'), 240);
      const before = await items();
      process.kill(-stalled.pid!, 'SIGCONT');
      await new Promise((resolve) => setTimeout(resolve, 7000));
      expect(await items()).toEqual(before);
      const { rows } = await test.app.db.query<{ item: string; times: number; machines: string[] }>(
        `select item, count(*)::int as times, array_agg(machine) as machines from log where state = 'done' group by item`
      );
      expect(rows).toHaveLength(ids.length);
      for (const { times } of rows) expect(times).toBe(1);
      expect(rows.find(({ item }) => item === held)!.machines).not.toContain('stalled');
      process.kill(-stalled.pid!, 'SIGKILL');
    },
    400_000
  );
});

describe('the queue', () => {
  let engine: Engine;
  const begun: string[] = [];
  let [atOnce, mostAtOnce] = [0, 0];
  let fail = 0;
  const handle = async ({ key, tries, signal }: Work): Promise<void> => {
    begun.push(`${key}:${tries}`);
    mostAtOnce = Math.max(mostAtOnce, ++atOnce);
    await new Promise((resolve) => {
      const timer = setTimeout(resolve, 700);
      signal.addEventListener('abort', () => (clearTimeout(timer), resolve(null)));
    });
    atOnce--;
    signal.throwIfAborted();
    if (fail-- > 0) throw new Error('not this time');
  };
  const idle = { handle: () => Promise.resolve(), atOnce: 1 };
  const queued = async (key: string): Promise<string[]> => {
    const { rows } = await test.app.db.query<{ state: string }>(
      'select state from pgboss.job where singleton_key = $1 order by state',
      [key]
    );
    return rows.map(({ state }) => state);
  };

  beforeAll(async () => {
    const url = process.env.DATABASE_URL!.replace(/\/[^/]+$/, '/queue_alone');
    await test.app.db.query('create database queue_alone');
    await test.close();
    const { default: pg } = await import('pg');
    const db = new pg.Pool({ connectionString: url });
    test.app = { ...test.app, db };
    engine = await startEngine(url, db, [PREPARE, DELIVER]);
    engine.take({ [PREPARE]: { handle, atOnce: 3 }, [DELIVER]: idle });
  });
  afterAll(async () => {
    await engine.stop();
    await test.app.db.end();
  });

  it('does what is asked for several times once, and once more when asked while it is in hand, never at once', async () => {
    await engine.enqueue(PREPARE, ['a', 'a', 'a']);
    await until(() => Promise.resolve(begun.length === 1));
    await engine.enqueue(PREPARE, ['a', 'a']);
    await until(
      async () => (await queued('a')).every((state) => state === 'completed') && begun.length === 2
    );
    expect(mostAtOnce).toBe(1);
  });

  it('tries again what failed, and says how often it was begun', async () => {
    begun.length = 0;
    fail = 2;
    await engine.enqueue(PREPARE, ['b']);
    await until(async () => (await queued('b'))[0] === 'completed');
    expect(begun).toEqual(['b:0', 'b:1', 'b:2']);
  });

  it('lets go of what it has in hand when it stops, for the next to take up at once', async () => {
    begun.length = 0;
    await engine.enqueue(PREPARE, ['c']);
    await until(() => Promise.resolve(begun.length === 1));
    await engine.stop();
    expect(await queued('c')).toEqual(['retry']);
    engine = await startEngine(process.env.DATABASE_URL!.replace(/\/[^/]+$/, '/queue_alone'), test.app.db, [
      PREPARE,
      DELIVER
    ]);
    engine.take({ [PREPARE]: { handle, atOnce: 1 }, [DELIVER]: idle });
    await until(async () => (await queued('c'))[0] === 'completed');
    expect(begun).toEqual(['c:0', 'c:1']);
  });

  describe('a claim', () => {
    const url = (): string => process.env.DATABASE_URL!.replace(/\/[^/]+$/, '/queue_alone');
    /** An engine whose one handler waits until it is let go of, and says what it heard. */
    async function holding(key: string) {
      const heard: string[] = [];
      let held: Work | null = null;
      let letGo = (): void => {};
      await engine.stop();
      engine = await startEngine(url(), test.app.db, [PREPARE, DELIVER]);
      const wait = async (work: Work): Promise<void> => {
        held = work;
        work.signal.addEventListener('abort', () => heard.push('aborted'));
        await new Promise<void>((resolve) => (letGo = resolve));
        heard.push('done');
      };
      engine.take({ [PREPARE]: { handle: wait, atOnce: 1 } });
      await engine.enqueue(PREPARE, [key]);
      await until(() => Promise.resolve(held !== null));
      return { heard, work: held as unknown as Work, letGo: () => letGo() };
    }
    /** As if the claim had expired, and another process had taken the work up. */
    const takeOver = (key: string) =>
      test.app.db.query(
        `update pgboss.job set retry_count = retry_count + 1, started_on = now() where singleton_key = $1`,
        [key]
      );
    const stateOf = async (key: string) =>
      (
        await test.app.db.query<{ state: string; retry_count: number; age: number }>(
          `select state, retry_count, extract(epoch from now() - started_on)::float8 as age from pgboss.job
           where singleton_key = $1`,
          [key]
        )
      ).rows[0];

    it('that another took over is neither renewed nor completed by the one who lost it', async () => {
      const { heard, work, letGo } = await holding('lost');
      await work.stillHeld();
      await takeOver('lost');
      await expect(work.stillHeld()).rejects.toThrow();
      expect(heard).toEqual(['aborted']);
      letGo();
      await new Promise((resolve) => setTimeout(resolve, 600));
      expect(await stateOf('lost')).toMatchObject({ state: 'active', retry_count: 1 });
      // Renewing goes on no more: the other's claim is as old as it is.
      await test.app.db.query(
        `update pgboss.job set started_on = now() - interval '9 seconds' where singleton_key = 'lost'`
      );
      await new Promise((resolve) => setTimeout(resolve, 6000));
      expect((await stateOf('lost')).age).toBeGreaterThan(14);
      await test.app.db.query(`delete from pgboss.job where singleton_key = 'lost'`);
    });

    it('that another took over is not failed by the one who lost it', async () => {
      const { work, letGo } = await holding('failing');
      await takeOver('failing');
      work.signal.addEventListener('abort', () => {});
      const broken = expect(work.stillHeld()).rejects.toThrow();
      letGo();
      await broken;
      await new Promise((resolve) => setTimeout(resolve, 600));
      expect(await stateOf('failing')).toMatchObject({ state: 'active', retry_count: 1 });
      await test.app.db.query(`delete from pgboss.job where singleton_key = 'failing'`);
    });

    it('is renewed while its holder lives, however long that takes, and completed at the end', async () => {
      const { heard, work, letGo } = await holding('long');
      await new Promise((resolve) => setTimeout(resolve, 26_000));
      expect(heard).toEqual([]);
      expect((await stateOf('long')).age).toBeLessThan(12);
      await work.stillHeld();
      letGo();
      await until(async () => (await stateOf('long')).state === 'completed');
      expect(await stateOf('long')).toMatchObject({ retry_count: 0 });
    });
  });
});
