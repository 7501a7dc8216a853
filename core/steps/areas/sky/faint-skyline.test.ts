/** Skies that were found down to somewhere, over hills that hardly differ from them. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../math/random.ts';
import { cutFaintSkyline } from './faint-skyline.ts';

const SIZE = { width: 200, height: 140 };
const FINE = { width: 400, height: 280 };
const NOISE = 0.02;

interface Scene {
  /** By how much a place differs from a sky that grows lighter and less blue towards the horizon: stops, and of blue. */
  differs(x: number, y: number): readonly [number, number];
}

/** What is left of a sky that was found down to row 110 of the coarse grid, as rows of each column of it. */
function leftOf({ differs }: Scene): number[] {
  const random = seededRandom(5);
  const grain = (): number => (random() + random() + random() - 1.5) * 2 * NOISE;
  const count = SIZE.width * SIZE.height;
  const [stops, hue] = [new Float32Array(count), new Float32Array(count)];
  for (let y = 0, i = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++, i++) {
      const [darker, greyer] = differs(x, y);
      stops[i] = -1.4 + 0.006 * y - darker + grain();
      hue[i] = 0.6 - 0.003 * y - greyer + grain();
    }
  const out = new Float32Array(FINE.width * FINE.height);
  out.fill(1, 0, FINE.width * 220);
  cutFaintSkyline(out, FINE, { ...SIZE, stops, hue });
  return Array.from({ length: SIZE.width }, (_, x) => {
    let rows = 0;
    for (let y = 0; y < FINE.height; y++) rows += out[y * FINE.width + 2 * x];
    return rows / 2;
  });
}
const hill = (x: number): number => 100 + 3 * Math.sin(x / 20);

describe('a skyline in haze', () => {
  it('is found along hills, within little more than a cell', () => {
    const left = leftOf({ differs: (x, y) => (y > hill(x) ? [0.07, 0.1] : [0, 0]) });
    left.slice(8, -8).forEach((rows, n) => expect(Math.abs(rows - hill(n + 8))).toBeLessThan(1.3));
  });

  it('is the first of several behind each other', () => {
    const left = leftOf({
      differs: (x, y) => (y > hill(x) + 7 ? [0.2, 0.2] : y > hill(x) ? [0.07, 0.1] : [0, 0])
    });
    left.slice(8, -8).forEach((rows, n) => expect(Math.abs(rows - hill(n + 8))).toBeLessThan(1.3));
  });

  it.each<[string, Scene['differs']]>([
    ['an even sky', () => [0, 0]],
    ['a dark cloud that is bluer than the haze', (x, y) => (y > hill(x) ? [0.08, -0.05] : [0, 0])],
    ['a cloud that is lighter and less blue', (x, y) => (y > hill(x) ? [-0.1, 0.12] : [0, 0])],
    ['something small', (x, y) => (y > hill(x) && x === 90 ? [0.6, 0.8] : [0, 0])],
    ['what lies far above the end of the sky', (x, y) => (y > 40 && y < 60 ? [0.07, 0.1] : [0, 0])],
    ['a change without a step', (_, y) => [0.004 * Math.max(0, y - 90), 0.006 * Math.max(0, y - 90)]]
  ])('is not seen in %s', (_, differs) => {
    expect(leftOf({ differs }).every((rows) => rows === 110)).toBe(true);
  });
});
