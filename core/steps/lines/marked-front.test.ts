import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { rotationFromAngles } from '../../math/rotation.ts';
import { lensModel } from '../../optics/lens-model.ts';
import { type Projection, fieldToUpright, uprightToField } from '../../picture/geometry/projection.ts';
import type { Mark, MarkKind } from './mark.ts';
import { markedFront } from './marked-front.ts';

const projection: Projection = {
  size: { width: 600, height: 400 },
  focal: 1.1,
  model: lensModel({ projection: 'rectilinear', focal: 1.1, radial: [-0.06] } as never, 1, undefined),
  rotation: rotationFromAngles({ roll: 2, pitch: 8, yaw: -3 })
};
/** A mark between two upright places. */
const mark = (kind: MarkKind, a: Point, b: Point, more: Partial<Mark> = {}): Mark => ({
  id: `${kind}${a.join()}`,
  kind,
  a: uprightToField(a, projection)!,
  b: uprightToField(b, projection)!,
  ...more
});
const FRONT = [
  mark('plumb', [-0.3, -0.4], [-0.3, 0.1]),
  mark('plumb', [0.4, -0.4], [0.4, 0.1]),
  mark('level', [-0.3, -0.4], [0.4, -0.4]),
  mark('level', [-0.2, 0.05], [0.3, 0.05])
];

describe('the front that marks tell', () => {
  const sides = (marks: readonly Mark[]): number[] => {
    const upright = markedFront(marks, projection)!.map((place) => fieldToUpright(place, projection)!);
    const [xs, ys] = [0, 1].map((axis) => upright.map((place) => place[axis]));
    return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  };

  it('is upright and level in the corrected picture, whatever the lens bent and however the camera leaned', () => {
    sides(FRONT).forEach((side, i) => expect(side).toBeCloseTo([-0.3, -0.4, 0.4, 0.1][i], 3));
  });

  it('leaves out what is no mark of it: taken out, receding, clutter, a scrap far away', () => {
    const more = [
      mark('plumb', [-0.6, -0.4], [-0.6, 0.1], { out: true }),
      mark('level', [-0.7, -0.5], [0.4, -0.5], { recedes: 'left' }),
      mark('none', [0.6, -0.5], [0.6, 0.3]),
      mark('plumb', [0.55, -0.05], [0.55, -0.03])
    ];
    expect(sides([...FRONT, ...more])).toEqual(sides(FRONT));
  });

  it('is none without plumb or without level marks', () => {
    expect(markedFront([], projection)).toBeNull();
    for (const kind of ['plumb', 'level'])
      expect(
        markedFront(
          FRONT.filter((each) => each.kind === kind),
          projection
        )
      ).toBeNull();
  });
});
