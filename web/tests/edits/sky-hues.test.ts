import { expect } from 'vitest';
import { type Place, edits } from './edit.ts';

const SKY: Place = [0.6, 0.12];
const BRICK: Place = [0.35, 0.44];

edits(
  'The blues of a sky alone',
  'deepens one hue within the sky that was found, and nothing else',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('6');
    await edit.select('Add', 'Sky');
    await edit.turnTo('hues');
    const strip = (await (await edit.page.waitForSelector('[data-testid=hues]'))!.boundingBox())!;
    await edit.page.mouse.click(strip.x + (258 / 360) * strip.width, strip.y + strip.height / 2);
    await edit.type('Saturation of the node', 80);
    await edit.type('Lightness of the node', -30);
    const after = await edit.deliver();
    expect(after(SKY).c / before(SKY).c).toBeGreaterThan(1.15);
    expect(after(SKY).l).toBeLessThan(before(SKY).l - 0.01);
    expect(Math.abs(after(BRICK, 12).c - before(BRICK, 12).c)).toBeLessThan(0.005);
  }
);
