/**
 * A flag in memory that threads share, for work that is broken off. Threads look at it before each piece of work and are never
 * ended: a thread that ends with work in hand takes its memory with it.
 */

/** One 32-bit number: 1 when the work is to stop. */
export type StopFlag = Int32Array<SharedArrayBuffer>;

const flags = new WeakMap<AbortSignal, StopFlag>();

/** The flag that a signal raises. */
export function stopFlagOf(signal: AbortSignal): StopFlag {
  const known = flags.get(signal);
  if (known) return known;
  const flag = new Int32Array(new SharedArrayBuffer(4));
  const raise = (): void => void Atomics.store(flag, 0, 1);
  if (signal.aborted) raise();
  else signal.addEventListener('abort', raise, { once: true });
  flags.set(signal, flag);
  return flag;
}

export const isStopped = (flag: StopFlag | null): boolean => flag !== null && Atomics.load(flag, 0) === 1;
