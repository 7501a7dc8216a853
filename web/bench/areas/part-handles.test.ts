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

describe('handles of a part', () => {
  it('stay where they are when they are let go where they were taken', () => {
    for (const part of [radial, gradient])
      for (const handle of handlesOf(part)) {
        const after = { ...part, ...handle.moved(handle.at) } as Part;
        handlesOf(after).forEach(({ at }, i) => {
          expect(Math.hypot(at[0] - handlesOf(part)[i].at[0], at[1] - handlesOf(part)[i].at[1])).toBeLessThan(
            1e-3
          );
        });
      }
  });

  it('turn and lengthen an ellipse, and move a gradient as a whole', () => {
    const [, length] = handlesOf(radial);
    expect(length.moved([0.1, 0.1])).toMatchObject({ angle: 90 });
    expect((length.moved([0.1, 0.1]) as { across: number }).across).toBeCloseTo(0.3, 9);
    const all = handlesOf(gradient)[2];
    expect(all.moved([0.3, 0.2])).toEqual({
      a: [expect.closeTo(0.1, 9), expect.closeTo(0.1, 9)],
      b: [expect.closeTo(0.5, 9), expect.closeTo(0.3, 9)]
    });
    // Nothing leaves what a recipe takes.
    expect(all.moved([9, 9])).toEqual({ a: [1.5, 1.5], b: [1.5, 1.5] });
  });

  it('anchor the letter of an area at its shape, wherever that lies', () => {
    expect(anchorOf(radial)).toEqual([0.1, -0.2]);
    expect(anchorOf({ id: 's', kind: 'found', meets: 'add', what: 'sky' })).toBeNull();
  });
});
