import { describe, expect, it } from 'vitest';
import { strokeOutline } from './stroke-outline.ts';

/** Points of a ring. */
const placesOf = (ring: readonly number[]): [number, number][] =>
  Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]]);

describe('the outline of a stroke', () => {
  it('lies as far from the line as the stroke is wide, about its ends too', () => {
    const [ring, ...more] = strokeOutline([100, 50, 200, 50], 12);
    expect(more).toHaveLength(0);
    for (const [x, y] of placesOf(ring)) {
      const along = Math.min(200, Math.max(100, x));
      expect(Math.abs(Math.hypot(x - along, y - 50) - 12)).toBeLessThan(1);
    }
    expect(Math.min(...placesOf(ring).map(([x]) => x))).toBeLessThan(89.5);
  });

  it('is one about turns that meet, with a ring for what they leave out', () => {
    const square = [100, 100, 200, 100, 200, 200, 100, 200, 100, 100];
    expect(strokeOutline(square, 10)).toHaveLength(2);
    expect(strokeOutline(square, 60)).toHaveLength(1);
  });
});
