import { describe, expect, it } from 'vitest';
import { coveredStops } from './covered-stops.ts';

describe('stops of what a mask covers', () => {
  it('are shares by quarters of a stop, weighted by the mask, with all beyond at the ends', () => {
    const stops = Float32Array.of(-20, -3.9, -3.9, 9);
    const mask = { width: 4, height: 2, values: Uint8Array.of(255, 255, 51, 51, 255, 51, 255, 255) };
    const counts = coveredStops({ width: 2, height: 2, stops }, mask);
    // Cells of the light lie over the second and fourth of each row: 255 and 51, then 51 and 255.
    expect(counts).toHaveLength(64);
    expect(counts[0]).toBeCloseTo(255 / 612, 9);
    expect(counts[(12 - 4) * 4]).toBeCloseTo((51 + 51) / 612, 9);
    expect(counts[63]).toBeCloseTo(255 / 612, 9);
    expect(coveredStops({ width: 2, height: 2, stops }, { ...mask, values: new Uint8Array(8) })).toEqual(
      new Array(64).fill(0)
    );
  });
});
