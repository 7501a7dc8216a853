/** Arrays in the memory that the kernels work on, and their addresses. What is taken there is given back by hand. */
import { kernelMemory, kernels } from './kernels.ts';

/** Memory was refused. Nothing is lost: it was for a picture that can be made again. */
export class OutOfMemory extends Error {
  constructor() {
    super('There is not enough memory for this picture. Close other frames or programs, and try again.');
  }
}

/** The memory, as far as it has grown by now; another thread may have made it grow. */
function bufferTo(end: number): ArrayBuffer {
  const memory = kernelMemory();
  if (memory.buffer.byteLength < end) memory.grow(0);
  // TypeScript keeps the two kinds of buffer apart; arrays do not.
  return memory.buffer;
}

let inUse = 0;

/** Arrays that this thread took and has not given back, without tables that are kept. */
export const arraysInUse = (): number => inUse;

function take(bytes: number): [ArrayBuffer, number] {
  const block = kernels().allocate(bytes) >>> 0;
  if (block === 0) throw new OutOfMemory();
  inUse++;
  return [bufferTo(block + bytes), block];
}

/** Bytes of all arrays in the memory, whichever thread took them. */
export const takenBytes = (): number => kernels().takenBytes() >>> 0;

/** Arrays with whatever was last in their memory: they are to be written in full. */
export const takeFloat32 = (length: number): Float32Array<ArrayBuffer> =>
  new Float32Array(...take(length * 4), length);
export const takeFloat64 = (length: number): Float64Array<ArrayBuffer> =>
  new Float64Array(...take(length * 8), length);
export const takeUint8 = (length: number): Uint8Array<ArrayBuffer> => new Uint8Array(...take(length), length);
export const takeUint16 = (length: number): Uint16Array<ArrayBuffer> =>
  new Uint16Array(...take(length * 2), length);
export const takeUint32 = (length: number): Uint32Array<ArrayBuffer> =>
  new Uint32Array(...take(length * 4), length);

/** Whether an array stands in memory that threads share. Where pages may not share any, its kind has no name. */
export const isShared = ({ buffer }: ArrayBufferView): boolean => !(buffer instanceof ArrayBuffer);

/** Address of an array that was taken here, or by another thread on the same memory. */
export function addressOf(array: ArrayBufferView): number {
  if (!isShared(array)) throw new Error('This array does not stand in the memory of the kernels.');
  return array.byteOffset;
}

/** Gives arrays back that nobody reads or writes any more; those of other memory are left to the collector. */
export function giveBack(...arrays: readonly ArrayBufferView[]): void {
  const blocks = arrays.filter(isShared).map(({ byteOffset }) => byteOffset);
  for (const block of new Set(blocks)) {
    kernels().release(block);
    inUse--;
  }
}

/** What work takes and returns; where it fails, all that it took until then is given back. */
export function takenTogether<T>(work: (own: <V extends ArrayBufferView>(array: V) => V) => T): T {
  const taken: ArrayBufferView[] = [];
  try {
    return work((array) => {
      taken.push(array);
      return array;
    });
  } catch (error) {
    giveBack(...taken);
    throw error;
  }
}

/** Takes arrays over that another thread took and handed to this one: they are no longer lost with it. */
export function adopt(...arrays: readonly ArrayBufferView[]): void {
  for (const block of new Set(arrays.filter(isShared).map(({ byteOffset }) => byteOffset))) {
    kernels().adopt(block);
    inUse++;
  }
}

const kept = new WeakMap<object, { memory: WebAssembly.Memory; at: number }>();

/** Address of a copy of a table, made once and kept for good. */
export function keptTable(table: Float32Array): number {
  const memory = kernelMemory();
  const known = kept.get(table);
  if (known?.memory === memory) return known.at;
  const copy = takeFloat32(table.length);
  copy.set(table);
  inUse--;
  kept.set(table, { memory, at: copy.byteOffset });
  return copy.byteOffset;
}
