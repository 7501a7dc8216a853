import { describe, expect, it } from 'vitest';
import { LUMINANCE_REC2020 } from '../../../colour/primaries.ts';
import { bilinear } from '../../../picture/tile/bilinear.ts';
import { continueColours } from './inside-colours.ts';
import { matchingGains } from './match-sky.ts';

const size = { width: 37, height: 23 };
const COUNT = size.width * size.height;
const planes = () =>
  [0, 1, 2].map(() => new Float32Array(COUNT)) as [Float32Array, Float32Array, Float32Array];

describe('colours inside a mask', () => {
  it('stay where they are known, and go on beyond between the least and the most of them', () => {
    const colours = planes();
    const inside = new Float32Array(COUNT);
    for (let i = 0; i < COUNT; i++) {
      const [x, y] = [i % size.width, Math.floor(i / size.width)];
      inside[i] = y < 12 && !(x > 10 && x < 20) ? 1 : 0;
      // What is not inside is of another colour altogether.
      colours.forEach((plane, c) => (plane[i] = inside[i] ? 0.2 + 0.01 * y + 0.1 * c : 9));
    }
    const out = planes();
    const { mean } = continueColours(colours, inside, size, out);
    let [sum, count] = [0, 0];
    for (let i = 0; i < COUNT; i++) {
      if (inside[i]) {
        expect(out[1][i]).toBeCloseTo(colours[1][i], 5);
        sum += colours[1][i];
        count++;
      }
      expect(out[1][i]).toBeGreaterThanOrEqual(0.3 - 1e-5);
      expect(out[1][i]).toBeLessThanOrEqual(0.41 + 1e-5);
    }
    expect(mean![1]).toBeCloseTo(sum / count, 5);
    // In the gap between two sides it is what both are at that height.
    expect(out[0][4 * size.width + 15]).toBeCloseTo(0.24, 1);
  });

  it('are no number nowhere, though nothing is inside', () => {
    const out = planes();
    const { mean: none } = continueColours(planes(), new Float32Array(COUNT), size, out);
    expect(none).toBeNull();
    expect(out.every((plane) => plane.every((value) => value === 0))).toBe(true);
  });

  it('are read between cells, and at the edge beyond it', () => {
    const plane = Float32Array.of(1, 3, 5, 7);
    expect(bilinear(plane, 2, 2, 1, 1)).toBe(4);
    expect(bilinear(plane, 2, 2, 0.75, 1.5)).toBe(5.5);
    expect(bilinear(plane, 2, 2, -3, 9)).toBe(5);
    expect(bilinear(plane, 2, 2, 9, 9)).toBe(7);
    // One cell wide, and one high.
    expect(bilinear(plane, 1, 4, 5, 1)).toBe(2);
    expect(bilinear(plane, 4, 1, 3, -1)).toBe(6);
  });
});

describe('a sky that is matched', () => {
  const luminance = (of: readonly number[]): number =>
    LUMINANCE_REC2020.reduce((sum, weight, c) => sum + weight * of[c], 0);
  const OLD = [0.2, 0.3, 0.6] as const;
  const SKY = [0.5, 0.3, 0.2] as const;
  const after = (match: number): number[] => {
    const gains = matchingGains(OLD, SKY, match);
    return SKY.map((value, c) => value * gains[c]);
  };

  it('not at all stays as it is', () => {
    after(0).forEach((value, c) => expect(value).toBeCloseTo(SKY[c], 6));
  });

  it('is as light as the old one, and half the way in stops at a half', () => {
    expect(luminance(after(1))).toBeCloseTo(luminance(OLD), 6);
    expect(luminance(after(0.5))).toBeCloseTo(Math.sqrt(luminance(OLD) * luminance(SKY)), 6);
  });

  it('takes some of its colour, and never all', () => {
    const blue = ([r, , b]: readonly number[]): number => b / r;
    expect(blue(after(1))).toBeGreaterThan(1.2 * blue(SKY));
    expect(blue(after(1))).toBeLessThan(0.5 * blue(OLD));
  });

  it('to what is black has numbers', () => {
    expect(matchingGains([0, 0, 0], SKY, 1).every(Number.isFinite)).toBe(true);
    expect(matchingGains(OLD, [0, 0, 0], 1).every(Number.isFinite)).toBe(true);
  });
});
