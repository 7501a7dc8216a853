/** Ownership of memory by work that takes its time: whatever way the work ends, what it owns is given back. */
import { giveBack } from './heap.ts';

export interface Scope {
  /** Gives arrays back when the scope ends. Returns what it was given. */
  own<V extends ArrayBufferView>(array: V): V;
  /** The same for all arrays among the values of an object: planes, tiles. */
  ownAll<V extends object>(holder: V): V;
  /** To be called when the scope ends; the last one first. */
  atEnd(end: () => void): void;
}

/** What work makes of memory that was taken for it; where it fails, that memory is given back. */
export async function filled<V extends object>(taken: V, fill: (taken: V) => Promise<unknown>): Promise<V> {
  try {
    await fill(taken);
    return taken;
  } catch (error) {
    const arrays = ArrayBuffer.isView(taken) ? [taken] : Object.values(taken).filter(ArrayBuffer.isView);
    giveBack(...arrays);
    throw error;
  }
}

export async function inScope<T>(work: (scope: Scope) => Promise<T>): Promise<T> {
  const ends: (() => void)[] = [];
  const own = <V extends ArrayBufferView>(array: V): V => {
    ends.push(() => giveBack(array));
    return array;
  };
  try {
    return await work({
      own,
      ownAll(holder) {
        for (const value of Object.values(holder)) if (ArrayBuffer.isView(value)) own(value);
        return holder;
      },
      atEnd: (end) => void ends.push(end)
    });
  } finally {
    for (const end of ends.reverse()) end();
  }
}
