import { differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../math/random.ts';
import { pictureDifference } from './picture-difference.ts';

const [width, height] = [40, 30];
function noise(seed: number): Uint8ClampedArray {
  const random = seededRandom(seed);
  return Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) =>
    i % 4 === 3 ? 255 : Math.floor(256 * random())
  );
}

describe('what changed from one picture to another', () => {
  it.each([
    ['srgb', 'rgb'],
    ['display-p3', 'p3']
  ] as const)('is what others reckon pixel by pixel, in %s', (space, mode) => {
    const [one, other] = [noise(1), noise(2)];
    const found = pictureDifference({ width, height, pixels: one }, { width, height, pixels: other }, space);
    const theirs = differenceCiede2000();
    const colour = (of: Uint8ClampedArray, at: number) => ({
      mode,
      r: of[at] / 255,
      g: of[at + 1] / 255,
      b: of[at + 2] / 255
    });
    let [sum, most] = [0, 0];
    found.values.forEach((value, i) => {
      const wanted = theirs(colour(one, 4 * i), colour(other, 4 * i));
      expect(Math.abs(value - wanted)).toBeLessThan(0.02);
      sum += wanted;
      most = Math.max(most, wanted);
    });
    expect(found.mean).toBeCloseTo(sum / (width * height), 2);
    expect(found.most).toBeCloseTo(most, 1);
    expect(found.values.filter((value) => value <= found.mostly).length / (width * height)).toBeCloseTo(
      0.95,
      2
    );
  });

  it('tells what has no picture apart, and means of blocks of light', () => {
    const [one, other] = [noise(1), noise(1)];
    other[4 * 5 + 3] = 0;
    const found = pictureDifference({ width, height, pixels: one }, { width, height, pixels: other }, 'srgb');
    expect(found.values[5]).toBeNaN();
    expect(found.most).toBe(0);
    // A checker of black and white is as light as the grey of half of the light.
    const checker = new Uint8ClampedArray(4 * width * height).map((_, i) => {
      const at = Math.floor(i / 4);
      return i % 4 === 3 || (at + Math.floor(at / width)) % 2 ? 255 : 0;
    });
    const grey = new Uint8ClampedArray(4 * width * height).map((_, i) => (i % 4 === 3 ? 255 : 188));
    const size = { width, height };
    expect(
      pictureDifference({ ...size, pixels: checker }, { ...size, pixels: grey }, 'srgb', 2).most
    ).toBeLessThan(0.3);
    expect(
      pictureDifference({ ...size, pixels: checker }, { ...size, pixels: grey }, 'srgb').mean
    ).toBeGreaterThan(20);
  });
});
