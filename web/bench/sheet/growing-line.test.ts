import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { growingLine } from './growing-line.ts';
import { distanceFromStretch } from './thin-out.ts';

type Place = readonly [number, number];
const place = fc.tuple(
  fc.double({ min: -1, max: 1, noNaN: true }),
  fc.double({ min: -1, max: 1, noNaN: true })
);

describe('a line that grows', () => {
  it('keeps what it kept, ends where it was drawn to, and misses nothing by more than is allowed', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 40 }), (places) => {
        const line = growingLine<Place>(0.3);
        let before: Place[] = [];
        for (const each of places) {
          line.add(each);
          const now = line.points();
          expect(now.slice(0, Math.max(1, before.length - 1))).toEqual(
            before.slice(0, Math.max(1, before.length - 1)).concat(before.length === 0 ? [now[0]] : [])
          );
          expect(now.at(-1)).toEqual(each);
          before = now;
        }
        for (const each of places)
          expect(
            Math.min(...before.map((end, i) => distanceFromStretch(each, before[Math.max(0, i - 1)], end)))
          ).toBeLessThanOrEqual(0.3);
      })
    );
  });

  it('does with few points where it is straight', () => {
    const line = growingLine<Place>(0.001);
    for (let i = 0; i <= 200; i++) line.add([i / 200, i > 100 ? (i - 100) / 100 : 0]);
    expect(line.points().length).toBeLessThan(8);
  });
});
