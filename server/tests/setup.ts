/** Once for all tests: a database cluster of their own and a few small photographs of the demo camera. */
import { chmodSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { rename } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { TestProject } from 'vitest/node';
import { DEMO_FRAMES } from '../../scenes/demo-frames.ts';
import { buildPrograms } from '../../tools/build-programs.mjs';
import { ROOT } from '../paths.ts';
import { fingerprint } from '../start/fingerprint.ts';
import { startCluster } from '../start/postgres.ts';

declare module 'vitest' {
  interface ProvidedContext {
    clusterUrl: string;
    photographs: string;
  }
}

/** Long edge of the photographs that tests use. */
const EDGE = 1500;
const WANTED = [
  'SML_0101.dng',
  'SML_0130.dng',
  'CPR_0014.dng',
  'CPR_0003.dng',
  'CPR_0021.dng',
  'BRN_0001.dng',
  'BRN_0004.dng',
  'BRN_0007_flat.dng'
];

/** What the photographs depend on: the demo camera and what it computes with. */
const CAMERA = ['scenes', 'core/optics', 'core/math', 'core/colour', 'package-lock.json'];

/** Taken once, and kept for later runs as long as what makes them is the same. */
async function takePhotographs(): Promise<string> {
  const kept = join(
    tmpdir(),
    'line-true-photographs',
    fingerprint(CAMERA, JSON.stringify([EDGE, WANTED])).slice(0, 20)
  );
  if (existsSync(kept)) return kept;
  const taking = `${kept}.${process.pid}.part`;
  mkdirSync(taking, { recursive: true });
  const wanted = DEMO_FRAMES.filter(({ file }) => WANTED.includes(file));
  const pool = new Piscina({ filename: join(ROOT, 'programs/take-frame-worker.mjs'), maxThreads: 2 });
  try {
    await Promise.all(
      wanted.map(async (frame) => {
        const index = DEMO_FRAMES.indexOf(frame);
        writeFileSync(join(taking, frame.file), (await pool.run({ index, long: EDGE })) as Uint8Array);
      })
    );
  } finally {
    await pool.destroy();
  }
  // Another run may have taken them meanwhile: they are the same.
  await rename(taking, kept).catch(() => rmSync(taking, { recursive: true, force: true }));
  return kept;
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'line-true-tests-'));
  // The database's own user has to reach its folder.
  chmodSync(folder, 0o755);
  await buildPrograms();
  const photographs = await takePhotographs();
  const cluster = await startCluster(join(folder, 'data'), () => {});
  project.provide('clusterUrl', cluster.url);
  project.provide('photographs', photographs);
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
