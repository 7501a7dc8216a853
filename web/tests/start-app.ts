/** A real start of the app, as a user runs it. */
import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../../server/paths.ts';

export async function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

export function newDataFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'line-true-start-'));
  chmodSync(folder, 0o755);
  return folder;
}

export interface Running {
  address: string;
  child: ChildProcess;
  output: () => string;
  /** Ends it as Ctrl-C does; resolves with the exit code. */
  interrupt(): Promise<number | null>;
  /** Ends it at once, without a chance to tidy up. */
  kill(): Promise<void>;
}

/** bin/start, as a user runs it. Resolves once it has printed its address. */
export async function startApp(data: string, more: readonly string[] = []): Promise<Running> {
  const port = await freePort();
  // Its own process group, so that a kill reaches all of it but the database.
  const args = ['--empty', '--data', data, '--port', String(port), ...more];
  const child = spawn(join(ROOT, 'bin/start'), args, {
    cwd: ROOT,
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe']
  });
  let text = '';
  const exited = new Promise<number | null>((resolve) => child.once('exit', resolve));
  await new Promise<void>((resolve, reject) => {
    const hear = (chunk: Buffer): void => {
      text += chunk.toString();
      if (text.includes('Line True is ready')) resolve();
    };
    child.stdout!.on('data', hear);
    child.stderr!.on('data', hear);
    child.once('exit', (code) => reject(new Error(`bin/start ended with ${code}:\n${text}`)));
  });
  return {
    address: `http://127.0.0.1:${port}`,
    child,
    output: () => text,
    interrupt() {
      // It may have ended already.
      if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid!, 'SIGINT');
      return exited;
    },
    async kill() {
      process.kill(-child.pid!, 'SIGKILL');
      await exited;
    }
  };
}
