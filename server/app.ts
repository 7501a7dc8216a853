/** Makes what a running Line True holds: database, queue, threads and folders. Once in a process, on first use. */
import { hostname } from 'node:os';
import { join } from 'node:path';
import pLimit from 'p-limit';
import pg from 'pg';
import type { Context } from './context.ts';
import { untilDatabaseAnswers } from './database/away.ts';
import { migrate } from './database/migrate.ts';
import { adoptExports } from './deliveries/adopt-exports.ts';
import { openNotices } from './notices/notices.ts';
import { removeAbandoned } from './originals/store-original.ts';
import { ROOT } from './paths.ts';
import { createPool } from './render/pool.ts';
import { askAgain } from './work/ask-again.ts';
import { type Engine, startEngine } from './work/engine.ts';
import { workKinds } from './work/handlers.ts';
import { DELIVER, MEASURE, PREPARE } from './work/names.ts';

interface App {
  context: Context;
  engine: Engine;
}

let app: Promise<App> | null = null;

async function create(): Promise<App> {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set: start Line True with bin/start.');
  const db = new pg.Pool({ connectionString, max: 10 });
  // Without a listener a broken idle connection would end the process.
  db.on('error', (error) => console.error('database:', error.message));
  await untilDatabaseAnswers(db, (text) => console.error(text));
  await migrate(db);
  const engine = await startEngine(connectionString, db, [PREPARE, MEASURE, DELIVER]);
  const data = process.env.LINE_TRUE_DATA ?? join(ROOT, 'data');
  const context: Context = {
    db,
    pool: createPool(),
    data,
    deliveries: process.env.LINE_TRUE_DELIVERIES ?? join(data, 'deliveries'),
    enqueue: engine.enqueue,
    notices: openNotices(db, connectionString),
    machine: process.env.LINE_TRUE_MACHINE ?? hostname(),
    deliveryTurn: pLimit(1)
  };
  await removeAbandoned(data);
  await adoptExports(context);
  await askAgain(context);
  engine.take(workKinds(context));
  return { context, engine };
}

export async function getContext(): Promise<Context> {
  app ??= create();
  return (await app).context;
}

export async function closeApp(): Promise<void> {
  if (!app) return;
  const { context, engine } = await app;
  await engine.stop();
  await context.pool.destroy();
  await context.notices.close();
  await context.db.end();
  app = null;
}
