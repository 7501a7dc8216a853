/** Limits how often a password may be tried within a minute: by one address, and by all together. */
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';

const SECONDS = 60;

export interface Attempts {
  /** Counts one more try; false when there were too many of late. */
  allow(address: string): Promise<boolean>;
  /** Forgets the tries of an address that got it right. */
  forget(address: string): Promise<void>;
}

export function countAttempts(): Attempts {
  const ofOne = new RateLimiterMemory({ points: 5, duration: SECONDS });
  const ofAll = new RateLimiterMemory({ points: 40, duration: SECONDS });
  return {
    async allow(address) {
      try {
        // An address that has had its own does not use up what is left for the others.
        await ofOne.consume(address);
        await ofAll.consume('all');
        return true;
      } catch (refused) {
        if (refused instanceof RateLimiterRes) return false;
        throw refused;
      }
    },
    async forget(address) {
      await ofOne.delete(address);
    }
  };
}
