import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { countAttempts } from '../access/attempts.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const timesAllowed = async (tries: number, of: () => Promise<boolean>): Promise<number> => {
  let allowed = 0;
  for (let i = 0; i < tries; i++) if (await of()) allowed++;
  return allowed;
};

it('lets one address try five times a minute, anew when it was right, and again after a minute', async () => {
  const attempts = countAttempts();
  expect(await timesAllowed(8, () => attempts.allow('a'))).toBe(5);
  expect(await attempts.allow('b')).toBe(true);
  await attempts.forget('a');
  expect(await timesAllowed(8, () => attempts.allow('a'))).toBe(5);
  vi.advanceTimersByTime(61_000);
  expect(await attempts.allow('a')).toBe(true);
});

it('lets all together try forty times a minute', async () => {
  const attempts = countAttempts();
  // What is refused to one is not taken from the others.
  await timesAllowed(100, () => attempts.allow('one'));
  let other = 0;
  expect(await timesAllowed(60, () => attempts.allow(`other-${other++}`))).toBe(35);
});
