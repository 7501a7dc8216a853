import { describe, expect, it } from 'vitest';
import { plainDust } from './plain-dust.ts';

describe('the plain view', () => {
  const [width, height] = [80, 60];
  const at = (x: number, y: number): number => (y * width + x) * 4;
  /** A light that changes slowly, a faint speck, and nothing to the right of column 60. */
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < 60; x++) {
      const speck = Math.hypot(x - 30, y - 30) < 3 ? 5 : 0;
      pixels.fill(100 + x / 2 - speck, at(x, y), at(x, y) + 3);
      pixels[at(x, y) + 3] = 255;
    }
  const out = plainDust(pixels, width, height);

  it('makes a faint speck plain, and leaves slow light grey', () => {
    expect(out[at(30, 30)]).toBeLessThan(100);
    expect(Math.abs(out[at(15, 12)] - 128)).toBeLessThan(12);
    expect([out[at(30, 30) + 1], out[at(30, 30) + 2]]).toEqual([out[at(30, 30)], out[at(30, 30)]]);
  });

  it('knows no difference where the picture ends', () => {
    expect(Math.abs(out[at(59, 30)] - 128)).toBeLessThan(60);
    expect(out[at(70, 30) + 3]).toBe(0);
  });
});
