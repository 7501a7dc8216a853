import { expect } from 'vitest';
import { type Place, edits } from './edit.ts';

edits(
  'Another sky, and haze',
  'lays another sky and clears haze, and no rim stands about the roof',
  async (edit) => {
    await edit.key('6');
    await edit.turnTo('sky');
    await edit.pressOn(
      '::-p-xpath(//*[@data-testid="skies"]//button[contains(normalize-space(), "First light")])'
    );
    const laid = await edit.picture();
    await edit.key('4');
    await edit.turnTo('local');
    await edit.type('Haze', 45);
    await edit.type('Broad local contrast', 50);
    await edit.turnTo('light');
    await edit.type('Highlights', -60);
    const after = await edit.deliver();
    // Up from the roof: what the sky does there before, it does after, if more strongly; nothing stands beside the roof's edge.
    for (const [x, roof] of [
      [0.2, 0.268],
      [0.5, 0.285],
      [0.8, 0.303]
    ]) {
      const column = (of: typeof after): number[] =>
        Array.from({ length: 12 }, (_, i) => of([x, roof - i * 0.012] as Place, 2).l);
      const [before, now] = [column(laid), column(after)];
      const bend = (of: number[]): number =>
        Math.max(...of.slice(1, -1).map((value, i) => Math.abs(value - (of[i] + of[i + 2]) / 2)));
      expect(bend(now), `at ${x}`).toBeLessThan(bend(before) + 0.02);
    }
    expect(Math.abs(after([0.5, 0.1], 8).l - laid([0.5, 0.1], 8).l)).toBeGreaterThan(0.02);
  }
);
