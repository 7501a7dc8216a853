/**
 * Takes the demo photographs into a folder: node programs/make-demo.mjs FOLDER [LONG EDGE]. Says
 * its jobs, then the name of each photograph that is there (lines of JSON), the first of each job first; those that were
 * taken before are not taken again.
 */
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { DEMO_FRAMES, type DemoFrame, demoJobs } from './demo-frames.ts';

/** 2880 x 1920 pixels: about 6 MP. */
const DEFAULT_EDGE = 2880;

const [folder, edge = String(DEFAULT_EDGE)] = process.argv.slice(2);
if (!folder) {
  process.stderr.write('Say where: make-demo FOLDER [LONG EDGE]\n');
  process.exit(2);
}
mkdirSync(folder, { recursive: true });
const pool = new Piscina({
  filename: new URL('./take-frame-worker.mjs', import.meta.url).href,
  maxThreads: availableParallelism()
});

const say = (said: object): void => void process.stdout.write(`${JSON.stringify(said)}\n`);

async function take(frame: DemoFrame): Promise<void> {
  const path = join(folder, frame.file);
  if (!existsSync(path)) {
    const bytes = (await pool.run({ index: DEMO_FRAMES.indexOf(frame), long: Number(edge) })) as Uint8Array;
    writeFileSync(`${path}.part`, bytes);
    renameSync(`${path}.part`, path);
  }
  say({ file: frame.file });
}

const jobs = demoJobs();
say({ jobs });
const first = (frame: DemoFrame): boolean => jobs.some(({ files }) => files[0] === frame.file);
const others = DEMO_FRAMES.filter((frame) => !first(frame));
const scenes = [...new Set(others.map((frame) => frame.scene))];
await Promise.all([
  ...DEMO_FRAMES.filter(first).map(take),
  // Frames of one scene share its light, so that one thread takes them, one after the other.
  ...scenes.map(async (scene) => {
    for (const frame of others.filter((other) => other.scene === scene)) await take(frame);
  })
]);
await pool.destroy();
writeFileSync(join(folder, 'demo.json'), JSON.stringify({ jobs }, null, 2));
