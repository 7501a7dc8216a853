/** Keeps the database's server running: one that ends by itself, or is killed, is started again. */
import type { ChildProcess } from 'node:child_process';
import { setTimeout as pause } from 'node:timers/promises';

export interface Supervised {
  run: () => ChildProcess;
  answers: () => Promise<boolean>;
  say: (text: string) => void;
}

export interface Supervision {
  /** Resolves once the server answers; `running`: another one does already, and is only watched. */
  start(running: boolean): Promise<void>;
  /** The server may end now. */
  release(): void;
}

/** Milliseconds that a server may take to come up (it may have to recover, and others of its own to end first). */
const PATIENCE = 60_000;
const LOOK = 100;
/** Milliseconds between two looks at a server that is not our own child, and between two tries to start one. */
const WATCH = 1000;

export function superviseServer({ run, answers, say }: Supervised): Supervision {
  let released = false;

  /** Starts the server, as often as it takes: what a killed one leaves may keep the next from starting for a while. */
  async function comeUp(): Promise<void> {
    const deadline = Date.now() + PATIENCE;
    let complaint = '';
    while (!released) {
      const child = run();
      complaint = '';
      child.stderr?.on('data', (chunk: Buffer) => (complaint = (complaint + chunk.toString()).slice(-2000)));
      let ended = false;
      child.once('exit', () => (ended = true));
      while (!ended && !(await answers())) await pause(LOOK);
      if (!ended) {
        child.unref();
        child.once('exit', () => void again());
        return;
      }
      if (Date.now() > deadline) throw new Error(`PostgreSQL did not start:\n${complaint}`);
      await pause(WATCH);
    }
  }

  async function again(): Promise<void> {
    while (!released) {
      say('The database stopped. It is started again…');
      try {
        await comeUp();
        if (!released) say('The database is back.');
        return;
      } catch (error) {
        say((error as Error).message);
      }
    }
  }

  async function watch(): Promise<void> {
    while (!released && (await answers())) await pause(WATCH);
    if (!released) await again();
  }

  return {
    async start(running) {
      if (!running) await comeUp();
      else void watch();
    },
    release() {
      released = true;
    }
  };
}
