/**
 * Bundles what runs as a process or thread of its own into programs/, so that each starts at once: reading hundreds of
 * TypeScript files takes a second. Does nothing while it is up to date. Plain JavaScript: it runs before anything of
 * TypeScript can.
 */
import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildKernels } from './build-kernels.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const target = join(root, 'programs');

const PROGRAMS = {
  'line-true': 'server/cli/line-true.ts',
  start: 'server/start/main.ts',
  worker: 'server/worker-main.ts',
  reader: 'server/decode/reader-main.ts',
  'render-worker': 'server/render/worker.ts',
  'parse-worker': 'server/parse-worker.ts',
  'make-demo': 'scenes/make-demo.ts',
  'take-frame-worker': 'scenes/take-frame-worker.ts'
};

/**
 * Packages that are not bundled: with native parts, threads or files of their own, or which only services need. Finding the
 * hundred files of the others takes longer than running them.
 */
const FROM_PACKAGES = [
  'sharp',
  'piscina',
  'pdfkit',
  'fontkit',
  'pg',
  'pg-boss',
  'rate-limiter-flexible',
  'vite'
];

/** A hash of all sources. */
function fingerprint() {
  const hash = createHash('sha256')
    .update(JSON.stringify([PROGRAMS, FROM_PACKAGES]))
    .update(readFileSync(join(root, 'package-lock.json')));
  for (const layer of ['core', 'scenes', 'server'])
    for (const name of readdirSync(join(root, layer), { recursive: true }).sort())
      if (/(?<!\.test)\.ts$/.test(name)) hash.update(name).update(readFileSync(join(root, layer, name)));
  return hash.digest('hex');
}

export async function buildPrograms() {
  await buildKernels();
  const wanted = fingerprint();
  const stamp = join(target, 'made-from');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  // Programs may be running: the new ones take the old ones' place at once.
  const made = `${target}.${process.pid}`;
  await build({
    entryPoints: PROGRAMS,
    absWorkingDir: root,
    outdir: made,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    external: FROM_PACKAGES,
    // Packages of the older kind ask for parts of Node while they run.
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);"
    },
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // The project's own configuration leans on one that is made later.
    tsconfigRaw: { compilerOptions: { target: 'es2022', verbatimModuleSyntax: true } },
    logLevel: 'warning'
  });
  writeFileSync(join(made, 'made-from'), wanted);
  rmSync(target, { recursive: true, force: true });
  renameSync(made, target);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await buildPrograms();
