import { expect } from 'vitest';
import { type Place, degreesApart, edits } from './edit.ts';

const DOOR: Place = [0.497, 0.71];
const OTHERS: Place[] = [
  [0.35, 0.44],
  [0.5, 0.15],
  [0.5, 0.95]
];

edits(
  'A door in another colour',
  'paints a green door blue by a range of colours that is narrowed, and nothing beside it',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('6');
    await edit.press('Colours');
    await edit.point(DOOR);
    const cover = async (): Promise<number> => {
      await edit.bench.settled();
      return Number.parseFloat(await edit.bench.text('[data-testid=cover]'));
    };
    await edit.page.waitForSelector('[data-testid=cover]');
    await edit.type('Tolerance', 60);
    const wide = await cover();
    await edit.type('Hues', 25);
    await expect.poll(cover).toBeLessThan(wide);
    await edit.turnTo('colour');
    await edit.type('Hue', 60);
    const after = await edit.deliver();
    expect(degreesApart(before(DOOR).h, after(DOOR).h)).toBeGreaterThan(30);
    expect(after(DOOR).c).toBeGreaterThan(0.6 * before(DOOR).c);
    for (const at of OTHERS) {
      const [one, other] = [before(at, 8), after(at, 8)];
      expect(Math.abs(one.l - other.l), String(at)).toBeLessThan(0.01);
      expect(degreesApart(one.h, other.h), String(at)).toBeLessThan(4);
    }
  }
);
