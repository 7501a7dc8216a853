/**
 * Checks that imports point one way: web → server → core, scenes → core; between the rooms of each layer from the ground up; and
 * that core knows no platform.
 */
import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { ROOT } from '../server/paths.ts';

/** What each layer may import besides itself. Tests may reach for the demo camera's truth. */
const ALLOWED: Record<string, string[]> = {
  core: [],
  scenes: ['core'],
  server: ['core'],
  web: ['core', 'server'],
  bench: ['core', 'server', 'scenes', 'tools'],
  tools: ['core', 'server', 'scenes']
};
const CORE_PACKAGES = new Set(['ml-matrix', 'flatqueue', 'json-schema-to-ts', 'fast-deep-equal', 'ohash']);

/**
 * The rooms of each layer from the ground up: each may import those before it. What a step needs stands in its folder; what
 * several need, below them. A file that stands in no folder is a room of its own.
 */
export const ORDER: Record<string, readonly string[]> = {
  core: [
    'math',
    'settings',
    'colour',
    'optics',
    'picture/kernels',
    'picture/tile',
    'picture/raw',
    'picture/geometry',
    'picture/output',
    'measure/edges',
    'measure/lateral',
    'measure/chart',
    'measure/flat',
    'measure/light',
    'measure/common',
    'steps/lens',
    'steps/lines',
    'steps/crop',
    'steps/colour',
    'steps/tone',
    'steps/finish',
    'steps/areas',
    'steps/mend',
    'recipe',
    'render'
  ],
  server: [
    'paths.ts',
    'bytes-of.ts',
    'user-error.ts',
    'access',
    'documents',
    'database',
    'notices',
    'decode',
    'work',
    'parse',
    'skies/sky-file.ts',
    'skies/shipped-skies.ts',
    'render',
    'context.ts',
    'skies',
    'originals',
    'frames',
    'recipes',
    'looks',
    'lenses',
    'jobs',
    'set',
    'deliveries',
    'hand-over',
    'archive',
    'cli',
    'ask-again.ts',
    'handlers.ts',
    'parse-worker.ts',
    'app.ts',
    'worker-main.ts',
    'start'
  ],
  web: [
    'theme.ts',
    'lib',
    'preview',
    'bench/state',
    'bench/room',
    'bench/controls',
    'bench/compare',
    'bench/sheet',
    'bench/parts',
    'bench/states',
    'bench/house',
    'bench/lens',
    'bench/lines',
    'bench/crop',
    'bench/colour',
    'bench/tone',
    'catalogue',
    'deliver',
    'hand-over',
    'jobs',
    'bench',
    'hooks.server.ts',
    'routes'
  ]
};

/** The place of a file's room in the order of its layer; -1 where it has none yet. */
function roomOf(path: string): number {
  const [layer, ...inside] = path.split('/');
  const name = inside.join('/');
  return ORDER[layer].findIndex((room) => name === room || name.startsWith(`${room}/`));
}

/** Whether an import inside a layer points up, or at a room that has no place yet. */
function pointsUp(from: string, to: string): boolean {
  const [own, other] = [from, to].map(roomOf);
  return own < 0 || other < 0 || other > own;
}

/** What an import names, as a path from the root; null for packages. */
function targetOf(root: string, path: string, imported: string): string | null {
  const alias = /^\$(core|server|lib)\/(.*)/.exec(imported);
  if (alias) return alias[1] === 'lib' ? `web/lib/${alias[2]}` : `${alias[1]}/${alias[2]}`;
  return imported.startsWith('.') ? relative(root, resolve(dirname(path), imported)) : null;
}

/** Styles, and what the framework makes for a route, have no place in the order. */
const isModule = (path: string): boolean => /\.(ts|svelte)$/.test(path);

export interface Fault {
  file: string;
  imported: string;
}

export function layerFaults(root: string): Fault[] {
  const faults: Fault[] = [];
  for (const [layer, allowed] of Object.entries(ALLOWED)) {
    for (const name of readdirSync(join(root, layer), { recursive: true, encoding: 'utf8' })) {
      if (!/\.(ts|svelte|mjs)$/.test(name)) continue;
      const path = join(root, layer, name);
      const test = /\.(test|oracle)\.ts$/.test(name) || name.split('/').includes('tests');
      for (const [, imported] of readFileSync(path, 'utf8').matchAll(
        /(?:from|import)\s*\(?\s*'([^'\n]+)'/g
      )) {
        const to = targetOf(root, path, imported);
        const target = to?.split('/')[0] ?? null;
        // What tests compare with is no part of the product.
        if (!test && imported.endsWith('.oracle.ts')) {
          faults.push({ file: relative(root, path), imported });
          continue;
        }
        if (target === layer && layer in ORDER && !test) {
          const from = relative(root, path);
          if (isModule(to!) && pointsUp(from, to!)) faults.push({ file: from, imported });
          continue;
        }
        const own =
          target === layer ||
          (target !== null && allowed.includes(target)) ||
          (target === '.svelte-kit' && layer === 'web');
        if (
          target !== null
            ? !(own || (test && target in ALLOWED))
            : layer === 'core' && !test && !CORE_PACKAGES.has(imported)
        ) {
          faults.push({ file: relative(root, path), imported });
        }
      }
    }
  }
  return faults;
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  const faults = layerFaults(ROOT);
  for (const { file, imported } of faults) process.stderr.write(`${file} must not import ${imported}\n`);
  process.exitCode = faults.length > 0 ? 1 : 0;
}
