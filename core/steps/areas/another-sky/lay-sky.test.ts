import { describe, expect, it } from 'vitest';
import { laySky, skyAt } from './lay-sky.ts';
import type { SkySettings } from './sky-settings.ts';

const SIZE = { width: 200, height: 100 };
/** A sky whose red tells how far to the right a place is, and whose green how far down: in pixels. */
const ramp = () => {
  const count = SIZE.width * SIZE.height;
  return {
    ...SIZE,
    r: Float32Array.from({ length: count }, (_, i) => (i % SIZE.width) + 0.5),
    g: Float32Array.from({ length: count }, (_, i) => Math.floor(i / SIZE.width) + 0.5),
    b: new Float32Array(count)
  };
};
const HALF = { x: 0.8, y: 0.6 };
const PLAIN: SkySettings = {
  picture: 'ramp',
  across: 0,
  up: 0,
  turn: 0,
  scale: 100,
  mirrored: false,
  match: 0
};
const seen = (settings: Partial<SkySettings>, x: number, y: number): [right: number, down: number] => {
  const out = new Float64Array(3);
  skyAt(laySky({ levels: [ramp()], mean: [1, 1, 1] }, { ...PLAIN, ...settings }, HALF, 0.001), x, y, out);
  return [out[0], out[1]];
};
/** Upright units to one pixel of a sky as wide as the frame. */
const PIXEL = 1.6 / 200;

const isAt = ([right, down]: [number, number], x: number, y: number): void => {
  expect(right).toBeCloseTo(x, 3);
  expect(down).toBeCloseTo(y, 3);
};

describe('a sky lies', () => {
  it('with its foot on the horizon of the corrected picture, and as wide as the frame', () => {
    isAt(seen({}, 0, -50 * PIXEL), 100, 50);
    isAt(seen({}, 0.4, -20 * PIXEL), 150, 80);
  });

  it('to the right and up by shares of the frame', () => {
    // A fifth of the width to the right: what lies there was in the middle.
    isAt(seen({ across: 20 }, 0.2 * 1.6, -50 * PIXEL), 100, 50);
    isAt(seen({ up: 10 }, 0, -50 * PIXEL - 0.1 * 1.2), 100, 50);
  });

  it('larger about the middle of its foot', () => {
    isAt(seen({ scale: 200 }, 0.2, -60 * PIXEL), 100 + 0.1 / PIXEL, 70);
  });

  it('turned clockwise about the middle of its foot', () => {
    // What stood above the foot by 40 pixels lies to its right after a quarter turn.
    const [right, down] = seen({ turn: 30 }, 40 * PIXEL * 0.5, -40 * PIXEL * Math.cos(Math.PI / 6));
    isAt([right, down], 100, 60);
  });

  it('mirrored, and turned the same way still', () => {
    isAt(seen({ mirrored: true }, 0.4, -50 * PIXEL), 50, 50);
    isAt(seen({ mirrored: true, turn: 30 }, 40 * PIXEL * 0.5, -40 * PIXEL * Math.cos(Math.PI / 6)), 100, 60);
    isAt(seen({ mirrored: true, across: 20 }, 0.2 * 1.6, -50 * PIXEL), 100, 50);
  });

  it('on and on beyond its edges, without a step', () => {
    for (const [x, y] of [
      [0.9, -0.5],
      [-0.9, -0.5],
      [0, -1.1],
      [3.3, 0.4]
    ]) {
      const [right, down] = seen({}, x, y);
      const [nextRight, nextDown] = seen({}, x + 1e-4, y + 1e-4);
      expect(right).toBeGreaterThan(0);
      expect(right).toBeLessThan(200);
      expect(Math.abs(nextRight - right)).toBeLessThan(0.1);
      expect(Math.abs(nextDown - down)).toBeLessThan(0.1);
    }
  });

  it('at the size that an output needs', () => {
    const small = {
      width: 100,
      height: 50,
      r: new Float32Array(5000),
      g: new Float32Array(5000),
      b: new Float32Array(5000)
    };
    const levels = [ramp(), small];
    const levelFor = (pixel: number): unknown =>
      laySky({ levels, mean: [1, 1, 1] }, PLAIN, HALF, pixel).planes;
    expect(levelFor(PIXEL)).toBe(levels[0]);
    expect(levelFor(2 * PIXEL)).toBe(levels[1]);
    expect(levelFor(50 * PIXEL)).toBe(levels[1]);
  });
});
