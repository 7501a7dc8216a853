/** Builds the web app when anything it is made of has changed since the last build. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../paths.ts';

const SOURCES = ['core', 'server', 'web', 'package-lock.json', 'svelte.config.js', 'vite.config.ts'];

function fingerprint(): string {
  const hash = createHash('sha256');
  const visit = (path: string): void => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else hash.update(path.slice(ROOT.length)).update(readFileSync(path));
  };
  for (const source of SOURCES) visit(join(ROOT, source));
  return hash.digest('hex');
}

export function buildApp(say: (text: string) => void): void {
  const stamp = join(ROOT, 'build/made-from');
  const wanted = fingerprint();
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
