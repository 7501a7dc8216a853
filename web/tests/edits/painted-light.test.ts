import { expect } from 'vitest';
import type { AreasSettings } from '../../../core/steps/areas/step.ts';
import { frameAt } from '../job-with-frames.ts';
import { type Edit, type Place, edits } from './edit.ts';

const areasOf = async (edit: Edit): Promise<AreasSettings> => {
  await edit.bench.saved();
  return (await frameAt<{ recipe: { areas: AreasSettings } }>(edit.app.address, edit.id)).recipe.areas;
};
const [LEFT, RIGHT]: [Place, Place] = [
  [0.35, 0.44],
  [0.464, 0.44]
];

edits(
  'Light painted on, moved and grouped',
  'builds light up to a cap, moves what was painted, and switches a group of areas off and on',
  async (edit) => {
    const before = await edit.picture();
    await edit.key('6');
    await edit.press('Brush');
    await edit.type('Flow', 40);
    await edit.type('Cap of the brush', 50);
    for (let i = 0; i < 6; i++) await edit.drag([0.34, 0.44], [0.36, 0.44]);
    await edit.turnTo('light');
    await edit.type('Exposure', 1);
    const painted = await edit.picture();
    const whole = painted(LEFT, 10).l - before(LEFT, 10).l;
    expect(whole).toBeGreaterThan(0.03);
    const { shapes } = await areasOf(edit);
    const [part] = shapes[0].parts as unknown as { strokes: { cap: number; flow: number }[] }[];
    expect(part.strokes.map(({ cap, flow }) => [cap, flow])).toEqual(Array(6).fill([50, 40]));
    await edit.turnTo('shape');
    await edit.press('Move');
    // By its middle, a step to the right.
    await edit.drag([0.35, 0.44], [0.464, 0.44]);
    const moved = await edit.picture();
    expect(Math.abs(moved(LEFT, 4).l - before(LEFT, 4).l)).toBeLessThan(0.3 * whole);
    expect(moved(RIGHT, 10).l - before(RIGHT, 10).l).toBeGreaterThan(0.5 * whole);
    // Another area beside it, both in one group.
    await edit.key('n');
    await edit.press('Gradient');
    await edit.drag([0.5, 0.97], [0.5, 0.8]);
    await edit.turnTo('light');
    await edit.type('Exposure', -1);
    await edit.page.keyboard.down('Shift');
    await edit.pressOn('[data-testid=areas] [data-testid=area]:first-child button.min-w-0');
    await edit.page.keyboard.up('Shift');
    await edit.pressOn('input[aria-label="Group of the area"]');
    await edit.page.keyboard.type('By hand');
    await edit.page.keyboard.press('Enter');
    expect((await areasOf(edit)).list.map(({ group }) => group)).toEqual(['By hand', 'By hand']);
    await edit.pressOn('input[aria-label="Group By hand on or off"]');
    const off = await edit.picture();
    for (const at of [RIGHT, [0.5, 0.95] as Place])
      expect(Math.abs(off(at, 8).l - before(at, 8).l), String(at)).toBeLessThan(0.005);
    await edit.pressOn('input[aria-label="Group By hand on or off"]');
    const after = await edit.deliver();
    expect(Math.abs(after(RIGHT, 8).l - moved(RIGHT, 8).l)).toBeLessThan(0.01);
    expect(after([0.5, 0.95], 8).l).toBeLessThan(before([0.5, 0.95], 8).l - 0.08);
  }
);
