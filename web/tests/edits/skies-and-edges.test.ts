import { expect } from 'vitest';
import { type Place, degreesApart, edits } from './edit.ts';

const SKY: Place = [0.6, 0.12];
const CORNER: Place = [0.015, 0.02];
const BRICK: Place = [0.35, 0.44];

edits(
  'A stronger sky, a paler edge',
  'strengthens the sky by one control and takes colour out of the edge',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('5');
    await edit.turnTo('balance');
    await edit.type('Sky strength', 60);
    const strong = await edit.picture();
    await edit.key('8');
    await edit.turnTo('edge');
    await edit.type('Edge colour', -100);
    const after = await edit.deliver();
    expect(strong(SKY).c / before(SKY).c).toBeGreaterThan(1.2);
    expect(degreesApart(strong(SKY).h, before(SKY).h)).toBeLessThan(3);
    expect(Math.abs(strong(BRICK, 12).c / before(BRICK, 12).c - 1)).toBeLessThan(0.03);
    expect(after(CORNER).c).toBeLessThan(0.35 * strong(CORNER).c);
    expect(Math.abs(after([0.5, 0.5], 12).c - strong([0.5, 0.5], 12).c)).toBeLessThan(0.01);
  }
);
