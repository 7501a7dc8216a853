/**
 * Memory that threads share, lent and given back. It is returned to the system only when the collectors of all threads
 * have run, and since it does not weigh on their small heaps, that may take minutes: over many pictures the process would
 * grow. What is not given back is collected as ever.
 */
import type { Planes } from '../../core/tile/planes.ts';

/** Lent sizes are multiples of this many bytes, so that pictures of nearly the same size can have the same memory. */
const STEP = 1 << 20;
/** A free piece is lent again when at most this much of it stays unused. */
const MOST_UNUSED = 0.3;
/** Most bytes kept for the next picture. */
const MOST_KEPT = 1e9;
/** Milliseconds without any lending after which nothing is kept. */
const IDLE = 20_000;

let kept: SharedArrayBuffer[] = [];
let idle: NodeJS.Timeout | undefined;

function lend(bytes: number): SharedArrayBuffer {
  idle?.refresh();
  const fitting = kept
    .filter(
      ({ byteLength }) => byteLength >= bytes && byteLength * (1 - MOST_UNUSED) <= Math.max(bytes, STEP)
    )
    .sort((a, b) => a.byteLength - b.byteLength)[0];
  if (!fitting) return new SharedArrayBuffer(Math.ceil(bytes / STEP) * STEP);
  kept.splice(kept.indexOf(fitting), 1);
  return fitting;
}

/** The memory of arrays that nobody reads or writes any more. */
export function giveBack(...arrays: readonly ArrayBufferView[]): void {
  for (const { buffer } of arrays) {
    const shared = buffer as unknown;
    if (shared instanceof SharedArrayBuffer && !kept.includes(shared)) kept.push(shared);
  }
  let total = kept.reduce((sum, { byteLength }) => sum + byteLength, 0);
  while (total > MOST_KEPT) total -= kept.shift()!.byteLength;
  idle ??= setTimeout(() => (kept = []), IDLE).unref();
  idle.refresh();
}

// TypeScript keeps the two kinds of buffer apart; the arrays do not.
const lentBuffer = (bytes: number): ArrayBuffer => lend(bytes) as unknown as ArrayBuffer;

/** Arrays with whatever was last in their memory: they are to be written in full. */
export const lentUint8 = (length: number): Uint8Array<ArrayBuffer> =>
  new Uint8Array(lentBuffer(length), 0, length);
export const lentUint16 = (length: number): Uint16Array<ArrayBuffer> =>
  new Uint16Array(lentBuffer(length * 2), 0, length);

export function lentPlanes(width: number, height: number): Planes {
  const plane = (): Float32Array => new Float32Array(lentBuffer(width * height * 4), 0, width * height);
  return { width, height, r: plane(), g: plane(), b: plane() };
}

export const giveBackPlanes = ({ r, g, b }: Planes): void => giveBack(r, g, b);
