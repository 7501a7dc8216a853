/**
 * Files are read in processes of their own, within limits of time and memory. What a damaged file can do to the libraries
 * that read it (counts of entries that claim gigabytes, loops without end) ends such a process, and is told of the file.
 */
import { type ChildProcess, fork } from 'node:child_process';
import { open, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { bytesOf } from '../bytes-of.ts';
import { ROOT } from '../paths.ts';
import { takeUint16 } from '../../core/picture/kernels/heap.ts';
import { filled } from '../../core/picture/kernels/scope.ts';
import type { Decoded } from './decode-file.ts';
import type { PictureAnswer, PictureTask, ReadAnswer, ReadTask } from './read-file.ts';
import { UserError } from '../user-error.ts';

export interface ReadFile {
  /** Its pixels are in shared memory, the caller's to give back. */
  decoded: Decoded;
  sha256: string;
}

export interface ReadOptions extends Pick<ReadTask, 'edges' | 'asSrgb'> {
  signal?: AbortSignal;
}

export interface Reader {
  read(path: string, name: string, options?: ReadOptions): Promise<ReadFile>;
  /** The small picture that comes along with a file, as JPEG; null where there is none, or it cannot be had. */
  picture(path: string, name: string): Promise<Uint8Array | null>;
  /** Starts a reader ahead of its first file. */
  begin(): void;
  close(): void;
}

export interface ReaderLimits {
  /** Readers at once. */
  most?: number;
  /** Seconds that one file may take. */
  seconds?: number;
  /** Bytes that a reader may take up. */
  bytes?: number;
}

/** Megabytes of JavaScript's own memory; pixels lie outside of it. */
const HEAP = 192;
/** Milliseconds between two looks at a reader's memory, and without work after which one ends. */
const LOOK = 200;
const IDLE = 30_000;
/** A file that ends its readers this often is left alone. */
const MOST_DEATHS = 2;

/** The reader ended, or was ended, while it read. */
class ReaderDied extends Error {}

/** Resident bytes of a process, where the system tells them. */
async function residentBytes(pid: number): Promise<number> {
  const text = await readFile(`/proc/${pid}/statm`, 'utf8').catch(() => '0 0');
  return Number(text.split(' ')[1]) * 4096;
}

function startReader(): Promise<ChildProcess> {
  const child = fork(join(ROOT, 'programs/reader.mjs'), {
    serialization: 'advanced',
    execArgv: ['--no-warnings', `--max-old-space-size=${HEAP}`],
    // What a dying process says of itself is of use to nobody here.
    stdio: ['ignore', 'ignore', 'ignore', 'ipc']
  });
  return new Promise((resolve, reject) => {
    const ended = (): void => reject(new ReaderDied('It did not start.'));
    child.once('message', () => {
      child.off('exit', ended);
      resolve(child);
    });
    child.once('exit', ended);
    child.once('error', reject);
  });
}

/** One task in a running reader. */
function ask<Answer>(
  child: ChildProcess,
  task: ReadTask | PictureTask,
  { seconds, bytes }: Required<ReaderLimits>,
  signal?: AbortSignal
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const watch = setInterval(() => {
      void residentBytes(child.pid!).then((taken) => taken > bytes && child.kill('SIGKILL'));
    }, LOOK);
    const late = setTimeout(() => child.kill('SIGKILL'), seconds * 1000);
    const stop = (): void => void child.kill('SIGKILL');
    const settle = (): void => {
      clearInterval(watch);
      clearTimeout(late);
      signal?.removeEventListener('abort', stop);
      child.off('exit', died);
      child.off('message', hear);
    };
    const died = (): void => {
      settle();
      reject(signal?.aborted ? signal.reason : new ReaderDied('It ended while it read.'));
    };
    const hear = (message: { answer?: Answer; failed?: string }): void => {
      settle();
      if (message.answer) resolve(message.answer);
      else reject(new Error(message.failed));
    };
    child.once('exit', died);
    child.once('message', hear);
    signal?.addEventListener('abort', stop, { once: true });
    child.send(task, (error) => error && died());
  });
}

/** The pixels' numbers from the file that they were written to. */
async function readPixels(path: string, values: number): Promise<Uint16Array<ArrayBuffer>> {
  return filled(takeUint16(values), async (out) => {
    const bytes = bytesOf(out);
    const file = await open(path, 'r');
    try {
      for (let at = 0; at < bytes.length;) {
        const { bytesRead } = await file.read(bytes, at, bytes.length - at, at);
        if (bytesRead === 0) throw new Error('The pixels of a file came cut short.');
        at += bytesRead;
      }
    } finally {
      await file.close();
    }
  });
}

let counter = 0;

export function createReader(given: ReaderLimits = {}): Reader {
  const limits = { most: 2, seconds: 120, bytes: 5e9, ...given };
  const turns = pLimit(limits.most);
  /** Small pictures are quickly had, and wait for no large file. */
  const looks = pLimit(1);
  const resting = new Map<ChildProcess, NodeJS.Timeout>();
  const working = new Set<ChildProcess>();
  /** One that was started ahead of its first file. */
  let starting: Promise<ChildProcess> | null = null;
  let closed = false;

  async function take(): Promise<ChildProcess> {
    for (const [child, timer] of resting) {
      clearTimeout(timer);
      resting.delete(child);
      if (child.exitCode === null && child.signalCode === null) return child;
    }
    const ahead = starting;
    starting = null;
    return ahead ?? startReader();
  }

  function rest(child: ChildProcess): void {
    if (closed || child.exitCode !== null || child.signalCode !== null) return void child.kill('SIGKILL');
    const timer = setTimeout(() => {
      resting.delete(child);
      child.kill('SIGKILL');
    }, IDLE).unref();
    resting.set(child, timer);
  }

  /** Work with a reader of its own, which rests afterwards. */
  async function withReader<T>(work: (child: ChildProcess) => Promise<T>): Promise<T> {
    const child = await take();
    working.add(child);
    // A reader at work keeps nobody from ending.
    child.unref();
    try {
      return await work(child);
    } finally {
      working.delete(child);
      rest(child);
    }
  }

  async function readOnce(
    path: string,
    name: string,
    { signal, ...options }: ReadOptions
  ): Promise<ReadFile> {
    signal?.throwIfAborted();
    const pixels = join(tmpdir(), `line-true-${process.pid}-${++counter}.pixels`);
    try {
      return await withReader(async (child) => {
        const answer = await ask<ReadAnswer>(child, { path, name, pixels, ...options }, limits, signal);
        if ('refused' in answer) throw new UserError(answer.refused);
        const { decoded, values, sha256 } = answer;
        const data = await readPixels(pixels, values);
        if (decoded.kind === 'mosaic') decoded.mosaic.data = data;
        else decoded.data = data;
        return { decoded, sha256 };
      });
    } finally {
      await rm(pixels, { force: true });
    }
  }

  return {
    picture: (path, name) =>
      looks(async () => {
        try {
          const task = { path, name, picture: true } as const;
          return (await withReader((child) => ask<PictureAnswer>(child, task, limits))).jpeg;
        } catch (error) {
          if (error instanceof ReaderDied) return null;
          throw error;
        }
      }),
    begin() {
      if (starting) return;
      starting = startReader();
      // A reader that does not start is told of when it is needed.
      starting.catch(() => {});
    },
    read: (path, name, options = {}) =>
      turns(async () => {
        for (let deaths = 1; ; deaths++) {
          try {
            return await readOnce(path, name, options);
          } catch (error) {
            if (!(error instanceof ReaderDied)) throw error;
            if (deaths === MOST_DEATHS)
              throw new UserError(
                'Reading this file broke off twice, by all the memory or time that it asked for: it is damaged and is left alone. Copy it from the card again.'
              );
          }
        }
      }),
    close() {
      closed = true;
      void starting?.then((child) => child.kill('SIGKILL')).catch(() => {});
      for (const child of [...resting.keys(), ...working]) child.kill('SIGKILL');
      resting.clear();
    }
  };
}
