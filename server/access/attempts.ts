/** Limits how often a password may be tried: by one address, and by all together. */
const WINDOW = 60_000;
const OF_ONE = 5;
const OF_ALL = 40;

export interface Attempts {
  /** Counts one more try; false when there were too many of late. */
  allow(address: string, now?: number): boolean;
  /** Forgets the tries of an address that got it right. */
  forget(address: string): void;
}

export function countAttempts(): Attempts {
  let tries: { address: string; at: number }[] = [];
  return {
    allow(address, now = Date.now()) {
      tries = tries.filter(({ at }) => now - at < WINDOW);
      const own = tries.filter((attempt) => attempt.address === address).length;
      if (own >= OF_ONE || tries.length >= OF_ALL) return false;
      tries.push({ address, at: now });
      return true;
    },
    forget(address) {
      tries = tries.filter((attempt) => attempt.address !== address);
    }
  };
}
