import fc from 'fast-check';
import { takeUint8 } from '../kernels/heap.ts';
import { describe, expect, it } from 'vitest';
import {
  SHIPPED_DELIVERABLES,
  completeDeliverable,
  deliverableFault,
  type Deliverable
} from './deliverable-schema.ts';
import { TOKENS, type TokenValues, fileName, safeName, unknownTokens } from './file-name.ts';
import { fitBytes } from './fit-bytes.ts';
import { outputSize } from './output-size.ts';
import { sharpenOptions } from './sharpen-options.ts';
import { sharpen } from './sharpen-stage.ts';
import { takePlanes } from '../tile/planes.ts';
import { giveTileBack } from '../tile/tile.ts';

const deliverable = (settings: Partial<Deliverable>): Deliverable =>
  completeDeliverable({ name: 'test', ...settings });

describe('output sizes', () => {
  const full = { width: 5400, height: 4050 };
  it('follow edge, megapixels or exact size, and never enlarge unless asked', () => {
    expect(outputSize(full, deliverable({}))).toEqual(full);
    expect(outputSize(full, deliverable({ sizeKind: 'long', width: 2048 }))).toEqual({
      width: 2048,
      height: 1536
    });
    expect(outputSize(full, deliverable({ sizeKind: 'short', width: 1000 }))).toEqual({
      width: 1333,
      height: 1000
    });
    const exact = deliverable({ sizeKind: 'exact', width: 1080, height: 810 });
    expect(outputSize({ width: 5401, height: 4050 }, exact)).toEqual({ width: 1080, height: 810 });
    const { width, height } = outputSize(full, deliverable({ sizeKind: 'megapixels', megapixels: 3 }));
    expect((width * height) / 3e6).toBeCloseTo(1, 2);
    const large = deliverable({ sizeKind: 'long', width: 9000 });
    expect(outputSize(full, large)).toEqual(full);
    expect(outputSize(full, { ...large, enlarge: true })).toEqual({ width: 9000, height: 6750 });
    // A ratio that is not the crop's is fitted into.
    expect(outputSize(full, deliverable({ sizeKind: 'exact', width: 1000, height: 1000 }))).toEqual({
      width: 1000,
      height: 750
    });
  });
});

describe('deliverables', () => {
  it('that come along are sound; contradictions are named', () => {
    for (const shipped of SHIPPED_DELIVERABLES) expect(deliverableFault(shipped)).toBeNull();
    expect(deliverableFault(deliverable({ depth: 16 }))?.message).toMatch(/TIFF or PNG/);
    expect(deliverableFault(deliverable({ format: 'tiff', limit: 500 }))).toEqual({
      field: 'limit',
      message: expect.stringMatching(/no quality to lower/) as string
    });
    const watermark = { text: ' ', png: null, place: 'middle' as const, size: 20, opacity: 50 };
    expect(deliverableFault(deliverable({ watermark }))?.message).toMatch(/neither text nor picture/);
  });
});

describe('file names', () => {
  const values = Object.fromEntries(TOKENS.map((token) => [token, token.toUpperCase()])) as TokenValues;
  it('fill in tokens and are safe on every system, whatever comes in', () => {
    expect(fileName('{job} {number}_{ratio}', { ...values, ratio: '4x3' })).toBe('JOB-NUMBER_4x3');
    expect(unknownTokens('{job}-{place}-{}')).toEqual(['place', '']);
    for (const [text, safe] of [
      ['../../etc/passwd', 'etc passwd'],
      ['a\u0000b\u0007c', 'a b c'],
      ['con', 'con_'],
      ['name. ', 'name'],
      ['...', 'unnamed'],
      ['14 Cooper’s Rise: "front"?', '14 Cooper’s Rise front']
    ])
      expect(safeName(text)).toBe(safe);
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        const name = safeName(text);
        expect(name.length).toBeGreaterThan(0);
        expect(name.length).toBeLessThanOrEqual(181);
        expect(name).not.toMatch(/[\u0000-\u001f<>:"/\\|?*]/);
        expect(name).not.toMatch(/^\.|[. ]$/);
        expect(safeName(name)).toBe(name);
      }),
      { numRuns: 400 }
    );
  });
});

describe('fitting a file into a limit', () => {
  /** Sizes that grow as those of pictures do, by a law of their own for each. */
  const coder = (base: number, slope: number, bend: number) => (quality: number) =>
    Promise.resolve({
      length: Math.round(base * Math.exp(slope * (quality / 50 - 1) + bend * Math.exp((quality - 100) / 7)))
    });
  it('holds it in at most six tries', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.double({ min: 2e4, max: 4e6, noNaN: true }),
        fc.double({ min: 0.8, max: 1.8, noNaN: true }),
        fc.double({ min: 0.5, max: 1.6, noNaN: true }),
        fc.double({ min: 0.05, max: 4, noNaN: true }),
        async (base, slope, bend, share) => {
          const encode = coder(base, slope, bend);
          const limit = base * share;
          const result = await fitBytes(encode, limit, 95);
          expect(result.encodes).toBeLessThanOrEqual(6);
          if (!result.ok) {
            expect((await encode(1)).length).toBeGreaterThan(limit);
            expect(result.smallest).toBe((await encode(1)).length);
            return;
          }
          expect(result.encoded.length).toBeLessThanOrEqual(limit);
        }
      ),
      { numRuns: 300 }
    );
  });
  it('comes near it when the steps of quality allow', async () => {
    let [fitted, near] = [0, 0];
    // An even grid, not cases by chance: a share of chosen cases says nothing of all, and is another one each time.
    for (const slope of [0.8, 1.05, 1.3, 1.55, 1.8])
      for (const bend of [0.5, 0.78, 1.05, 1.33, 1.6])
        for (let share = 0.05; share < 4; share *= 1.07) {
          const encode = coder(4e5, slope, bend);
          const limit = 4e5 * share;
          const result = await fitBytes(encode, limit, 95);
          if (!result.ok || result.quality === 95) continue;
          fitted++;
          // Either near the limit, or the next quality would break it.
          const better = (await encode(result.quality + 1)).length;
          if (result.encoded.length >= 0.95 * limit || better > limit) near++;
        }
    expect(fitted).toBeGreaterThan(600);
    expect(near / fitted).toBeGreaterThan(0.9);
  });
});

describe('output sharpening', () => {
  it('steepens a step edge without a halo of over 2 %', () => {
    const [width, height] = [64, 48];
    const [dark, light] = [0.25, 0.75];
    const planes = { ...takePlanes(width, height), valid: takeUint8(width * height).fill(1) };
    for (const sharpening of ['screen', 'print'] as const) {
      // An edge as a lens draws it, over three pixels.
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const share = Math.max(0, Math.min(1, (x - 30 + 0.2 * y) / 3));
          for (const plane of [planes.r, planes.g, planes.b])
            plane[y * width + x] = dark + (light - dark) * share;
        }
      const steepest = (): number => {
        let most = 0;
        for (let x = 1; x < width; x++)
          most = Math.max(most, planes.r[20 * width + x] - planes.r[20 * width + x - 1]);
        return most;
      };
      const before = steepest();
      sharpen(planes, sharpenOptions(sharpening, 300)!);
      for (const plane of [planes.r, planes.g, planes.b]) {
        expect(Math.max(...plane)).toBeLessThanOrEqual(light + 0.02);
        expect(Math.min(...plane)).toBeGreaterThanOrEqual(dark - 0.02);
      }
      expect(steepest()).toBeGreaterThan(before * 1.06);
    }
    giveTileBack(planes);
    expect(sharpenOptions('none', 300)).toBeNull();
  });
});
