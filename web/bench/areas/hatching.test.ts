import { describe, expect, it } from 'vitest';
import { hatching } from './hatching.ts';

const grey = (weight: (x: number, y: number) => number, width: number, height: number): Uint8ClampedArray =>
  Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) => {
    const at = i >> 2;
    return (i & 3) === 3 ? 255 : 255 * weight(at % width, Math.floor(at / width));
  });

describe('hatching', () => {
  it('lies where the mask is, dark and light side by side, and lets most of the picture through', () => {
    const [width, height] = [180, 90];
    const out = hatching(
      grey((x) => (x < 90 ? 0 : 1), width, height),
      width,
      height
    );
    const counts = { none: 0, dark: 0, light: 0 };
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = (y * width + x) * 4;
        if (x < 90) expect(out[at + 3]).toBe(0);
        else if (out[at + 3] === 0) counts.none++;
        else if (out[at] < 60) counts.dark++;
        else if (out[at] > 200) counts.light++;
      }
    const all = (width / 2) * height;
    expect(counts.none / all).toBeGreaterThan(0.55);
    expect(counts.dark / all).toBeGreaterThan(0.1);
    expect(counts.light / all).toBeGreaterThan(0.1);
  });

  it('is fainter where the mask fades', () => {
    const sum = (weight: number): number =>
      hatching(
        grey(() => weight, 90, 90),
        90,
        90
      ).reduce((all, value, i) => all + ((i & 3) === 3 ? value : 0), 0);
    expect(sum(0.5)).toBeLessThan(sum(1) * 0.85);
    expect(sum(0.1)).toBeLessThan(sum(0.5) * 0.85);
    expect(sum(0.01)).toBe(0);
  });
});
