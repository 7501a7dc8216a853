import { describe, expect, it } from 'vitest';
import { beginReceiving, isReceiving } from '../frames/receiving.ts';

describe('files that come in', () => {
  it('go first for a while, and not for ever', () => {
    expect(isReceiving(1000)).toBe(false);
    const first = beginReceiving(1000);
    expect(isReceiving(1500)).toBe(true);
    const second = beginReceiving(2000);
    first(3000);
    expect(isReceiving(3900)).toBe(true);
    second(4000);
    // The next one may be on its way.
    expect(isReceiving(4300)).toBe(true);
    expect(isReceiving(4500)).toBe(false);
    // One after another for long: others have their turn.
    for (let at = 10_000; at < 40_000; at += 1000) {
      const end = beginReceiving(at);
      expect(isReceiving(at + 500)).toBe(at + 500 < 30_000);
      end(at + 900);
    }
    // After a pause a new card goes first again.
    beginReceiving(60_000)(60_500);
    expect(isReceiving(60_600)).toBe(true);
  });
});
