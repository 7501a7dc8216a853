/**
 * The queue of work, in the database (pg-boss): the only truth about who does what. A piece of work is claimed by taking it,
 * the claim is renewed while it is being done, and expires with its process: then another takes it up. Rows hold results.
 */
import { setTimeout } from 'node:timers/promises';
import type { Pool } from 'pg';
import PgBoss from 'pg-boss';
import { inTransaction } from '../database/transaction.ts';
import type { WorkName } from './names.ts';

export type Enqueue = (name: WorkName, keys: readonly string[]) => Promise<void>;

export interface Work {
  key: string;
  /** How often it was begun before and not ended. */
  tries: number;
  /** Aborted when the claim is lost, or the process ends. */
  signal: AbortSignal;
  /** Throws where the claim is lost: a process that was stopped for long hears of it only here. Before what lasts is written. */
  stillHeld(): Promise<void>;
}

export interface WorkKind {
  handle(work: Work): Promise<void>;
  /** Pieces that this process does at once. */
  atOnce: number;
  /** Work of this kind is done first, as long as there is any. */
  after?: WorkName;
  /** None is begun while this is so. */
  waits?: () => boolean;
}

export interface Engine {
  enqueue: Enqueue;
  /** Begins to take work. */
  take(kinds: Readonly<Partial<Record<WorkName, WorkKind>>>): void;
  /** Lets go of all work in hand, for others or the next start to take up at once. */
  stop(): Promise<void>;
}

interface Claim {
  name: WorkName;
  id: string;
  retryCount: number;
}

/** Seconds after which a claim that is not renewed expires, between renewals, and between looks for expired claims. */
const EXPIRES = 20;
const RENEWED = 5;
const LOOKED_FOR = 5;
/** Milliseconds between two looks for new work, and before work is tried again that another process still has in hand. */
const POLL = 400;
const IN_HAND = 1500;
const AWAY = 1000;
/** Work of processes that died counts as tried: far more often than anything sound should ever be. */
const MOST_TRIES = 20;

const QUEUE = { policy: 'short', retryLimit: MOST_TRIES, expireInSeconds: EXPIRES } as const;

export async function startEngine(
  connectionString: string,
  db: Pool,
  names: readonly WorkName[]
): Promise<Engine> {
  const boss = new PgBoss({
    connectionString,
    max: 4,
    schedule: false,
    maintenanceIntervalSeconds: LOOKED_FOR
  });
  boss.on('error', (error) => console.error('queue:', error.message));
  await boss.start();
  for (const name of names) {
    await boss.createQueue(name, { name, ...QUEUE });
    await boss.updateQueue(name, { name, ...QUEUE });
  }
  const ending = new AbortController();
  const loops: Promise<void>[] = [];

  /** Loops that wait for work of a kind; work that this process adds wakes them. */
  const resting = new Map<WorkName, Set<() => void>>(names.map((name) => [name, new Set()]));
  async function rest(name: WorkName): Promise<void> {
    const waking = new AbortController();
    const wake = (): void => waking.abort();
    const sleepers = resting.get(name)!.add(wake);
    await setTimeout(POLL, undefined, { signal: AbortSignal.any([waking.signal, ending.signal]) }).catch(
      () => {}
    );
    sleepers.delete(wake);
  }

  /** Ends early when the engine stops. */
  const pause = (ms: number): Promise<void> =>
    setTimeout(ms, undefined, { signal: ending.signal }).catch(() => {});

  /** Says what became of a claim, however long the database is away: a piece done must not be done again for that. */
  async function settle(say: () => Promise<unknown>): Promise<void> {
    for (let tries = 0; ; tries++) {
      try {
        await say();
        return;
      } catch {
        if (ending.signal.aborted && tries > 0) return;
        await pause(AWAY);
      }
    }
  }

  const send = (name: WorkName, key: string, startAfter = 0): Promise<string | null> =>
    boss.send(name, { key }, { singletonKey: key, ...(startAfter > 0 ? { startAfter } : {}) });

  /** Whether the same work was taken before and is still in hand: asked for again meanwhile, it has to wait for that. */
  async function isInHand(name: string, key: string, id: string): Promise<boolean> {
    const { rowCount } = await db.query(
      `select 1 from pgboss.job other join pgboss.job own on own.name = other.name and own.id = $3
       where other.name = $1 and other.singleton_key = $2 and other.state = 'active' and other.id <> $3
         and (other.created_on, other.id) < (own.created_on, own.id)`,
      [name, key, id]
    );
    return rowCount !== 0;
  }

  /** Whether any work of a kind waits or is in hand. */
  async function isThere(name: WorkName): Promise<boolean> {
    const { rowCount } = await db.query(
      `select 1 from pgboss.job where name = $1 and state in ('created', 'retry', 'active') limit 1`,
      [name]
    );
    return rowCount !== 0;
  }

  /** A claim of a piece of work is told from the next one of the same by how often it was begun. */
  const HELD = `name = $1 and id = $2 and retry_count = $3 and state = 'active'`;

  async function renew({ name, id, retryCount }: Claim): Promise<boolean> {
    const { rowCount } = await db.query(`update pgboss.job set started_on = now() where ${HELD}`, [
      name,
      id,
      retryCount
    ]);
    return rowCount === 1;
  }

  /** Ends a claim that is still held; another's claim of the same work is left alone. */
  const end = (
    { name, id, retryCount }: Claim,
    how: (options: PgBoss.ConnectionOptions) => Promise<unknown>
  ): Promise<void> =>
    settle(() =>
      inTransaction(db, async (client) => {
        const { rowCount } = await client.query(`select from pgboss.job where ${HELD} for update`, [
          name,
          id,
          retryCount
        ]);
        if (rowCount === 0) return;
        await how({ db: { executeSql: (text, values) => client.query(text, values as unknown[]) } });
      })
    );

  async function work(
    name: WorkName,
    kind: WorkKind,
    job: PgBoss.JobWithMetadata<{ key: string }>
  ): Promise<void> {
    const { id, data, retryCount } = job;
    const claim: Claim = { name, id, retryCount };
    const complete = (): Promise<void> => end(claim, (options) => boss.complete(name, id, {}, options));
    if (await isInHand(name, data.key, id)) {
      await complete();
      await settle(() => send(name, data.key, Math.ceil(IN_HAND / 1000)));
      return;
    }
    const lost = new AbortController();
    const timer = setInterval(() => {
      renew(claim).then(
        (held) => held || lost.abort(),
        () => {}
      );
    }, RENEWED * 1000);
    const signal = AbortSignal.any([lost.signal, ending.signal]);
    const stillHeld = async (): Promise<void> => {
      if (!(await renew(claim))) lost.abort();
      signal.throwIfAborted();
    };
    try {
      await kind.handle({ key: data.key, tries: retryCount, signal, stillHeld });
      signal.throwIfAborted();
      await complete();
    } catch (error) {
      if (!signal.aborted) console.error(`${name} ${data.key}:`, error);
      const reason = { reason: String(error) };
      if (!lost.signal.aborted) await end(claim, (options) => boss.fail(name, id, reason, options));
    } finally {
      clearInterval(timer);
    }
  }

  async function loop(name: WorkName, kind: WorkKind): Promise<void> {
    while (!ending.signal.aborted) {
      try {
        const first = kind.waits?.() || (kind.after && (await isThere(kind.after)));
        const [job] = first ? [] : await boss.fetch<{ key: string }>(name, { includeMetadata: true });
        if (job) await work(name, kind, job);
        else await rest(name);
      } catch {
        await pause(AWAY);
      }
    }
  }

  return {
    async enqueue(name, keys) {
      // One by one: put in together, they would all have the same time and come in any order.
      for (const key of keys) await send(name, key);
      for (const wake of resting.get(name)!) wake();
    },
    take(kinds) {
      for (const name of names) {
        const kind = kinds[name];
        if (kind) for (let n = 0; n < kind.atOnce; n++) loops.push(loop(name, kind));
      }
    },
    async stop() {
      ending.abort();
      await Promise.allSettled(loops);
      await boss.stop({ graceful: false, wait: true }).catch(() => {});
    }
  };
}
