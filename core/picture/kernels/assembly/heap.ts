/**
 * The allocator of the memory that all threads share: blocks one after another, each with a head of 64 bytes that holds its
 * size (with the head) and whether it is taken. A lock in memory keeps threads out of each other's way; the walk over the
 * blocks, which are few and large, merges free neighbours.
 */

/** Fixed places below the static data (`--memoryBase`): nothing that instances share may be initialised by each. */
const LOCK: usize = 64;
const END: usize = 68;
const TAKEN_BYTES: usize = 72;
const HEAD: usize = 64;
const GRAIN: usize = 64;
/** Grows by this many pages at least, so that growing is rare. */
const LEAST_PAGES: usize = 256;

function lock(): void {
  while (atomic.cmpxchg<u32>(LOCK, 0, 1) != 0) {}
}

function unlock(): void {
  atomic.store<u32>(LOCK, 0);
}

function base(): usize {
  return (__heap_base + GRAIN - 1) & ~(GRAIN - 1);
}

/** A block of bytes, or 0 where the memory may not grow any further. */
export function allocate(bytes: usize): usize {
  const size = (bytes + HEAD + GRAIN - 1) & ~(GRAIN - 1);
  lock();
  let end = <usize>load<u32>(END);
  if (end == 0) end = base();
  let at = base();
  while (at < end) {
    let here = <usize>load<u32>(at);
    if (load<u32>(at, 4) == 0) {
      let next = at + here;
      while (next < end && load<u32>(next, 4) == 0) {
        here += <usize>load<u32>(next);
        next = at + here;
      }
      store<u32>(at, <u32>here);
      if (here >= size) {
        if (here - size > HEAD) {
          store<u32>(at + size, <u32>(here - size));
          store<u32>(at + size, 0, 4);
          store<u32>(at, <u32>size);
        }
        break;
      }
      if (next >= end) {
        // The last piece is free and too small: it is taken with what is added behind it.
        end = at;
        break;
      }
    }
    at += here;
  }
  if (at >= end) {
    at = end;
    // Never past 4 GB, where addresses would begin again.
    if (<u64>at + <u64>size > 0xffff_0000) {
      store<u32>(END, <u32>end);
      unlock();
      return 0;
    }
    const needed = <isize>(((at + size + 0xffff) >>> 16) - <usize>memory.size());
    if (needed > 0) {
      if (memory.grow(<i32>max(<usize>needed, LEAST_PAGES)) < 0 && memory.grow(<i32>needed) < 0) {
        store<u32>(END, <u32>end);
        unlock();
        return 0;
      }
    }
    store<u32>(at, <u32>size);
    end = at + size;
  }
  store<u32>(END, <u32>end);
  store<u32>(at, 1, 4);
  store<u32>(TAKEN_BYTES, load<u32>(TAKEN_BYTES) + load<u32>(at));
  unlock();
  return at + HEAD;
}

/** Gives a block back. */
export function release(block: usize): void {
  const at = block - HEAD;
  lock();
  if (load<u32>(at, 4) == 1) {
    store<u32>(TAKEN_BYTES, load<u32>(TAKEN_BYTES) - load<u32>(at));
    store<u32>(at, 0, 4);
  }
  unlock();
}

/** Bytes of all blocks that are taken. */
export function takenBytes(): u32 {
  return load<u32>(TAKEN_BYTES);
}
