import { expect } from 'vitest';
import { type Place, edits } from './edit.ts';

const PLACES: Place[] = [
  [0.5, 0.1],
  [0.35, 0.44],
  [0.5, 0.94],
  [0.3, 0.42]
];

edits(
  'A look without its contrast',
  'takes the colours of a look and leaves its light and dark',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('5');
    await edit.turnTo('looks');
    await edit.pressOn(
      '::-p-xpath(//*[@data-testid="looks"]//button[contains(normalize-space(), "Blue hour steel")])'
    );
    // The studio's looks are asked for before one is laid on.
    await edit.page.waitForSelector(
      '::-p-xpath(//*[@data-testid="looks"]//button[@aria-pressed="true" and contains(normalize-space(), "Blue hour steel")])'
    );
    const whole = await edit.picture();
    await edit.type('Contrast of the look', 0);
    const after = await edit.deliver();
    const light = (of: typeof after): number =>
      PLACES.reduce((sum, at) => sum + Math.abs(of(at, 12).l - before(at, 12).l), 0);
    const colour = (one: typeof after, other: typeof after): number =>
      PLACES.reduce((sum, at) => sum + Math.abs(one(at, 12).c - other(at, 12).c), 0);
    expect(light(whole)).toBeGreaterThan(0.03);
    expect(light(after)).toBeLessThan(0.25 * light(whole));
    expect(colour(after, whole)).toBeLessThan(0.5 * Math.max(0.02, colour(before, whole)) + 0.01);
  }
);
