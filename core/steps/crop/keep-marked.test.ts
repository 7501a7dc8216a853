import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../math/random.ts';
import type { Point } from '../../math/frame-geometry.ts';
import { isInside } from './fit-crop.ts';
import { type MarkedPiece, keepingCrop, keptShare } from './keep-marked.ts';
import { largestCrop } from './largest-rectangle.ts';

const random = seededRandom(811);
const between = (low: number, high: number): number => low + (high - low) * random();

/** A keystone, wide at the top, as a frame becomes that looked up. */
function keystone(): Point[] {
  const [top, bottom] = [between(1.2, 3), between(0.5, 1)];
  const [high, low] = [between(-2.5, -1), between(0.6, 1.2)];
  const corners: Point[] = [
    [-top, high],
    [top, high],
    [bottom, low],
    [-bottom, low]
  ];
  return corners.flatMap((a, i) => {
    const b = corners[(i + 1) % 4];
    return Array.from({ length: 24 }, (_, k): Point => [
      a[0] + ((b[0] - a[0]) * k) / 24,
      a[1] + ((b[1] - a[1]) * k) / 24
    ]);
  });
}

/** A building at its lower end. */
function building(): MarkedPiece[] {
  const [x, y] = [between(-0.4, 0.4), between(0, 0.5)];
  return Array.from({ length: 60 }, () => ({
    at: [x + between(-0.4, 0.4), y + between(-0.7, 0.4)] as Point,
    length: between(0.01, 0.05)
  }));
}

describe('the crop that keeps what is marked', () => {
  it('loses no more than a fifth where a crop of four fifths of the area loses less, and holds real pixels alone', () => {
    let asked = 0;
    for (let n = 0; n < 60; n++) {
      const outline = keystone();
      const pieces = building();
      const ratio = [1.5, 0.8, 1, 16 / 9][n % 4];
      const largest = largestCrop(outline, ratio)!;
      const crop = keepingCrop(largest, outline, pieces);
      expect(isInside(crop, outline)).toBe(true);
      expect(crop.width / crop.height).toBeCloseTo(ratio, 9);
      expect(crop.width).toBeLessThanOrEqual(largest.width * 1.0001);
      // By trying everywhere.
      const side = Math.sqrt(0.8) * 1.002;
      let most = 0;
      for (let i = 0; i <= 30; i++) {
        for (let j = 0; j <= 30; j++) {
          const other = {
            x: -1.5 + i / 10,
            y: -2.5 + (j * 3.7) / 30,
            width: largest.width * side,
            height: largest.height * side
          };
          if (isInside(other, outline)) most = Math.max(most, keptShare(other, pieces));
        }
      }
      if (most < 0.83) continue;
      asked++;
      expect(keptShare(crop, pieces)).toBeGreaterThanOrEqual(0.8);
      expect((crop.width / largest.width) ** 2).toBeGreaterThanOrEqual(0.798);
    }
    expect(asked).toBeGreaterThan(15);
  });

  it('is the largest where that keeps everything, or nothing is marked', () => {
    const outline = keystone();
    const largest = largestCrop(outline, 1.5)!;
    expect(keepingCrop(largest, outline, [])).toBe(largest);
    const inside = [{ at: [largest.x, largest.y] as Point, length: 1 }];
    expect(keepingCrop(largest, outline, inside)).toBe(largest);
  });

  it('counts length by the pixels that it was made of', () => {
    const crop = { x: 0, y: 0, width: 1, height: 1 };
    const pieces = [
      { at: [0, 0] as Point, length: 3 },
      { at: [2, 0] as Point, length: 1 }
    ];
    expect(keptShare(crop, pieces)).toBe(0.75);
    expect(keptShare(crop, [])).toBe(1);
  });
});
