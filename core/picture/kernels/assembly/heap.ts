/**
 * The allocator of the memory that all threads share: blocks one after another, each with a head of 64 bytes that holds its
 * size (with the head), whether it is taken, and by which thread. A lock in memory keeps threads out of each other's way; the walk over the
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

/** Who takes blocks in this instance: what is known of a thread when it dies. Not in memory, which all instances share. */
let owner: u32 = 1;

/** Names the thread of this instance; `name` is above 0 and of no other thread. */
export function setOwner(name: u32): void {
  owner = name;
}

/**
 * Turns of the loop, some seconds, after which the holder of the lock is taken for dead: what is done under it takes
 * microseconds, and leaves the blocks in order after each store.
 */
const PATIENCE: i32 = 1 << 27;

function lock(): void {
  let holder = atomic.cmpxchg<u32>(LOCK, 0, owner);
  let seen = holder;
  for (let turns = 0; holder != 0; turns++) {
    if (holder != seen) {
      seen = holder;
      turns = 0;
    }
    if (turns > PATIENCE && atomic.cmpxchg<u32>(LOCK, holder, owner) == holder) return;
    holder = atomic.cmpxchg<u32>(LOCK, 0, owner);
  }
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
          // The rest is a block before this one ends where it begins.
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
  store<u32>(at, owner, 8);
  store<u32>(at, 1, 4);
  store<u32>(END, <u32>end);
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

/** Makes a block this thread's own: another took it, and handed it over. */
export function adopt(block: usize): void {
  store<u32>(block - HEAD, owner, 8);
}

/** Gives all blocks of a thread back that is no more, and the lock if it held that. Returns how many there were. */
export function releaseOwned(name: u32): i32 {
  atomic.cmpxchg<u32>(LOCK, name, 0);
  lock();
  let count = 0;
  let taken: u32 = 0;
  const end = <usize>load<u32>(END);
  for (let at = base(); at < end; at += <usize>load<u32>(at)) {
    if (load<u32>(at, 4) == 0) continue;
    if (load<u32>(at, 8) == name) {
      store<u32>(at, 0, 4);
      count++;
    } else taken += load<u32>(at);
  }
  // A thread that ended between its stores may have left the sum behind.
  store<u32>(TAKEN_BYTES, taken);
  unlock();
  return count;
}

/** Bytes of all blocks that are taken. */
export function takenBytes(): u32 {
  return load<u32>(TAKEN_BYTES);
}
