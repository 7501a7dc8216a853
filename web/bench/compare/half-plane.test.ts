import { describe, expect, it } from 'vitest';
import type { Point } from '$core/math/frame-geometry.ts';
import { angleThrough, firstSide, placeOf, waysOf } from './half-plane.ts';

const size = { width: 400, height: 300 };
const area = (corners: readonly Point[]): number =>
  corners.reduce((sum, [x, y], i) => {
    const [u, v] = corners[(i + 1) % corners.length];
    return sum + (x * v - u * y) / 2;
  }, 0);

describe('the first side of a line', () => {
  it('lies left of an upright one, above one turned by a right angle', () => {
    expect(firstSide({ x: 0.25, y: 0.5, angle: 0 }, size)).toEqual([
      [0, 0],
      [100, 0],
      [100, 300],
      [0, 300]
    ]);
    const above = firstSide({ x: 0.25, y: 0.5, angle: 90 }, size);
    expect(area(above)).toBeCloseTo(400 * 150, 6);
    expect(Math.max(...above.map(([, y]) => y))).toBeCloseTo(150, 6);
  });

  it('is all that the other side of it is not, at any angle', () => {
    for (let angle = 0; angle < 360; angle += 17) {
      const line = { x: 0.3, y: 0.8, angle };
      const other = { ...line, angle: angle + 180 };
      expect(area(firstSide(line, size)) + area(firstSide(other, size))).toBeCloseTo(400 * 300, 4);
    }
    expect(firstSide({ x: -0.1, y: 0.5, angle: 0 }, size)).toEqual([]);
    expect(area(firstSide({ x: 1.1, y: 0.5, angle: 0 }, size))).toBe(400 * 300);
  });

  it('turns with a handle on the line', () => {
    for (const angle of [0, 30, 90, 200, 359]) {
      const line = { x: 0.5, y: 0.5, angle };
      const [x, y] = placeOf(line, size);
      const { along } = waysOf(line);
      expect(angleThrough([x, y], [x + 50 * along[0], y + 50 * along[1]])).toBeCloseTo(angle, 6);
    }
  });
});
