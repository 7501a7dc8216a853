import { expect } from 'vitest';
import { type Place, edits } from './edit.ts';

const SKY: Place = [0.5, 0.1];
const BRICK: Place = [0.35, 0.44];

edits('A front in black and white', 'makes a front grey with a deep sky and a darker edge', async (edit) => {
  await edit.key('5');
  await edit.turnTo('mono');
  await edit.pressOn('::-p-xpath(//label[contains(., "Black and white")])');
  const plain = await edit.picture();
  for (const [label, weight] of [
    ['Red in grey', 110],
    ['Green in grey', 20],
    ['Blue in grey', -30]
  ] as const)
    await edit.type(label, weight);
  await edit.key('4');
  await edit.turnTo('light');
  await edit.type('Contrast', 25);
  await edit.key('8');
  await edit.turnTo('edge');
  await edit.type('Edge', -40);
  const after = await edit.deliver();
  for (const at of [SKY, BRICK, [0.5, 0.71] as Place]) expect(after(at).c).toBeLessThan(0.005);
  // As through a red filter: the sky goes down against the bricks, by far more than contrast alone takes it.
  const step = (of: typeof after): number => of(BRICK, 12).l - of(SKY, 12).l;
  expect(step(after)).toBeGreaterThan(step(plain) + 0.12);
  expect(after([0.01, 0.99]).l).toBeLessThan(plain([0.01, 0.99]).l - 0.05);
});
