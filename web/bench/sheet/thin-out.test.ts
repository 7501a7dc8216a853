import { describe, expect, it } from 'vitest';
import { thinnedOut } from './thin-out.ts';

describe('a line drawn by hand', () => {
  it('keeps what no line through the kept places misses by more than is allowed', () => {
    const wave = Array.from({ length: 400 }, (_, i): [number, number] => [i / 400, 0.1 * Math.sin(i / 30)]);
    const kept = thinnedOut(wave, 0.002);
    expect(kept.length).toBeLessThan(60);
    expect([kept[0], kept.at(-1)]).toEqual([wave[0], wave.at(-1)]);
    for (const [x, y] of wave) {
      const i = kept.findIndex(([at]) => at >= x);
      const [[ax, ay], [bx, by]] = [kept[Math.max(0, i - 1)], kept[Math.max(i, 1)]];
      const share = bx === ax ? 0 : (x - ax) / (bx - ax);
      expect(Math.abs(ay + (by - ay) * share - y)).toBeLessThan(0.003);
    }
  });

  it('keeps corners, a way there and back, and what stands with each place', () => {
    const there = [
      [0, 0, 1],
      [0.5, 0, 0.5],
      [1, 0, 1],
      [0.5, 0, 1],
      [0, 0, 1]
    ];
    expect(thinnedOut(there, 0.01)).toEqual([
      [0, 0, 1],
      [1, 0, 1],
      [0, 0, 1]
    ]);
    expect(thinnedOut([[0, 0]], 1)).toEqual([[0, 0]]);
  });
});
