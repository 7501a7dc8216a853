import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { SRGB_TO_REC2020 } from '../../colour/primaries.ts';
import { IDENTITY, type Matrix3, apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { neutrality } from './neutrality.ts';

const linear = converter('lrgb');

/** Working colour of a CIELAB one (D65), by an independent library. */
function working(l: number, a: number, b: number): Vector3 {
  const { r, g, b: blue } = linear({ mode: 'lab65', l, a, b });
  return apply(SRGB_TO_REC2020, [r, g, blue]);
}

describe('how far picked places are from grey', () => {
  it('is their chroma in CIELAB, however light they are', () => {
    const chroma = Math.hypot(6, -8);
    const place = working(60, 6, -8);
    for (const light of [0.1, 1, 2.5]) {
      const found = neutrality([place.map((value) => value * light) as Vector3], IDENTITY)!;
      expect(found.rms).toBeCloseTo(chroma, 1);
      expect(found.places).toBe(1);
    }
  });

  it('is told of all places together, and of the worst', () => {
    const found = neutrality([working(60, 3, 0), working(60, 0, 4), working(60, 0, 0)], IDENTITY)!;
    expect(found.rms).toBeCloseTo(Math.sqrt(25 / 3), 1);
    expect(found.worst).toBeCloseTo(4, 1);
    expect(found.places).toBe(3);
  });

  it('is none where nothing is picked, and follows the balance', () => {
    expect(neutrality([], IDENTITY)).toBeNull();
    const cast = working(60, 20, 15);
    const balanced = cast.map((value) => 1 / value);
    const matrix: Matrix3 = [balanced[0], 0, 0, 0, balanced[1], 0, 0, 0, balanced[2]];
    expect(neutrality([cast], IDENTITY)!.rms).toBeGreaterThan(20);
    expect(neutrality([cast], matrix)!.rms).toBeLessThan(0.01);
  });
});
