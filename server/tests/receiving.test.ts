import { describe, expect, it } from 'vitest';
import { beginReceiving, isReceiving } from '../frames/receiving.ts';

describe('files that come in', () => {
  it('go first for a while, and not for ever', () => {
    expect(isReceiving(1000)).toBe(false);
    const first = beginReceiving(true, 1000);
    expect(isReceiving(1500)).toBe(true);
    const second = beginReceiving(true, 2000);
    first(3000);
    expect(isReceiving(3900)).toBe(true);
    second(4000);
    // The next one may be on its way.
    expect(isReceiving(4300)).toBe(true);
    expect(isReceiving(4500)).toBe(false);
    // One after another for long: others have their turn.
    for (let at = 10_000; at < 40_000; at += 1000) {
      const end = beginReceiving(true, at);
      expect(isReceiving(at + 500)).toBe(at + 500 < 30_000);
      end(at + 900);
    }
    // After a pause a new card goes first again.
    beginReceiving(true, 60_000)(60_500);
    expect(isReceiving(60_600)).toBe(true);
  });

  it('are not waited for after the last one', () => {
    const first = beginReceiving(true, 100_000);
    const last = beginReceiving(false, 100_100);
    last(100_500);
    expect(isReceiving(100_600)).toBe(true);
    first(100_700);
    expect(isReceiving(100_701)).toBe(false);
    // One alone.
    const alone = beginReceiving(false, 110_000);
    expect(isReceiving(110_100)).toBe(true);
    alone(110_200);
    expect(isReceiving(110_201)).toBe(false);
  });
});
