import { describe, expect, it } from 'vitest';
import { clippedAt, clippingMarks } from './clipping-marks.ts';

/** Four pixels in a row: light in red alone, plain, fully dark, dark in blue alone; then none. */
const data = [255, 90, 80, 255, 128, 128, 128, 255, 0, 0, 0, 255, 60, 50, 0, 255, 0, 0, 0, 0];
const picture = { data, width: 5, height: 1 };

describe('clipping marks', () => {
  it('tell light from dark, by channel when asked, and leave alone what is no picture', () => {
    const all = (clipping: 'any' | 'red' | 'green' | 'blue'): number[] =>
      [0, 1, 2, 3, 4].map((x) => clippedAt(picture, x, 0, clipping));
    expect(all('any')).toEqual([1, 0, -1, 0, 0]);
    expect(all('red')).toEqual([1, 0, -1, 0, 0]);
    expect(all('green')).toEqual([0, 0, -1, 0, 0]);
    expect(all('blue')).toEqual([0, 0, -1, -1, 0]);
  });

  it('are dots on the light and lines on the dark, where the picture lies, at the size of the screen', () => {
    const size = { width: 140, height: 70 };
    const placed = { left: 35, top: 7, width: 100, height: 56 };
    const marks = clippingMarks(picture, placed, size, 'any');
    const shades = (left: number, right: number): Set<number> => {
      const found = new Set<number>();
      for (let y = 0; y < size.height; y++)
        for (let x = left; x < right; x++)
          if (marks[(y * size.width + x) * 4 + 3]) found.add(marks[(y * size.width + x) * 4]);
      return found;
    };
    expect([...shades(0, 35)]).toEqual([]);
    expect([...shades(35, 55)].sort()).toEqual([0, 255]);
    expect([...shades(55, 75)]).toEqual([]);
    expect([...shades(75, 95)]).toEqual([190]);
    expect([...shades(95, 140)]).toEqual([]);
    // Lines run from the lower left to the upper right.
    const on = (x: number, y: number): boolean => marks[(y * size.width + x) * 4 + 3] > 0;
    for (let x = 80; x < 88; x++)
      for (let y = 20; y < 28; y++) if (on(x, y)) expect(on(x + 1, y - 1)).toBe(true);
    const above = Array.from({ length: 7 }, (_, y) => on(40, y));
    expect(above).not.toContain(true);
  });
});
