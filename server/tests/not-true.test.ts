import { describe, expect, it } from 'vitest';
import type { LineReadings } from '../set/line-readings.ts';
import { notTrue } from '../set/not-true.ts';

const read = (lean: number | null, bow: number | null, error?: number): LineReadings => {
  const found = error === undefined ? {} : { found: { error } };
  return {
    plumb: lean === null ? null : { rms: lean, worst: lean, worstId: 'a', count: 3, ...found },
    straight: bow === null ? null : { rms: bow, curves: [], ...found }
  };
};

describe('what is named before a delivery', () => {
  it('leans by over half a degree, or bows by over a pixel', () => {
    expect(notTrue(read(0.49, 0.99), {})).toEqual([]);
    expect(notTrue(read(0.51, null), {})).toEqual(['leans by 0.5°']);
    expect(notTrue(read(null, 1.01), {})).toEqual(['bows by 1.0 px']);
    expect(notTrue(read(2, 3), {})).toEqual(['leans by 2.0°', 'bows by 3.0 px']);
    expect(notTrue(read(null, null), {})).toEqual([]);
  });
  it('is not what may be no more than the error of what was found', () => {
    expect(notTrue(read(0.7, 1.2, 0.3), {})).toEqual([]);
    expect(notTrue(read(0.9, 1.4, 0.3), {})).toEqual(['leans by 0.9°', 'bows by 1.4 px']);
  });
  it('does not lean on purpose; but nobody bows on purpose', () => {
    expect(notTrue(read(4, 3), { lines: { holdBackPitch: 40 } })).toEqual(['bows by 3.0 px']);
    expect(notTrue(read(4, null), { lines: { holdBackRoll: 10 } })).toEqual([]);
  });
});
