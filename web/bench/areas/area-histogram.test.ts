import { describe, expect, it } from 'vitest';
import { areaHistogram } from './area-histogram.ts';

describe('the histogram of an area', () => {
  it('counts what is covered, by how much of it is, in the place of its own light and colours', () => {
    const picture = new Uint8ClampedArray([
      200, 100, 50, 255, 10, 20, 30, 255, 255, 255, 255, 255, 90, 90, 90, 0
    ]);
    const mask = new Uint8ClampedArray([255, 255, 255, 255, 51, 51, 51, 255, 0, 0, 0, 255, 255, 255, 255, 0]);
    const { cover, luminance, counts } = areaHistogram(picture, mask);
    expect(cover).toBeCloseTo(1.2 / 3, 9);
    const held = (of: number[]): Record<number, number> =>
      Object.fromEntries([...of.entries()].filter(([, count]) => count > 0));
    // 0.2126729 · 200 + 0.7151522 · 100 + 0.072175 · 50 = 117.7; of the second 18.6.
    expect(held(luminance)).toEqual({ 118: 1, 19: 0.2 });
    expect(counts.map(held)).toEqual([
      { 200: 1, 10: 0.2 },
      { 100: 1, 20: 0.2 },
      { 50: 1, 30: 0.2 }
    ]);
  });
});
