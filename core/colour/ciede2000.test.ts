import { differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../math/random.ts';
import type { Vector3 } from '../math/vector3.ts';
import { ciede2000 } from './ciede2000.ts';

describe('the difference of two colours', () => {
  // Sharma, Wu & Dalal, Color Res. Appl. 30 (2005), table 1: where hues meet, and where there is none.
  it.each([
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
    [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
    [[50, -0.001, 2.49], [50, 0.0009, -2.49], 4.8045],
    [[50, -0.001, 2.49], [50, 0.0011, -2.49], 4.7461],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
    [[90.9257, -0.5406, -0.9208], [88.6381, -0.8985, -0.7239], 1.5381],
    [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082]
  ] as [Vector3, Vector3, number][])('of %j and %j is %f', (one, other, wanted) => {
    expect(ciede2000(one, other)).toBeCloseTo(wanted, 4);
    expect(ciede2000(other, one)).toBeCloseTo(wanted, 4);
  });

  it('is what others reckon, whatever the colours', () => {
    const theirs = differenceCiede2000();
    const random = seededRandom(3);
    const colour = (): Vector3 => [100 * random(), 160 * random() - 80, 160 * random() - 80];
    for (let i = 0; i < 3000; i++) {
      const one = colour();
      const other: Vector3 =
        i % 2 ? colour() : (one.map((value) => value + 4 * random() - 2) as unknown as Vector3);
      const lab = ([l, a, b]: Vector3) => ({ mode: 'lab65' as const, l, a, b });
      expect(ciede2000(one, other)).toBeCloseTo(theirs(lab(one), lab(other)), 6);
    }
  });
});
