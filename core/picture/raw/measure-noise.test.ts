/** The noise of sensor values against what was put into them. */
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../math/random.ts';
import { measureNoise } from './measure-noise.ts';
import type { Mosaic } from './mosaic.ts';

const [WIDTH, HEIGHT] = [900, 600];

/** A mosaic of light by place (0..1, as sites have it) with noise. */
function mosaicOf(
  lightAt: (x: number, y: number) => number,
  { gain, read }: { gain: number; read: number },
  seed = 3
): Mosaic {
  const random = seededRandom(seed);
  const data = Uint16Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const light = lightAt(i % WIDTH, Math.floor(i / WIDTH));
    const value = light + gaussian(random) * Math.sqrt(gain * light + read ** 2);
    return Math.max(0, Math.min(16383, Math.round(512 + 15871 * value)));
  });
  return {
    ...{ data, stride: WIDTH, left: 0, top: 0, width: WIDTH, height: HEIGHT },
    ...{ pattern: [0, 1, 1, 2], black: 512, white: 16383, multipliers: [2, 1, 1.5], turns: 0 }
  };
}

/** Fields of different light, each slowly changing, with upright joints between them. */
const fields = (x: number, y: number): number =>
  0.004 + 0.8 * (Math.floor(x / 75) / 12) ** 2 + (0.02 * y) / HEIGHT;
/** The same under a texture of one site, which no plain block is left in but in one field of light. */
const rough = (x: number, y: number): number =>
  fields(x, y) * (x > 500 ? 1 + 0.3 * Math.sin(x * 2.1 + y * 1.3) : 1);

describe('noise', () => {
  // A low ISO, a high one, and a sensor whose reading adds much.
  it.each([
    [1.7e-5, 1e-4],
    [1.1e-3, 1.5e-3],
    [4e-5, 4e-3]
  ])('of photons %f and of reading %f is measured', (gain, read) => {
    for (const light of [fields, rough]) {
      const found = measureNoise(mosaicOf(light, { gain, read }))!;
      for (const level of [0.02, 0.2, 0.7]) {
        const [own, true_] = [found, { gain, read }].map((of) => of.gain * level + of.read ** 2);
        expect(Math.sqrt(own / true_)).toBeGreaterThan(0.85);
        expect(Math.sqrt(own / true_)).toBeLessThan(1.15);
      }
    }
  });

  it('is told from colours that differ from site to site', () => {
    const coloured = (x: number, y: number): number =>
      fields(x, y) *
      [
        [0.4, 1],
        [1, 0.2]
      ][y & 1][x & 1];
    const { gain } = measureNoise(mosaicOf(coloured, { gain: 2e-4, read: 1e-4 }))!;
    expect(gain / 2e-4).toBeGreaterThan(0.8);
    expect(gain / 2e-4).toBeLessThan(1.25);
  });

  it('is not told where there is nothing to tell it by', () => {
    expect(measureNoise(mosaicOf(() => 1, { gain: 1e-5, read: 0 }))).toBeNull();
    expect(measureNoise({ ...mosaicOf(fields, { gain: 1e-5, read: 0 }), width: 20, height: 20 })).toBeNull();
  });
});
