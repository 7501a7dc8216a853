/** Builds the web app when anything it is made of has changed since the last build. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../paths.ts';
import { fingerprint } from './fingerprint.ts';

const SOURCES = ['core', 'server', 'web', 'package-lock.json', 'svelte.config.js', 'vite.config.ts'];

export function buildApp(say: (text: string) => void): void {
  const stamp = join(ROOT, 'build/made-from');
  const wanted = fingerprint(SOURCES);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Building the app…');
  const built = spawnSync(
    process.execPath,
    [join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'],
    {
      cwd: ROOT,
      encoding: 'utf8'
    }
  );
  if (built.status !== 0) throw new Error(`The build failed:\n${built.stdout}\n${built.stderr}`);
  writeFileSync(stamp, wanted);
}
