import { describe, expect, it } from 'vitest';
import type { Part } from '$core/steps/areas/parts/part.ts';
import { anchorOf, handlesOf } from './part-handles.ts';

const radial: Part = {
  id: 'r',
  kind: 'radial',
  meets: 'add',
  centre: [0.1, -0.2],
  across: 0.4,
  down: 0.2,
  angle: 30,
  feather: 50,
  outside: false
};
const gradient: Part = {
  id: 'g',
  kind: 'gradient',
  meets: 'add',
  a: [0, 0],
  b: [0.4, 0.2],
  twoSided: false,
  softness: 100
};

const lasso: Part = {
  id: 'l',
  kind: 'lasso',
  meets: 'add',
  points: [
    [-0.2, 0],
    [0.2, 0.1],
    [0.1, -0.3]
  ],
  feather: 0
};
const brush: Part = {
  id: 'b',
  kind: 'brush',
  meets: 'add',
  strokes: [
    {
      id: 's',
      size: 0.05,
      softness: 50,
      flow: 100,
      erases: false,
      keepsEdges: false,
      points: [-0.2, 0, 0.5, 0.2, 0.1, 1]
    }
  ]
};

describe('handles of a part', () => {
  it('stay where they are when they are let go where they were taken', () => {
    for (const part of [radial, gradient, lasso, brush, { ...lasso, kind: 'polygon' } as Part])
      for (const handle of handlesOf(part, true)) {
        const after = { ...part, ...handle.moved(handle.at) } as Part;
        handlesOf(after, true).forEach(({ at }, i) => {
          expect(
            Math.hypot(at[0] - handlesOf(part, true)[i].at[0], at[1] - handlesOf(part, true)[i].at[1])
          ).toBeLessThan(1e-3);
        });
      }
  });

  it('turn and lengthen an ellipse, and move a gradient as a whole', () => {
    const [, length] = handlesOf(radial, true);
    expect(length.moved([0.1, 0.1])).toMatchObject({ angle: 90 });
    expect((length.moved([0.1, 0.1]) as { across: number }).across).toBeCloseTo(0.3, 9);
    const all = handlesOf(gradient, true)[2];
    expect(all.moved([0.3, 0.2])).toEqual({
      a: [expect.closeTo(0.1, 9), expect.closeTo(0.1, 9)],
      b: [expect.closeTo(0.5, 9), expect.closeTo(0.3, 9)]
    });
    // Nothing leaves what a recipe takes.
    expect(all.moved([9, 9])).toEqual({ a: [1.5, 1.5], b: [1.5, 1.5] });
  });

  it('move, turn and scale what was drawn or painted as one, and are out of the way of whoever draws on', () => {
    expect([lasso, brush].map((part) => handlesOf(part, false))).toEqual([[], []]);
    const [all, turn] = handlesOf(lasso, true);
    expect(all.at).toEqual([0, expect.closeTo(-0.1, 9)]);
    expect(all.moved([0.1, 0.1])).toEqual({
      points: [
        [-0.1, 0.2],
        [0.3, 0.3],
        [0.2, -0.1]
      ].map((point) => point.map((value) => expect.closeTo(value, 9)))
    });
    // A quarter turn, clockwise on the picture, to twice its size: (x, y) from the middle becomes 2(-y, x).
    expect(turn.at).toEqual([0.2, expect.closeTo(-0.1, 9)]);
    expect(turn.moved([0, 0.3])).toEqual({
      points: [
        [-0.2, -0.5],
        [-0.4, 0.3],
        [0.4, 0.1]
      ].map((point) => point.map((value) => expect.closeTo(value, 9)))
    });
    const { strokes } = handlesOf(brush, true)[1].moved([0.5, 0.05]) as {
      strokes: { size: number; points: number[] }[];
    };
    expect(strokes[0].size).toBeCloseTo(0.1, 9);
    expect(strokes[0].points.map((value) => Math.round(value * 1e6) / 1e6)).toEqual([
      -0.4, -0.05, 0.5, 0.4, 0.15, 1
    ]);
    // A front that is moved by hand is one no more.
    const front = { ...lasso, kind: 'polygon', front: true } as Part;
    expect(handlesOf(front, true).at(-2)!.moved([0, 0])).toMatchObject({ front: false });
  });

  it('anchor the letter of an area at its shape, wherever that lies', () => {
    expect(anchorOf(radial)).toEqual([0.1, -0.2]);
    expect(anchorOf({ id: 's', kind: 'found', meets: 'add', what: 'sky' })).toBeNull();
  });
});
