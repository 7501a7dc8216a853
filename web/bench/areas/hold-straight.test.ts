import { describe, expect, it } from 'vitest';
import { heldRound, heldSquare, heldStraight } from './hold-straight.ts';

describe('a drag that is held', () => {
  it('goes straight up or across, whichever is nearer', () => {
    expect(heldStraight([10, 20], [40, 25])).toEqual([40, 20]);
    expect(heldStraight([10, 20], [-4, 60])).toEqual([10, 60]);
  });
  it('goes square to a line, as far as the pointer lies from it', () => {
    const [x, y] = heldSquare(
      [10, 10],
      [13, 30],
      [
        [0, 0],
        [100, 100]
      ]
    );
    expect(x + y).toBeCloseTo(20, 9);
    expect(Math.hypot(x - 10, y - 10)).toBeCloseTo(17 / Math.SQRT2, 9);
    expect(y).toBeGreaterThan(10);
  });
  it('is round by the farther way', () => {
    expect(heldRound([5, 5], [8, -7])).toEqual([17, 17]);
  });
});
