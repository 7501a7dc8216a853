import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's folder, also when this code runs from a bundle: the nearest one above that holds the worker. */
function findRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'server/render/worker.ts'))) {
    const parent = dirname(folder);
    if (parent === folder) return process.cwd();
    folder = parent;
  }
  return folder;
}

export const ROOT = findRoot();
