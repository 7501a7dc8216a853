/** Even greys with the noise of high sensitivities, developed: their means are what they were. */
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../math/random.ts';
import { allocatePlanes } from '../tile/planes.ts';
import { developBand } from './develop.ts';
import { measureNoise } from './measure-noise.ts';
import type { Mosaic } from './mosaic.ts';

const SIZE = 640;
const EDGE = 8;
const [BLACK, WHITE] = [512, 16000];
const PATTERN = [0, 1, 1, 2] as const;

type Three = readonly [number, number, number];

/** A grey of a light, as a sensor with photon noise and reading noise of an ISO has it. */
function grey(light: (y: number) => number, multipliers: Three, iso: number): Mosaic {
  const [gain, read] = [2.5e-7 * iso, 6.5e-7 * iso];
  const random = seededRandom(3);
  const data = Uint16Array.from({ length: SIZE * SIZE }, (_, i) => {
    const y = Math.floor(i / SIZE);
    const value = light(y) / multipliers[PATTERN[((y & 1) << 1) | (i & 1)]];
    const noisy = value + gaussian(random) * Math.sqrt(gain * value + read * read);
    return Math.max(0, Math.round(BLACK + (WHITE - BLACK) * noisy));
  });
  return {
    ...{ data, stride: SIZE, left: 0, top: 0, width: SIZE, height: SIZE, turns: 0 },
    ...{ pattern: PATTERN, black: BLACK, white: WHITE, multipliers: [...multipliers], noise: { gain, read } }
  };
}

/** Means of red, green and blue of rows [from, to), in lights of those rows. */
function shares(mosaic: Mosaic, light: number, from = EDGE, to = SIZE - EDGE): number[] {
  const planes = allocatePlanes(SIZE, SIZE);
  developBand(mosaic, planes, 0, SIZE);
  return [planes.r, planes.g, planes.b].map((plane) => {
    let sum = 0;
    for (let y = from; y < to; y++)
      for (let x = EDGE; x < SIZE - EDGE; x++) sum += plane[y * SIZE + x] / light;
    return sum / ((to - from) * (SIZE - 2 * EDGE));
  });
}

const furthest = (values: number[]): number => Math.max(...values.map((value) => Math.abs(value - 1)));

describe('a developed grey', () => {
  it.each<[Three, number]>([
    [[1, 1, 1], 3200],
    [[2, 1, 1.5], 3200],
    [[2.5, 1, 1.36], 6400],
    [[1.4, 1, 2.6], 6400],
    [[1, 1.3, 2], 1600],
    [[3, 1.1, 1], 6400]
  ])('has no cast where it is nearly black, balanced by %j at ISO %i', (multipliers, iso) => {
    const told = (light: number): number =>
      furthest(
        shares(
          grey(() => light, multipliers, iso),
          light
        )
      );
    expect(told(0.03)).toBeLessThan(0.005);
    expect(told(0.01)).toBeLessThan(0.015);
    const dark = shares(
      grey(() => 0.004, multipliers, iso),
      0.004
    );
    expect(furthest(dark)).toBeLessThan(0.07);
    // Green, whose noise is not multiplied, is surer.
    expect(furthest([dark[1]])).toBeLessThan(0.008);
  });

  it('had one without its noise being known', () => {
    const mosaic = grey(() => 0.01, [2.5, 1, 1.36], 6400);
    expect(furthest(shares({ ...mosaic, noise: null }, 0.01))).toBeGreaterThan(0.1);
  });

  it('has none by the noise that is measured in a picture of many lights', () => {
    const band = 80;
    const lights = [0.004, 0.01, 0.03, 0.06, 0.12, 0.25, 0.4, 0.6];
    const mosaic = grey((y) => lights[Math.floor(y / band)], [2.5, 1, 1.36], 3200);
    mosaic.noise = measureNoise(mosaic);
    expect(mosaic.noise).not.toBeNull();
    lights.forEach((light, i) => {
      const found = shares(mosaic, light, i * band + EDGE, (i + 1) * band - EDGE);
      expect(furthest(found)).toBeLessThan(i === 0 ? 0.06 : 0.02);
    });
  });

  it('is the same at a low sensitivity as if nothing were known', () => {
    const mosaic = grey(() => 0.02, [2, 1, 1.5], 50);
    const [told, untold] = [shares(mosaic, 0.02), shares({ ...mosaic, noise: null }, 0.02)];
    told.forEach((share, c) => expect(Math.abs(share - untold[c])).toBeLessThan(0.001));
  });
});
