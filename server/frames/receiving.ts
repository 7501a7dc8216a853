/**
 * Whether files are coming in. Preparing lets them go first for a while: a whole card is there, and seen, in a quarter of the
 * time, and no frame can be opened later for it.
 */

/** Milliseconds for which files that come in one after another go first, and between two of them. */
const LONGEST = 20_000;
const BETWEEN = 400;

let coming = 0;
let first = 0;
let expecting = false;
let last = -Infinity;

/**
 * To be called when a file begins to come in; what it returns, when it is there or was broken off. `more` says that whoever
 * sends it has others to follow: after the last one nothing is waited for.
 */
export function beginReceiving(more: boolean, now = performance.now()): (now?: number) => void {
  if (coming === 0 && now - last > BETWEEN) first = now;
  coming++;
  expecting = more;
  return (then = performance.now()) => {
    coming--;
    last = expecting ? then : -Infinity;
  };
}

export const isReceiving = (now = performance.now()): boolean =>
  (coming > 0 || now - last < BETWEEN) && now - first < LONGEST;
