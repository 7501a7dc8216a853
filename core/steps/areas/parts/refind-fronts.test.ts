import { describe, expect, it } from 'vitest';
import { NO_DISTORTION } from '../../../optics/lens-model.ts';
import { rotationFromAngles } from '../../../math/rotation.ts';
import { fieldToUpright, uprightToField } from '../../../picture/geometry/projection.ts';
import type { Mark } from '../../lines/mark.ts';
import type { Part } from './part.ts';
import { hasFronts, refindFronts } from './refind-fronts.ts';

const projection = {
  size: { width: 6000, height: 4000 },
  focal: 1.2,
  model: NO_DISTORTION,
  rotation: rotationFromAngles({ roll: 1, pitch: 8, yaw: 0 }),
  stretch: 1
};
const mark = (kind: 'plumb' | 'level', a: [number, number], b: [number, number]): Mark => ({
  id: `${kind} ${a.join()}`,
  kind,
  a: uprightToField(a, projection)!,
  b: uprightToField(b, projection)!
});
const MARKS = [
  mark('plumb', [-0.2, -0.3], [-0.2, 0.1]),
  mark('plumb', [0.5, -0.3], [0.5, 0.1]),
  mark('level', [-0.2, -0.3], [0.5, -0.3])
];
const outline = (more: object): Part =>
  ({
    id: 'p',
    kind: 'polygon',
    meets: 'add',
    feather: 3,
    points: [
      [0, 0],
      [0.1, 0],
      [0.1, 0.1]
    ],
    ...more
  }) as Part;

describe('fronts of another frame', () => {
  it('lie where its own lines have them; what was drawn by hand stays', () => {
    const shapes = [{ parts: [outline({ front: true }), outline({})] }, { parts: [] }];
    expect(hasFronts(shapes)).toBe(true);
    const [{ parts }, empty] = refindFronts(shapes, MARKS, projection);
    const [front, drawn] = parts as (Part & { points: [number, number][]; feather: number })[];
    const upright = front.points.map((place) => fieldToUpright(place, projection)!);
    expect(Math.min(...upright.map(([x]) => x))).toBeCloseTo(-0.2, 3);
    expect(Math.max(...upright.map(([x]) => x))).toBeCloseTo(0.5, 3);
    expect(Math.min(...upright.map(([, y]) => y))).toBeCloseTo(-0.3, 3);
    expect(Math.max(...upright.map(([, y]) => y))).toBeCloseTo(0.1, 3);
    expect(front.feather).toBe(3);
    expect(drawn).toEqual(outline({}));
    expect(empty).toEqual({ parts: [] });
  });

  it('stay where lines tell of none', () => {
    const shapes = [{ parts: [outline({ front: true })] }];
    expect(refindFronts(shapes, MARKS.slice(0, 2), projection)).toEqual(shapes);
    expect(hasFronts([{ parts: [outline({ front: false })] }])).toBe(false);
  });
});
