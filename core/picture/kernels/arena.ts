/** Memory for a piece of work, all of it given back when the work is done or fails. */
import { addressOf, giveBack, isShared, takeFloat32, takeFloat64, takeUint32, takeUint8 } from './heap.ts';

export interface Arena {
  float32(length: number): Float32Array;
  float64(length: number): Float64Array;
  uint32(length: number): Uint32Array;
  uint8(length: number): Uint8Array;
  /** Address of numbers in single precision, copied where they do not stand in memory yet. */
  addressOf(numbers: readonly number[] | Float32Array): number;
}

export function inArena<T>(work: (arena: Arena) => T): T {
  const taken: ArrayBufferView[] = [];
  const kept = <A extends ArrayBufferView>(array: A): A => {
    taken.push(array);
    return array;
  };
  const float32 = (length: number): Float32Array => kept(takeFloat32(length));
  try {
    return work({
      float32,
      float64: (length) => kept(takeFloat64(length)),
      uint32: (length) => kept(takeUint32(length)),
      uint8: (length) => kept(takeUint8(length)),
      addressOf(numbers) {
        if (numbers instanceof Float32Array && isShared(numbers)) return addressOf(numbers);
        const copy = float32(numbers.length);
        copy.set(numbers);
        return copy.byteOffset;
      }
    });
  } finally {
    giveBack(...taken);
  }
}
