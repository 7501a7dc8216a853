import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { arraysInUse } from '../../core/picture/kernels/heap.ts';
import { dropMemory, kernelMemory } from '../../core/picture/kernels/kernels.ts';
import { type ReadFile, type ReadOptions, createReader } from '../decode/reader.ts';
import { ROOT } from '../paths.ts';

/** Threads that render, and processes that read files. */
export interface Pool {
  run(task: unknown, options: { name: string; signal?: AbortSignal }): Promise<unknown>;
  read(path: string, name: string, options?: ReadOptions): Promise<ReadFile>;
  picture(path: string, name: string): Promise<Uint8Array | null>;
  /** Starts all threads, and a reader, ahead of their first task. */
  begin(): void;
  destroy(): Promise<void>;
}

/** Milliseconds without work after which threads end, and with them the memory of the largest picture so far. */
const IDLE = 30_000;

interface Threads {
  memory: WebAssembly.Memory;
  piscina: Piscina;
}

/** One thread per core, all on one memory. They keep going a while when idle, since starting one takes time. */
export function createPool(most = availableParallelism()): Pool {
  let threads: Threads | null = null;
  let working = 0;

  function end(): Promise<void> | undefined {
    const ended = threads?.piscina.destroy();
    threads = null;
    return ended;
  }

  // Memory that has grown never shrinks: it is left behind as a whole once nothing stands in it.
  const idle = setTimeout(() => {
    if (working > 0 || !threads) return;
    if (arraysInUse() > 0) return void idle.refresh();
    void end();
    dropMemory();
  }, IDLE).unref();

  function started(least = 1): Piscina {
    const memory = kernelMemory();
    if (threads?.memory !== memory) {
      void end();
      const piscina = new Piscina({
        filename: pathToFileURL(join(ROOT, 'programs/render-worker.mjs')).href,
        minThreads: least,
        maxThreads: most,
        idleTimeout: IDLE,
        env: { ...process.env } as Record<string, string>,
        workerData: memory
      });
      threads = { memory, piscina };
    }
    return threads!.piscina;
  }

  const reader = createReader();
  return {
    async run(task, options) {
      working++;
      try {
        return (await started().run(task, options)) as unknown;
      } finally {
        working--;
        idle.refresh();
      }
    },
    read: reader.read,
    picture: reader.picture,
    begin() {
      reader.begin();
      started(most);
    },
    async destroy() {
      clearTimeout(idle);
      reader.close();
      await end();
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
