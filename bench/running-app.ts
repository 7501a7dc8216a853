/** The app on a folder of its own, with raw files of the sizes that are measured. */
import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeDng } from '../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts } from '../scenes/demo-frames.ts';
import { ROOT } from '../server/paths.ts';
import { testMosaic } from './test-mosaic.ts';

export const SIZES = { '24 MP': { width: 6000, height: 4000 }, '45 MP': { width: 8256, height: 5504 } };
export type SizeName = keyof typeof SIZES;

export const say = (text: string): void => void process.stdout.write(`${text}\n`);
export const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A raw file of a size, made once; `other` makes another original of it. */
export function rawFile(name: SizeName, other = 0): Buffer {
  const folder = join(tmpdir(), 'line-true-bench');
  const file = join(folder, `with-picture-${name.replace(' ', '').toLowerCase()}.dng`);
  if (!existsSync(file)) {
    say(`Making a raw file of ${name} (once)…`);
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, writeDng(testMosaic(SIZES[name]), dngFacts(DEMO_FRAMES[0])));
  }
  return Buffer.concat([readFileSync(file), Buffer.from([other & 255, other >> 8])]);
}

export interface RunningApp {
  address: string;
  /** Its process, which holds the rendering threads. */
  child: ChildProcess;
  post<T>(path: string, body: BodyInit, type?: string): Promise<T>;
  get<T>(path: string): Promise<T>;
  end(): Promise<void>;
}

export async function startOwnApp(port: number): Promise<RunningApp> {
  const data = mkdtempSync(join(tmpdir(), 'line-true-bench-app-'));
  // The database's own user has to reach its folder.
  chmodSync(data, 0o755);
  const args = ['--empty', '--data', data, '--port', String(port)];
  const child = spawn(join(ROOT, 'bin/start'), args, { stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (text: Buffer) => text.toString().includes('is ready') && resolve());
    child.once('exit', () => reject(new Error('The app did not start.')));
  });
  const address = `http://127.0.0.1:${port}`;
  const answerOf = async <T>(answer: Response): Promise<T> => {
    if (!answer.ok) throw new Error(await answer.text());
    return (await answer.json()) as T;
  };
  return {
    address,
    child,
    post: async (path, body, type = 'application/json') =>
      answerOf(await fetch(address + path, { method: 'POST', body, headers: { 'content-type': type } })),
    get: async (path) => answerOf(await fetch(address + path)),
    async end() {
      child.kill('SIGINT');
      await new Promise((done) => child.once('exit', done));
      rmSync(data, { recursive: true, force: true });
    }
  };
}
