/** Once for all tests: a database cluster of their own and a few small photographs of the demo camera. */
import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { DEMO_FRAMES } from '../../scenes/demo-frames.ts';
import { takeFrame } from '../../scenes/take-frame.ts';
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

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'line-true-tests-'));
  // The database's own user has to reach its folder.
  chmodSync(folder, 0o755);
  const photographs = join(folder, 'photographs');
  mkdirSync(photographs);
  for (const frame of DEMO_FRAMES.filter(({ file }) => WANTED.includes(file))) {
    writeFileSync(join(photographs, frame.file), takeFrame(frame, EDGE));
  }
  const cluster = await startCluster(join(folder, 'data'), () => {});
  project.provide('clusterUrl', cluster.url);
  project.provide('photographs', photographs);
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
