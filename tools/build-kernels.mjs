/**
 * Compiles the kernels to one WebAssembly module and writes it as a TypeScript file, so that browser workers, server threads
 * and tests load it alike, without reading or fetching anything. Does nothing while it is up to date. Plain JavaScript: it
 * runs before anything of TypeScript can.
 */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const sources = join(root, 'core/picture/kernels/assembly');
const target = join(root, 'core/picture/kernels/module.ts');

const OPTIONS = [
  '--optimizeLevel 3 --shrinkLevel 0 --converge --noAssert --runtime stub',
  '--enable simd --enable threads --importMemory --sharedMemory',
  // The allocator's own numbers stand below; instances share them, and none may initialise them.
  '--initialMemory 16 --maximumMemory 65536 --memoryBase 1024',
  '--bindings raw'
]
  .join(' ')
  .split(' ');

/** A hash of all that the module is made from, this file with it. */
function fingerprint() {
  const hash = createHash('sha256').update(readFileSync(fileURLToPath(import.meta.url)));
  for (const name of readdirSync(sources).sort())
    if (name.endsWith('.ts')) hash.update(name).update(readFileSync(join(sources, name)));
  return hash.digest('hex');
}

/** The functions that the compiler's bindings declare, as one interface with what is said of each. */
function interfaceOf(bindings) {
  const [, inside] = /__AdaptedExports \{([\s\S]*?)\n\}/.exec(bindings);
  return inside
    .replace(/^.*export const memory.*$/m, '')
    .replace(/export function /g, '')
    .replace(/\bboolean\b/g, 'number')
    .replace(/\n {2}\/\*\*\n(?: {3}\*.*\n)+? {3}\*\//g, '');
}

export async function buildKernels() {
  const wanted = fingerprint();
  if (existsSync(target) && readFileSync(target, 'utf8').includes(wanted)) return;
  const { default: asc } = await import('assemblyscript/asc');
  const written = {};
  const { error, stderr } = await asc.main(['index.ts', '--outFile', 'kernels.wasm', ...OPTIONS], {
    readFile: (name, base) => {
      const path = join(base === '.' ? sources : join(sources, base), name);
      return existsSync(path) ? readFileSync(path, 'utf8') : null;
    },
    writeFile: (name, data) => void (written[name] = data),
    listFiles: () => []
  });
  if (error) throw new Error(`The kernels do not compile.\n${stderr.toString()}`);
  const text = `/** Made by tools/build-kernels.mjs from core/picture/kernels/assembly. ${wanted} */
export interface KernelFunctions {${interfaceOf(written['kernels.d.ts'])}
}

export const MODULE =
  '${Buffer.from(written['kernels.wasm']).toString('base64')}';
`;
  const temporary = `${target}.${process.pid}`;
  writeFileSync(temporary, text);
  renameSync(temporary, target);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await buildKernels();
