/** Takes the demo photographs into a folder: node --import tsx scenes/make-demo.ts FOLDER [LONG EDGE]. */
import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { DEMO_FRAMES, DEMO_JOBS, type DemoFrame } from './demo-frames.ts';

/** 2880 x 1920 pixels: about 6 MP. */
const DEFAULT_EDGE = 2880;

const [folder, edge = String(DEFAULT_EDGE)] = process.argv.slice(2);
if (!folder) {
  process.stderr.write('Say where: scenes/make-demo.ts FOLDER [LONG EDGE]\n');
  process.exit(2);
}
mkdirSync(folder, { recursive: true });
const pool = new Piscina({
  filename: new URL('./take-frame-worker.mjs', import.meta.url).href,
  maxThreads: availableParallelism()
});
let done = 0;
const started = performance.now();
const scenes = [...new Set(DEMO_FRAMES.map((frame) => frame.scene))];

/** Frames of one scene share its light, so that one thread takes them, one after the other. */
async function takeAll(frames: readonly DemoFrame[]): Promise<void> {
  for (const frame of frames) {
    const index = DEMO_FRAMES.indexOf(frame);
    const bytes = (await pool.run({ index, long: Number(edge) })) as Uint8Array;
    const path = join(folder, frame.file);
    writeFileSync(`${path}.part`, bytes);
    renameSync(`${path}.part`, path);
    const seconds = ((performance.now() - started) / 1000).toFixed(0);
    process.stdout.write(`  ${++done} of ${DEMO_FRAMES.length}: ${frame.file} (${seconds} s)\n`);
  }
}

await Promise.all(scenes.map((scene) => takeAll(DEMO_FRAMES.filter((frame) => frame.scene === scene))));
await pool.destroy();
const jobs = DEMO_JOBS.map((job) => ({
  ...job,
  files: DEMO_FRAMES.filter((frame) => frame.job === job.name).map((frame) => frame.file)
}));
writeFileSync(join(folder, 'demo.json'), JSON.stringify({ jobs }, null, 2));
