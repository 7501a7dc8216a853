import { describe, expect, it } from 'vitest';
import { columnsWithin } from './columns-within.ts';

describe('columns of a view', () => {
  it('are counted by their middles, each by one of two tiles that meet', () => {
    // Against every middle looked at by itself.
    for (let trial = 0; trial < 300; trial++) {
      const [start, pixel, count] = [-1 + (trial % 7) * 0.13, 0.01 + (trial % 11) * 0.003, 1 + (trial % 40)];
      const [middle, size] = [-0.50137 + (trial % 13) * 0.09, (trial % 17) * 0.0512];
      const inside = Array.from({ length: count }, (_, i) => i).filter(
        (i) => Math.abs(start + (i + 0.5) * pixel - middle) < size / 2 - 1e-9
      );
      const [from, to] = columnsWithin(start, pixel, count, middle, size);
      expect(to - from).toBe(inside.length);
      if (inside.length > 0) expect(from).toBe(inside[0]);
    }
    const [whole] = [columnsWithin(0, 0.1, 20, 1, 1.1)];
    const [left, right] = [columnsWithin(0, 0.1, 10, 1, 1.1), columnsWithin(1, 0.1, 10, 1, 1.1)];
    expect(left[1] - left[0] + right[1] - right[0]).toBe(whole[1] - whole[0]);
  });
});
