import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { type ReadFile, createReader } from '../decode/reader.ts';
import { ROOT } from '../paths.ts';

/** Threads that render, and processes that read files. */
export interface Pool {
  run(task: unknown, options: { name: string; signal?: AbortSignal }): Promise<unknown>;
  read(path: string, name: string, signal?: AbortSignal): Promise<ReadFile>;
  destroy(): Promise<void>;
}

/** One thread per core. Threads keep going a while when idle, since starting one takes time. */
export function createPool(threads = availableParallelism()): Pool {
  const piscina = new Piscina({
    filename: pathToFileURL(join(ROOT, 'server/render/worker-entry.mjs')).href,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30000,
    env: { ...process.env } as Record<string, string>
  });
  const reader = createReader();
  return {
    run: (task, options) => piscina.run(task, options) as Promise<unknown>,
    read: reader.read,
    async destroy() {
      reader.close();
      await piscina.destroy();
    }
  };
}

/** Runs a task for every band of rows; several at once, as many as there are threads. */
export async function inBands(
  rows: number,
  bandRows: number,
  signal: AbortSignal | undefined,
  work: (from: number, to: number) => Promise<unknown>,
  onDone: (share: number) => void = () => {}
): Promise<void> {
  let done = 0;
  const bands: Promise<unknown>[] = [];
  for (let from = 0; from < rows; from += bandRows) {
    const to = Math.min(rows, from + bandRows);
    bands.push(
      work(from, to).then(() => {
        done += to - from;
        onDone(done / rows);
      })
    );
  }
  const results = await Promise.allSettled(bands);
  signal?.throwIfAborted();
  const failed = results.find((result) => result.status === 'rejected');
  if (failed) throw failed.reason;
}
