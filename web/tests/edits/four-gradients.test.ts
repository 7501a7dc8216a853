import { expect } from 'vitest';
import { type Place, edits } from './edit.ts';

/** Each from where it is whole to where it is gone, with its exposure, and places in it and out of it. */
const GRADIENTS: { way: [Place, Place]; exposure: number; within: Place }[] = [
  {
    way: [
      [0.5, 0.04],
      [0.5, 0.3]
    ],
    exposure: -0.8,
    within: [0.5, 0.03]
  },
  {
    way: [
      [0.5, 0.97],
      [0.5, 0.82]
    ],
    exposure: -0.7,
    within: [0.5, 0.96]
  },
  {
    way: [
      [0.03, 0.6],
      [0.14, 0.6]
    ],
    exposure: -0.6,
    within: [0.025, 0.6]
  },
  {
    way: [
      [0.97, 0.6],
      [0.86, 0.6]
    ],
    exposure: 0.5,
    within: [0.975, 0.55]
  }
];

edits(
  'Four gradients',
  'darkens sky and street and shapes the sides of a front, in fourteen acts',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('6');
    for (const [i, { way, exposure }] of GRADIENTS.entries()) {
      if (i > 0) await edit.key('n');
      await edit.drag(...way);
      if (i === 0) await edit.turnTo('light');
      await edit.type('Exposure', exposure);
    }
    expect(edit.acts()).toBeLessThanOrEqual(14);
    const after = await edit.deliver();
    for (const { exposure, within } of GRADIENTS) {
      const change = after(within).l - before(within).l;
      if (exposure < 0) expect(change, String(within)).toBeLessThan(-0.04);
      else expect(change, String(within)).toBeGreaterThan(0.02);
    }
    // The middle of the front is as it was.
    for (const at of [
      [0.35, 0.44],
      [0.35, 0.62]
    ] as Place[]) {
      const [one, other] = [before(at, 12), after(at, 12)];
      expect(Math.abs(one.l - other.l)).toBeLessThan(0.01);
      expect(Math.abs(one.c - other.c)).toBeLessThan(0.01);
    }
  }
);
