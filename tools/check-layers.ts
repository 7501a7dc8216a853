/**
 * Checks that imports point one way: web → server → core, scenes → core; between the rooms of core from the ground up; and
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
const CORE_PACKAGES = new Set(['ml-matrix', 'flatqueue', 'json-schema-to-ts', 'fast-deep-equal']);

/**
 * The rooms of core from the ground up: each may import those before it. What a step needs stands in its folder; what several
 * need, below them.
 */
export const CORE_ORDER = [
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
  'steps/lens',
  'steps/lines',
  'steps/crop',
  'steps/colour',
  'steps/tone',
  'steps/areas',
  'steps/mend',
  'steps/finish',
  'recipe',
  'render'
];

/** The room that a file of core stands in, by its place in the order; -1 where it has none yet. */
const roomOf = (path: string): number => {
  const inside = path.split('/').slice(1).join('/');
  return CORE_ORDER.findIndex((room) => inside.startsWith(`${room}/`));
};

/** Whether an import inside core points up, or at a folder that has no place yet. */
function pointsUp(from: string, to: string): boolean {
  const [own, other] = [from, to].map(roomOf);
  return own < 0 || other < 0 || other > own;
}

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
      for (const [, imported] of readFileSync(path, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)) {
        const alias = /^\$(core|server)\//.exec(imported)?.[1];
        const target =
          alias ??
          (imported.startsWith('.') ? relative(root, resolve(dirname(path), imported)).split('/')[0] : null);
        // What tests compare with is no part of the product.
        if (!test && imported.endsWith('.oracle.ts')) {
          faults.push({ file: relative(root, path), imported });
          continue;
        }
        if (layer === 'core' && target === 'core' && !test) {
          const [from, to] = [path, resolve(dirname(path), imported)].map((each) => relative(root, each));
          if (pointsUp(from, to)) faults.push({ file: from, imported });
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
