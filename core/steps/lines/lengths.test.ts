import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { lensModel } from '../../optics/lens-model.ts';
import { type Projection, uprightToField } from '../../picture/geometry/projection.ts';
import { orderCorners, rectangleReading } from './known-rectangle.ts';
import { nearerKind, rollForEdge } from './level-by-edge.ts';
import { type Measure, lengthsCsv, measureLengths } from './measure-lengths.ts';
import { rotationFromAngles } from '../../math/rotation.ts';

const ANGLES = { roll: 1.2, pitch: 9, yaw: -14 };
const projection: Projection = {
  size: { width: 6000, height: 4000 },
  focal: 1.1,
  model: lensModel({ terms: [0, -0.05] }),
  rotation: rotationFromAngles(ANGLES)
};
/** Field position of a point of the true picture. */
const field = (x: number, y: number, p = projection): Point => uprightToField([x, y], p)!;

describe('lengths on a trued front', () => {
  it('follow from one known length, with an uncertainty that covers what the ends and the angles do', () => {
    const measures: Measure[] = [
      { id: 'door', a: field(0.1, 0.2), b: field(0.1, 0), known: 2.1 },
      { id: 'front', a: field(-0.3, 0.1), b: field(0.3, 0.1) },
      { id: 'slope', a: field(-0.3, -0.2), b: field(0, -0.3) }
    ];
    const [door, front, slope] = measureLengths(measures, projection)!;
    expect(door).toMatchObject({ length: 2.1, uncertainty: 0, known: true });
    expect(front.length).toBeCloseTo(6.3, 6);
    expect(slope.length).toBeCloseTo(Math.hypot(0.3, 0.1) * 10.5, 6);
    expect(front.uncertainty).toBeGreaterThan(0.005);
    expect(front.uncertainty).toBeLessThan(0.1);
    // Ten times the error of the ends: the uncertainty grows with it.
    const rough = measureLengths(measures, projection, { endError: 10 / 3600 })!;
    expect(rough[1].uncertainty).toBeGreaterThan(4 * front.uncertainty);
    const csv = lengthsCsv([door, front, slope], 'm').split('\r\n');
    expect(csv[0]).toBe('number,length,standard uncertainty,unit,how');
    expect(csv[1]).toBe('1,2.100,,m,given');
    expect(csv[2]).toMatch(/^2,6\.30\d*,0\.0\d+,m,measured$/);
  });

  it('the stated uncertainty agrees with the spread of repeated marking', () => {
    let state = 7;
    const uniform = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
    const gaussian = (): number => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const jitter = ([x, y]: Point): Point => [x + gaussian() / 3600, y + gaussian() / 3600];
    const lengths = Array.from({ length: 400 }, () => {
      const measures = [
        { id: 'a', a: jitter(field(0.1, 0.2)), b: jitter(field(0.1, 0)), known: 2.1 },
        { id: 'b', a: jitter(field(-0.3, 0.1)), b: jitter(field(0.3, 0.1)) }
      ];
      const still = { angles: { roll: 0, pitch: 0, yaw: 0 }, focal: 0 };
      return measureLengths(measures, projection, still)![1];
    });
    const mean = lengths.reduce((sum, { length }) => sum + length, 0) / lengths.length;
    const spread = Math.sqrt(
      lengths.reduce((sum, { length }) => sum + (length - mean) ** 2, 0) / lengths.length
    );
    expect(lengths[0].uncertainty / spread).toBeGreaterThan(0.85);
    expect(lengths[0].uncertainty / spread).toBeLessThan(1.15);
  });

  it('says nothing without a known length', () => {
    expect(measureLengths([{ id: 'a', a: [0, 0], b: [0.1, 0] }], projection)).toBeNull();
    expect(
      measureLengths(
        [
          { id: 'a', a: [0, 0], b: [0, 0], known: 1 },
          { id: 'b', a: [0, 0], b: [0.1, 0] }
        ],
        projection
      )
    ).toEqual([{ id: 'a', length: 1, uncertainty: 0, known: true }].slice(1));
  });
});

describe('a known rectangle', () => {
  const corners = orderCorners([field(0.2, 0.3), field(-0.1, 0.3), field(0.2, -0.1), field(-0.1, -0.1)]);
  it('is read in any order of its corners, and a height stretch shows in it', () => {
    const reading = rectangleReading({ corners, ratio: 0.75 }, projection)!;
    expect(reading.measured).toBeCloseTo(0.75, 6);
    expect(reading.error).toBeCloseTo(0, 4);
    const taller = rectangleReading({ corners, ratio: 0.75 }, { ...projection, stretch: 1.05 })!;
    expect(taller.error).toBeCloseTo((1 / 1.05 - 1) * 100, 4);
  });
});

describe('the level tool', () => {
  it('finds the roll that makes one edge true, whatever pitch and yaw', () => {
    const place = fc.double({ min: -0.3, max: 0.3, noNaN: true });
    fc.assert(
      fc.property(place, place, fc.double({ min: -6, max: 6, noNaN: true }), (x, y, roll) => {
        const held = { ...projection, rotation: rotationFromAngles({ ...ANGLES, roll }) };
        const found = rollForEdge(
          field(x, y, held),
          field(x, y + 0.2, held),
          'plumb',
          { ...ANGLES, roll: 0 },
          projection
        );
        expect(found).toBeCloseTo(roll, 4);
        const level = rollForEdge(
          field(x, y, held),
          field(x + 0.2, y, held),
          'level',
          { ...ANGLES, roll: 2 },
          projection
        );
        expect(level).toBeCloseTo(roll, 4);
      })
    );
    expect(nearerKind([0, 0], [0.1, 0.3])).toBe('plumb');
    expect(nearerKind([0, 0], [-0.3, 0.1])).toBe('level');
  });
});
