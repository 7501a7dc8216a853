/** Makes what a running Line True holds: database, queue, threads and folders. Once in a process, on first use. */
import { hostname } from 'node:os';
import { join } from 'node:path';
import pLimit from 'p-limit';
import pg from 'pg';
import type { Context } from './context.ts';
import { untilDatabaseAnswers } from './database/away.ts';
import { shippedProfiles } from '../core/optics/shipped-profiles.ts';
import { migrate } from './database/migrate.ts';
import { writeProfiles } from './lenses/catalogue.ts';
import { adoptExports } from './deliveries/adopt-exports.ts';
import { unfinishedFolder } from './deliveries/delivery-folder.ts';
import { unfinishedHandOvers } from './hand-over/hand-over-folder.ts';
import { nameFolders } from './deliveries/name-folders.ts';
import { openNotices } from './notices/notices.ts';
import { incomingFolder, removeAbandoned } from './originals/store-original.ts';
import { ROOT } from './paths.ts';
import { createParser } from './parse/parser.ts';
import { createPool } from './render/pool.ts';
import { askAgain } from './ask-again.ts';
import { type Engine, startEngine } from './work/engine.ts';
import { workKinds } from './handlers.ts';
import { WORK_NAMES } from './work/names.ts';

interface App {
  context: Context;
  engine: Engine;
}

let app: Promise<App> | null = null;

/** Makes all of it; where something fails, what was made until then is closed again, the last first. */
async function create(): Promise<App> {
  const opened: (() => Promise<unknown>)[] = [];
  try {
    return await open((close) => void opened.push(close));
  } catch (error) {
    for (const close of opened.reverse()) await close().catch(() => {});
    throw error;
  }
}

async function open(onFailure: (close: () => Promise<unknown>) => void): Promise<App> {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set: start Line True with bin/start.');
  const db = new pg.Pool({ connectionString, max: 10 });
  onFailure(() => db.end());
  // Without a listener a broken idle connection would end the process.
  db.on('error', (error) => console.error('database:', error.message));
  await untilDatabaseAnswers(db, (text) => console.error(text));
  await migrate(db);
  await writeProfiles(db, shippedProfiles, 'shipped');
  const engine = await startEngine(connectionString, db, WORK_NAMES);
  onFailure(() => engine.stop());
  const data = process.env.LINE_TRUE_DATA ?? join(ROOT, 'data');
  const context: Context = {
    db,
    pool: createPool(),
    parser: createParser(),
    data,
    deliveries: process.env.LINE_TRUE_DELIVERIES ?? join(data, 'deliveries'),
    enqueue: engine.enqueue,
    notices: openNotices(db, connectionString),
    machine: process.env.LINE_TRUE_MACHINE ?? hostname(),
    deliveryTurn: pLimit(1)
  };
  onFailure(() => context.notices.close());
  onFailure(() => context.parser.destroy());
  onFailure(() => context.pool.destroy());
  await removeAbandoned(incomingFolder(data));
  await removeAbandoned(unfinishedFolder(context));
  await removeAbandoned(unfinishedHandOvers(context));
  await adoptExports(context);
  await nameFolders(context);
  await askAgain(context);
  engine.take(workKinds(context));
  return { context, engine };
}

export async function getContext(): Promise<Context> {
  // A start that failed is tried again by whoever comes next.
  app ??= create().catch((error: unknown) => {
    app = null;
    throw error;
  });
  return (await app).context;
}

export async function closeApp(): Promise<void> {
  if (!app) return;
  const { context, engine } = await app;
  await engine.stop();
  await context.pool.destroy();
  await context.parser.destroy();
  await context.notices.close();
  await context.db.end();
  app = null;
}
