import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { arraysInUse } from '../../core/picture/kernels/heap.ts';
import { dropMemory, kernelMemory, kernels } from '../../core/picture/kernels/kernels.ts';
import { type ReadFile, type ReadOptions, createReader } from '../decode/reader.ts';
import { ROOT } from '../paths.ts';
import { stopFlagOf } from './stop-flag.ts';
import { ownerOf } from './thread-owner.ts';

/** Threads that render, and processes that read files. */
export interface Pool {
  /**
   * A task for a thread. When `signal` is raised the task is not begun any more, or ends by itself: the promise settles, by a
   * rejection with the signal's reason, once no thread works on it.
   */
  run(task: unknown, options: { name: string; signal?: AbortSignal }): Promise<unknown>;
  read(path: string, name: string, options?: ReadOptions): Promise<ReadFile>;
  picture(path: string, name: string): Promise<Uint8Array | null>;
  /** Starts all threads, and a reader, ahead of their first task. */
  begin(): void;
  destroy(): Promise<void>;
}

/** Milliseconds without work after which threads end, and with them the memory of the largest picture so far. */
const IDLE = 30_000;
/** A task whose thread ended by itself is given to another, this often in all. */
const MOST_TRIES = 2;

interface Threads {
  memory: WebAssembly.Memory;
  piscina: Piscina;
  /** How many ended by themselves, or because they were idle. */
  ended: number;
}

/** One thread per core, all on one memory; `reader` ends with them. They keep going a while when idle, since starting one takes time. */
export function createPool(most = availableParallelism(), reader = createReader()): Pool {
  let threads: Threads | null = null;
  let working = 0;

  /** Ends all threads, each when it is done with what it has in hand. */
  function end(): Promise<void> | undefined {
    const ended = threads?.piscina.close();
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

  /** What a thread took and did not hand over goes when it does. */
  function giveBackAtEnd(begun: Threads): void {
    const known = new Set<number>();
    begun.piscina.on('workerCreate', () => {
      for (const worker of begun.piscina.threads) {
        const { threadId } = worker;
        if (known.has(threadId)) continue;
        known.add(threadId);
        worker.once('exit', () => {
          begun.ended++;
          if (threads === begun) kernels().releaseOwned(ownerOf(threadId));
        });
      }
    });
  }

  function started(least = 1): Threads {
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
      // A thread that ends by itself is told of by the task that it had in hand.
      piscina.on('error', () => {});
      threads = { memory, piscina, ended: 0 };
      giveBackAtEnd(threads);
    }
    return threads!;
  }

  async function tried(task: unknown, name: string, tries = 1): Promise<unknown> {
    const begun = started();
    const { ended } = begun;
    try {
      return (await begun.piscina.run(task, { name })) as unknown;
    } catch (error) {
      // Of a thread's own errors the thread stays.
      if (tries >= MOST_TRIES || threads !== begun || !(await hasEnded(begun, ended))) throw error;
      return tried(task, name, tries + 1);
    }
  }

  /** Whether a thread has ended since; its end is told a moment after its task has failed. */
  async function hasEnded(begun: Threads, before: number): Promise<boolean> {
    await new Promise((resolve) => setTimeout(resolve, 20));
    return begun.ended > before;
  }

  return {
    async run(task, { name, signal }) {
      signal?.throwIfAborted();
      working++;
      try {
        const stop = signal ? stopFlagOf(signal) : null;
        const answer = await tried({ task, stop }, name);
        signal?.throwIfAborted();
        return answer;
      } catch (error) {
        signal?.throwIfAborted();
        throw error;
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

/** Runs a task for every band of rows; several at once, as many as there are threads. Settles when none is at work any more. */
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
