import { setTimeout as pause } from 'node:timers/promises';
import { describe, expect, it } from 'vitest';
import { keepInHand } from '../deliveries/in-hand.ts';

describe('pieces of work in hand', () => {
  it('tell of a failure that comes while the next one is being begun, once the others have ended', async () => {
    const ended: string[] = [];
    const made = [
      pause(5).then(() => Promise.reject(new Error('the first failed'))),
      pause(60).then(() => void ended.push('second'))
    ];
    const begin = async (): Promise<{ made: Promise<void> } | null> => {
      // The second takes its time to begin, and the first fails meanwhile.
      if (made.length === 1) await pause(30);
      const next = made.shift();
      return next ? { made: next } : null;
    };
    await expect(keepInHand(begin, 3).then(({ rest }) => rest)).rejects.toThrow('the first failed');
    expect(ended).toEqual(['second']);
  });

  it('are never more than was allowed', async () => {
    let [inHand, most, left] = [0, 0, 7];
    const work = async (): Promise<void> => {
      most = Math.max(most, ++inHand);
      await pause(5);
      inHand--;
    };
    const { rest } = await keepInHand(async () => (left-- > 0 ? { made: work() } : null), 2);
    await rest;
    expect([most, inHand, left]).toEqual([2, 0, -1]);
  });
});
