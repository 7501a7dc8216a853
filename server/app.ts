/** What a running server holds: database, queue, threads and folders. Made once, on first use. */
import { hostname } from 'node:os';
import { join } from 'node:path';
import pLimit, { type LimitFunction } from 'p-limit';
import pg from 'pg';
import PgBoss from 'pg-boss';
import { migrate } from './database/migrate.ts';
import { startWork } from './queue.ts';
import { ROOT } from './paths.ts';
import { type Pool, createPool } from './render/pool.ts';

export interface App {
  db: pg.Pool;
  boss: PgBoss;
  pool: Pool;
  /** Folder of originals, proxies and exports. */
  data: string;
  /** Folder of the jobs' delivery folders. */
  deliveries: string;
  /** Names this process's machine and folder, to find its own unfinished work after a crash. */
  worker: string;
  /** Lets one frame of all deliveries at a time give out its pictures. */
  deliveryTurn: LimitFunction;
  /** Running exports, to cancel them. */
  running: Map<string, AbortController>;
}

let app: Promise<App> | null = null;

async function create(): Promise<App> {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set: start Line True with bin/start.');
  const db = new pg.Pool({ connectionString, max: 10 });
  // Without a listener a broken idle connection would end the process.
  db.on('error', (error) => console.error('database:', error.message));
  await migrate(db);
  const boss = new PgBoss({ connectionString, max: 4 });
  boss.on('error', (error) => console.error('queue:', error.message));
  await boss.start();
  const data = process.env.LINE_TRUE_DATA ?? join(ROOT, 'data');
  const made: App = {
    db,
    boss,
    pool: createPool(),
    data,
    deliveries: process.env.LINE_TRUE_DELIVERIES ?? join(data, 'deliveries'),
    worker: `${hostname()}:${data}`,
    deliveryTurn: pLimit(1),
    running: new Map()
  };
  await startWork(made);
  return made;
}

export function getApp(): Promise<App> {
  app ??= create();
  return app;
}

export async function closeApp(): Promise<void> {
  if (!app) return;
  const { db, boss, pool, running } = await app;
  for (const controller of running.values()) controller.abort();
  await boss.stop({ graceful: false, wait: true }).catch(() => {});
  await pool.destroy();
  await db.end();
  app = null;
}
