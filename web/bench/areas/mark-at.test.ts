import { describe, expect, it } from 'vitest';
import type { Point } from '$core/math/frame-geometry.ts';
import type { Mark } from '$core/steps/lines/mark.ts';
import { markAt } from './mark-at.ts';

const marks: Mark[] = [
  { id: 'plumb', kind: 'plumb', a: [0.1, 0], b: [0.1, 0.4] },
  { id: 'level', kind: 'level', a: [0, 0.2], b: [0.5, 0.2] }
];
const bench = { recipe: { lines: { marks } } };
const sheet = { toPlace: ([x, y]: Point): Point => [x * 1000, y * 1000] };
const found = (x: number, y: number): string | undefined => markAt(bench, sheet, [x, y])?.id;

describe('a mark under a press', () => {
  it('is the nearest, as long as one is near', () => {
    expect(found(108, 40)).toBe('plumb');
    expect(found(107, 203)).toBe('level');
    expect(found(300, 190)).toBe('level');
    expect(found(300, 170)).toBeUndefined();
  });

  it('ends where it ends', () => {
    expect(found(505, 204)).toBe('level');
    expect(found(530, 200)).toBeUndefined();
  });
});
