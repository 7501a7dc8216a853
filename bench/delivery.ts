/**
 * npm run bench:delivery [frames] [--large]: a delivery of many frames x four deliverables through database, queue and
 * threads, as the app runs it: time, use of the cores, and resident memory over the run. `--large` takes 24 MP test
 * pictures in place of the demo photographs.
 */
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { availableParallelism, cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { parseArgs } from 'node:util';
import { DEMO_FRAMES, dngFacts } from '../scenes/demo-frames.ts';
import { writeDng } from '../scenes/camera/dng.ts';
import { closeApp, getContext } from '../server/app.ts';
import { addFrame } from '../server/frames/add-frame.ts';
import { framesOfJob } from '../server/frames/frame-row.ts';
import { createJob } from '../server/jobs/jobs.ts';
import { listDeliverables } from '../server/deliveries/deliverables.ts';
import { type Pick, itemsOf, planDelivery, startDelivery } from '../server/deliveries/deliveries.ts';
import { takeDemoFrames } from '../server/start/demo.ts';
import { startCluster } from '../server/start/postgres.ts';
import { testMosaic } from './test-mosaic.ts';

const CHOSEN = ['Listing 4x3', 'Banner 16x9', 'Feed 4x5', 'Architect TIFF'];
const { values, positionals } = parseArgs({
  options: { large: { type: 'boolean' } },
  allowPositionals: true
});
const wanted = Number(positionals[0] ?? 30);

const say = (text: string): void => void process.stdout.write(`${text}\n`);
const wait = (seconds: number): Promise<void> => new Promise((done) => setTimeout(done, seconds * 1000));

async function photographs(): Promise<{ name: string; bytes: Buffer }[]> {
  if (values.large) {
    const mosaic = testMosaic({ width: 6000, height: 4000 });
    return [{ name: 'large.dng', bytes: Buffer.from(writeDng(mosaic, dngFacts(DEMO_FRAMES[0]))) }];
  }
  const folder = join(tmpdir(), 'line-true-bench', 'demo');
  mkdirSync(folder, { recursive: true });
  await takeDemoFrames(folder, say);
  return readdirSync(folder)
    .filter((name) => name.endsWith('.dng') && !name.startsWith('BRN'))
    .sort()
    .map((name) => ({ name, bytes: readFileSync(join(folder, name)) }));
}

const folder = mkdtempSync(join(tmpdir(), 'line-true-delivery-'));
// The database's own user has to reach its folder.
chmodSync(folder, 0o755);
const pictures = await photographs();
const cluster = await startCluster(join(folder, 'database'), () => {});
process.env.DATABASE_URL = cluster.url;
process.env.LINE_TRUE_DATA = join(folder, 'data');
const app = await getContext();
const jobId = await createJob(app, { name: 'Bench' });
for (let i = 0; i < wanted; i++) {
  const { name, bytes } = pictures[i % pictures.length];
  // A few bytes at the end make it another file; the picture is the same.
  const other = Buffer.concat([bytes, Buffer.from(String(i))]);
  await addFrame(app, jobId, `${i}-${name}`, Readable.from([other]));
}
say(`Preparing ${wanted} frames…`);
while ((await framesOfJob(app, jobId)).some(({ state }) => state === 'preparing')) await wait(1);

const deliverables = (await listDeliverables(app)).filter(({ document }) => CHOSEN.includes(document.name));
const picks = (await framesOfJob(app, jobId)).flatMap(({ id }) =>
  deliverables.map((deliverable): Pick => [id, deliverable.id])
);
const { seconds: estimate } = await planDelivery(app, jobId, picks);
const id = await startDelivery(app, jobId, picks);
/** Milliseconds that the cores had nothing to do, and all that they were given: a host may withhold some. */
const given = (): { idle: number; all: number } => {
  const times = cpus().map(({ times: { idle, user, nice, sys, irq } }) => [
    idle,
    idle + user + nice + sys + irq
  ]);
  const sum = (i: number): number => times.reduce((total, each) => total + each[i], 0);
  return { idle: sum(0), all: sum(1) };
};
const before = given();
const started = performance.now();
const cpu = process.cpuUsage();
const resident: number[] = [];
say('Delivering…');
const atEnd = (state: string): boolean => state !== 'queued' && state !== 'running';
for (;;) {
  await wait(0.5);
  resident.push(process.memoryUsage().rss / 1e9);
  if ((await itemsOf(app, id)).every(({ state }) => atEnd(state))) break;
}
const took = (performance.now() - started) / 1000;
const { user, system } = process.cpuUsage(cpu);
const items = await itemsOf(app, id);
say(`${items.length} pictures in ${took.toFixed(0)} s (estimated ${estimate} s)`);
say(`not done: ${items.filter(({ state }) => state !== 'done').length}`);
say(`most encodes: ${Math.max(...items.map(({ encodes }) => encodes ?? 0))}`);
say(`cores in use: ${((user + system) / 1e6 / took).toFixed(2)} of ${availableParallelism()}`);
const after = given();
const idle = (after.idle - before.idle) / (after.all - before.all);
say(`idle share of the time that the machine had: ${(idle * 100).toFixed(0)} %`);
const sixths = Array.from({ length: 6 }, (_, i) => {
  const part = resident.slice((i * resident.length) / 6, ((i + 1) * resident.length) / 6);
  return (part.reduce((sum, value) => sum + value, 0) / part.length).toFixed(2);
});
say(
  `resident memory by sixths of the run: ${sixths.join(', ')} GB; most ${Math.max(...resident).toFixed(2)} GB`
);
await closeApp();
await cluster.stop();
rmSync(folder, { recursive: true, force: true });
