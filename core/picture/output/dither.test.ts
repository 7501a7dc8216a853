/** What 8 bits make of light that is smoother than their steps. */
import { describe, expect, it } from 'vitest';
import { allocatePlanes, givePlanesBack } from '../tile/planes.ts';
import { packRgb } from './pack-pixels.ts';

const [WIDTH, HEIGHT] = [1201, 64];

/** Codes of values, given to a picture in bands. */
function packed(of: (x: number, y: number, c: number) => number, band = HEIGHT): Uint8Array {
  const out = new Uint8Array(WIDTH * HEIGHT * 3);
  for (let from = 0; from < HEIGHT; from += band) {
    const height = Math.min(band, HEIGHT - from);
    const planes = allocatePlanes(WIDTH, height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < WIDTH; x++)
        for (const [c, plane] of [planes.r, planes.g, planes.b].entries())
          plane[y * WIDTH + x] = of(x, from + y, c);
    const valid = allocatePlanes(WIDTH, height).r;
    const bytes = new Uint8Array(valid.buffer, valid.byteOffset, WIDTH * height).fill(1);
    const target = out.subarray(from * WIDTH * 3, (from + height) * WIDTH * 3);
    packRgb(target, WIDTH, from)({ ...planes, valid: bytes, width: WIDTH, height, top: 0, left: 0 });
    givePlanesBack(planes);
  }
  return out;
}

const sky = (x: number, y: number, c: number): number =>
  0.4 + 0.1 * c + (0.04 * x) / WIDTH + (0.01 * y) / HEIGHT;

describe('an even sky in 8 bits', () => {
  const out = packed(sky);
  const code = (x: number, y: number, c: number): number => out[(y * WIDTH + x) * 3 + c];

  it('has no steps that could be seen: short runs, each code by its share, and a mean that is right', () => {
    for (const c of [0, 1, 2]) {
      let [longest, run] = [0, 1];
      for (let x = 1; x < WIDTH; x++) {
        run = code(x, 20, c) === code(x - 1, 20, c) ? run + 1 : 1;
        longest = Math.max(longest, run);
      }
      // Ten codes over the width: without a dither each would be a run of 120.
      expect(longest).toBeLessThan(40);
      for (let left = 0; left + 60 < WIDTH; left += 60) {
        let [sum, wanted] = [0, 0];
        for (let y = 0; y < HEIGHT; y++)
          for (let x = left; x < left + 60; x++) {
            sum += code(x, y, c);
            wanted += sky(x, y, c) * 255;
            expect(Math.abs(code(x, y, c) - sky(x, y, c) * 255)).toBeLessThan(1.5);
          }
        expect(Math.abs(sum - wanted) / (60 * HEIGHT)).toBeLessThan(0.06);
      }
    }
  });

  it('has a dither of its own in each colour and row', () => {
    const noise = (y: number, c: number): number[] =>
      Array.from({ length: WIDTH }, (_, x) => code(x, y, c) - sky(x, y, c) * 255);
    const alike = (a: number[], b: number[]): number => {
      const sum = (v: number[], w: number[]): number => v.reduce((total, each, i) => total + each * w[i], 0);
      return Math.abs(sum(a, b)) / Math.sqrt(sum(a, a) * sum(b, b));
    };
    expect(alike(noise(3, 0), noise(3, 1))).toBeLessThan(0.12);
    expect(alike(noise(3, 1), noise(3, 2))).toBeLessThan(0.12);
    expect(alike(noise(3, 1), noise(4, 1))).toBeLessThan(0.12);
    expect(alike(noise(3, 1).slice(1), noise(3, 1).slice(0, -1))).toBeLessThan(0.12);
  });

  it('is the same again, in whatever bands it is made', () => {
    expect(packed(sky, 7)).toEqual(out);
    expect(packed(sky, 64)).toEqual(out);
  });
});

describe('what is no gradient', () => {
  it('is left as it is: even parts of whole codes, black, white, and what changes by more than a code', () => {
    const flats = packed((x) => [0, 37, 128, 254, 255][Math.floor((x * 5) / WIDTH)] / 255);
    for (let x = 0; x < WIDTH; x++)
      expect(flats[(5 * WIDTH + x) * 3]).toBe([0, 37, 128, 254, 255][Math.floor((x * 5) / WIDTH)]);
    const rough = (x: number): number => 0.3 + 0.1 * ((x * 7) % 3) + 0.0021;
    const leaves = packed(rough);
    for (let x = 0; x < WIDTH - 1; x++)
      expect(leaves[(5 * WIDTH + x) * 3 + 1]).toBe(Math.round(Math.fround(rough(x)) * 255));
  });
});
