import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply } from '../math/matrix3.ts';
import { RGB_SPACES, SPACES, betweenSpaces, encodeValue, rgbToXyz } from './rgb-spaces.ts';

const MODES = { srgb: 'rgb', 'display-p3': 'p3', oprgb: 'a98', rec2020: 'rec2020' } as const;

describe('output spaces', () => {
  it('agree with an independent colour library for any colour that they hold', () => {
    const value = fc.double({ min: 0, max: 1, noNaN: true });
    for (const space of SPACES) {
      const to = converter(MODES[space]);
      const matrix = betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]);
      fc.assert(
        fc.property(value, value, value, (r, g, b) => {
          const linear = apply(matrix, [r, g, b]);
          const wanted = to({ mode: 'lrgb', r, g, b });
          [wanted.r, wanted.g, wanted.b].forEach((channel, i) => {
            // The library's own matrices are rounded to some six places.
            if (linear[i] > 1e-4)
              expect(encodeValue(RGB_SPACES[space].transfer, linear[i])).toBeCloseTo(channel, 3);
          });
        }),
        { numRuns: 200 }
      );
    }
  });

  it('have white at Y = 1 and keep it white between one another', () => {
    for (const space of SPACES) {
      const m = rgbToXyz(RGB_SPACES[space]);
      expect(m[3] + m[4] + m[5]).toBeCloseTo(1, 12);
      for (const channel of apply(betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]), [1, 1, 1]))
        expect(channel).toBeCloseTo(1, 12);
      expect(encodeValue(RGB_SPACES[space].transfer, 0)).toBeCloseTo(0, 12);
      expect(encodeValue(RGB_SPACES[space].transfer, 1)).toBeCloseTo(1, 12);
    }
  });
});
