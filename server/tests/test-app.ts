/** An app on a new, empty database and data folder. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { inject } from 'vitest';
import { closeApp, getContext } from '../app.ts';
import type { Context } from '../context.ts';
import { createJob } from '../jobs/jobs.ts';

let counter = 0;

export interface TestApp {
  app: Context;
  jobId: string;
  /** Stops the app as a clean shutdown does; the database and the folder stay for `reopen`. */
  close(): Promise<void>;
  reopen(): Promise<Context>;
  remove(): Promise<void>;
}

export async function openTestApp(data = mkdtempSync(join(tmpdir(), 'line-true-app-'))): Promise<TestApp> {
  const name = `test_${process.pid}_${++counter}`;
  const url = inject('clusterUrl');
  const admin = new pg.Client({ connectionString: url });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  process.env.DATABASE_URL = url.replace(/\/[^/]+$/, `/${name}`);
  process.env.LINE_TRUE_DATA = data;
  const app = await getContext();
  return {
    app,
    jobId: await createJob(app, { name: 'Test job' }),
    close: closeApp,
    reopen: getContext,
    async remove() {
      await closeApp();
      rmSync(data, { recursive: true, force: true });
    }
  };
}

export async function* bytesOf(...parts: Uint8Array[]): AsyncGenerator<Uint8Array> {
  yield* parts;
}

/** Waits until something is so. */
export async function until<T>(check: () => Promise<T | null | false | undefined>, seconds = 60): Promise<T> {
  const deadline = Date.now() + seconds * 1000;
  for (;;) {
    const found = await check();
    if (found) return found;
    if (Date.now() > deadline) throw new Error('It did not happen in time.');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
