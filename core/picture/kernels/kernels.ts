/**
 * The kernels: one WebAssembly module on memory that all threads of a process share, one instance a thread. Addresses are
 * bytes from the memory's beginning.
 */
import { type KernelFunctions, MODULE } from './module.ts';

/** What this machine lacks, in words for its user. */
export class KernelsUnavailable extends Error {}

/** Pages of 64 KB: what the module begins with, and the most that memory may grow to, largest first. */
const FIRST_PAGES = 16;
const MOST_PAGES = [65536, 32768, 16384, 8192];

/** Memory that threads can share; smaller where the machine does not give all. */
export function createMemory(most = MOST_PAGES): WebAssembly.Memory {
  for (const maximum of most) {
    try {
      return new WebAssembly.Memory({ initial: FIRST_PAGES, maximum, shared: true });
    } catch {
      // A smaller one may be had.
    }
  }
  throw new KernelsUnavailable(
    'There is no memory for pictures. Close other programs or tabs, then open this again; nothing is lost.'
  );
}

let compiled: WebAssembly.Module | null = null;

function compile(): WebAssembly.Module {
  if (typeof WebAssembly === 'undefined')
    throw new KernelsUnavailable(
      'WebAssembly is switched off here, and pictures cannot be drawn without it. Allow it, or use another browser.'
    );
  const binary = atob(MODULE);
  const bytes = Uint8Array.from({ length: binary.length }, (_, i) => binary.charCodeAt(i));
  // All that is asked for in one: instructions on vectors, and on shared memory.
  if (!WebAssembly.validate(bytes))
    throw new KernelsUnavailable(
      'This browser is too old to draw pictures: it lacks WebAssembly with SIMD and threads. Bring it up to date, or use another.'
    );
  return new WebAssembly.Module(bytes);
}

interface Instance {
  memory: WebAssembly.Memory;
  functions: KernelFunctions;
}

let instance: Instance | null = null;

function instantiate(memory: WebAssembly.Memory): Instance {
  compiled ??= compile();
  const abort = (): never => {
    throw new Error('A kernel broke off.');
  };
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory, abort } });
  return { memory, functions: exports as unknown as KernelFunctions };
}

/** Works on a memory that another thread made; views of an earlier one are of no use any more. */
export function useMemory(memory: WebAssembly.Memory): void {
  instance = instantiate(memory);
}

const current = (): Instance => (instance ??= instantiate(createMemory()));

/** The kernels of this thread. */
export const kernels = (): KernelFunctions => current().functions;

/** The memory that they work on, to be given to other threads. */
export const kernelMemory = (): WebAssembly.Memory => current().memory;

/** Does without the memory from now on: the next use makes a new one. */
export function dropMemory(): void {
  instance = null;
}
