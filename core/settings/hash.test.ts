import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hashOf } from './hash.ts';

describe('a name for plain data', () => {
  it('is the same for the same values, in whichever order keys stand, and another for others', () => {
    expect(hashOf({ a: 1, b: [1, { c: 2 }] })).toBe(hashOf({ b: [1, { c: 2 }], a: 1 }));
    expect(hashOf({ a: undefined, b: 1 })).toBe(hashOf({ b: 1 }));
    const others = [
      { a: 1 },
      { a: '1' },
      { a: [1] },
      { a: [[1]] },
      { a: { 0: 1 } },
      [{ a: 1 }],
      { a: null },
      {},
      []
    ];
    expect(new Set(others.map(hashOf)).size).toBe(others.length);
    // Lists of lists and lists of objects are read in different ways: neither may be taken for the other.
    expect(hashOf([[1, 2], [3]])).not.toBe(hashOf([[1], [2, 3]]));
    expect(hashOf(new Float32Array([1, 2]))).not.toBe(hashOf(new Float32Array([1, 3])));
    expect(hashOf(new Uint8Array([1, 2]))).not.toBe(hashOf(new Float32Array([1, 2])));
  });

  it('tells any two values apart that JSON tells apart', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (one, other) => {
        const sorted = (value: unknown): string =>
          JSON.stringify(value, (_, each: unknown) =>
            typeof each === 'object' && each !== null && !Array.isArray(each)
              ? Object.fromEntries(Object.entries(each).sort(([a], [b]) => (a < b ? -1 : 1)))
              : each
          );
        return (hashOf(one) === hashOf(other)) === (sorted(one) === sorted(other));
      })
    );
  });

  it('reads a long stroke once, however often what stands beside it changes', () => {
    let reads = 0;
    const points = Array.from({ length: 1000 }, (_, i) => [i, i]);
    const stroke = new Proxy(
      { points },
      {
        get(target, name) {
          if (name === 'points') reads++;
          return target[name as 'points'];
        }
      }
    );
    const names = Array.from({ length: 50 }, (_, size) => hashOf({ strokes: [stroke], size }));
    expect(new Set(names).size).toBe(50);
    expect(reads).toBeLessThanOrEqual(1);
  });
});
