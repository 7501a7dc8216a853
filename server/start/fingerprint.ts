/** A hash of files and folders with their names, without tests: whether what is made of them has to be made anew. */
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../paths.ts';

/** Paths are from the project's folder; `given`: what it depends on besides them. */
export function fingerprint(paths: readonly string[], given = ''): string {
  const hash = createHash('sha256').update(given);
  const visit = (path: string): void => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else if (!path.endsWith('.test.ts')) hash.update(path.slice(ROOT.length)).update(readFileSync(path));
  };
  for (const path of paths) visit(join(ROOT, path));
  return hash.digest('hex');
}
