import { describe, expect, it } from 'vitest';
import { createFingers } from './two-fingers.ts';

describe('two fingers', () => {
  it('zoom about their middle and move it', () => {
    const fingers = createFingers();
    expect(fingers.down(1, [100, 100])).toBe(false);
    expect(fingers.move(1, [110, 100])).toBeNull();
    expect(fingers.down(2, [210, 100])).toBe(true);
    expect(fingers.move(2, [310, 140])).toEqual({
      from: [160, 100],
      to: [210, 120],
      factor: expect.closeTo(Math.hypot(200, 40) / 100, 9) as number
    });
  });

  it('draw nothing more until both are lifted; a third one holds the picture', () => {
    const fingers = createFingers();
    fingers.down(1, [0, 0]);
    fingers.down(2, [10, 0]);
    expect(fingers.down(3, [20, 0])).toBe(false);
    expect(fingers.move(3, [30, 0])).toBeNull();
    fingers.up(3);
    expect(fingers.move(1, [0, 10])).not.toBeNull();
    fingers.up(2);
    expect(fingers.gesture).toBe(true);
    expect(fingers.move(1, [0, 20])).toBeNull();
    fingers.up(1);
    expect(fingers.gesture).toBe(false);
    expect(fingers.move(9, [0, 20])).toBeNull();
  });

  it('on one place do not divide by nothing', () => {
    const fingers = createFingers();
    fingers.down(1, [5, 5]);
    fingers.down(2, [5, 5]);
    expect(fingers.move(2, [5, 6])!.factor).toBe(1);
  });
});
