/** Off and on, and back to neutral, below a step; suggestions by an amount; the curve under a hand: through the real interface. */
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';
import { type SheetHand, sheetHand } from './sheet-hand.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let hand: SheetHand;
let id = '';
const NAME = 'CPR_0003.dng';

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  id = (await jobWithFrames(page, app.address, 'Switches', [NAME])).ids[NAME];
  await bench.open(`${app.address}/frames/${id}`);
  await hand.key('4');
});
afterAll(() => app?.close());

const recipe = async (): Promise<PartialRecipe> => {
  await bench.saved();
  return (await frameAt<{ recipe: PartialRecipe }>(app.address, id)).recipe;
};
const button = (label: string) => page.locator(`button[aria-label="${label}"]`);
/** A place on the wall, in shares of the crop. */
const seen = async (): Promise<number> => {
  await bench.settled();
  return hand.lightAt(0.62, 0.45);
};
const turnTo = (name: string): Promise<void> => page.locator(`[data-page=${name}]`).click();

describe('what is set, below a step', () => {
  let [asItCame, whole] = [0, 0];

  it('is off and on again by a press on its name, and keeps its value', async () => {
    asItCame = await seen();
    await hand.set('Exposure', -1);
    await hand.set('Contrast', 40);
    whole = await seen();
    expect(whole).toBeLessThan(asItCame - 15);
    await button('Exposure off').click();
    expect(await seen()).toBeGreaterThan(whole + 15);
    const { off, tone } = await recipe();
    expect([off, tone?.exposure]).toEqual([['tone.exposure'], -1]);
    await button('Exposure off').click();
    expect(Math.abs((await seen()) - whole)).toBeLessThan(1);
    expect((await recipe()).off).toEqual([]);
  });

  it('is shown without for as long as its name is held, and nothing is changed by that', async () => {
    const before = await recipe();
    const box = (await (await page.waitForSelector('button[aria-label="Exposure off"]'))!.boundingBox())!;
    await page.mouse.move(box.x + 8, box.y + 8);
    await page.mouse.down();
    await expect.poll(() => hand.lightAt(0.62, 0.45)).toBeGreaterThan(whole + 15);
    // Longer than a press, however quick the machine is.
    await new Promise((resolve) => setTimeout(resolve, 300));
    await page.mouse.up();
    expect(Math.abs((await seen()) - whole)).toBeLessThan(1);
    expect(await recipe()).toEqual(before);
  });

  it('acts again once it is moved by hand', async () => {
    await button('Exposure off').click();
    await bench.settled();
    await hand.set('Exposure', -0.9);
    await bench.settled();
    const { off, tone } = await recipe();
    expect([off, tone?.exposure]).toEqual([[], -0.9]);
    await bench.press('Undo');
    await bench.press('Undo');
    expect(Math.abs((await seen()) - whole)).toBeLessThan(1);
  });

  it('is off, compared with and set back by pages and by the step, each by one press and one undo', async () => {
    await turnTo('local');
    await hand.set('Broad local contrast', 60);
    await turnTo('light');
    await button('Light, all of the page, off').click();
    await bench.settled();
    expect((await recipe()).off).toEqual(['tone.exposure', 'tone.contrast']);
    await bench.press('Undo');
    await button('Light, all of the page, back to neutral').click();
    await bench.settled();
    expect((await recipe()).tone).toMatchObject({ exposure: 0, contrast: 0, broad: 60 });
    await bench.press('Undo');
    await button('All of Tone back to neutral').click();
    expect(Math.abs((await seen()) - asItCame)).toBeLessThan(1);
    expect((await recipe()).tone).toMatchObject({ exposure: 0, broad: 0 });
    await bench.press('Undo');
    await bench.settled();
    expect((await recipe()).tone).toMatchObject({ exposure: -1, contrast: 40, broad: 60 });
    await bench.press('Compare');
    const group = 'select[aria-label="Compare with the picture without a group of settings"]';
    await page.waitForSelector(group);
    await page.select(group, 'tone.light');
    await page.waitForFunction(() => document.body.textContent!.includes('Without tone.light'));
    await page.keyboard.press('Escape');
    await hand.key('w');
  });

  it('is neutral in all of the frame by one press, and as it was by one undo', async () => {
    await hand.set('Exposure', -1);
    const before = await recipe();
    await hand.key('y');
    await bench.press('All to neutral');
    expect(Math.abs((await seen()) - asItCame)).toBeLessThan(1);
    expect((await recipe()).tone).toMatchObject({ exposure: 0, contrast: 0 });
    await hand.key('y');
    await bench.press('Undo');
    await bench.settled();
    expect((await recipe()).tone).toEqual(before.tone);
  });
});

describe('what is set on the whole frame', () => {
  it('is moved into an area by one press, drawn next, and back by one undo', async () => {
    await button('All of Tone back to neutral').click();
    await hand.set('Exposure', -1);
    const [above, below] = [await seen(), await hand.lightAt(0.5, 0.95)];
    await button('Light: give it a shape').click();
    await page.waitForSelector('[data-testid=areas] li');
    await bench.settled();
    expect(await hand.lightAt(0.5, 0.95)).toBeGreaterThan(below + 10);
    await hand.drag([0.5, 0.6], [0.5, 0.75]);
    expect(Math.abs((await seen()) - above)).toBeLessThan(2);
    expect(await hand.lightAt(0.5, 0.95)).toBeGreaterThan(below + 10);
    expect((await recipe()).tone!.exposure).toBe(0);
    await bench.press('Undo');
    await bench.press('Undo');
    await bench.settled();
    expect((await recipe()).tone!.exposure).toBe(-1);
    await hand.key('4');
  });
});

describe('tone by itself', () => {
  it('goes by the picture as it stands, again once it was moved, and by an amount', async () => {
    await button('All of Tone back to neutral').click();
    await button('Highlights by itself').click();
    await bench.settled();
    const plain = (await recipe()).tone!.highlights!;
    await hand.set('Exposure', 2);
    await button('Highlights by itself').click();
    await expect.poll(async () => (await recipe()).tone!.highlights!).toBeLessThan(plain);
    await button('All of Tone back to neutral').click();
    await bench.press('All by itself');
    await page.waitForSelector('input[aria-label="Amount by itself slider"]');
    const all = (await recipe()).tone!;
    await hand.set('Amount by itself', 50);
    await bench.settled();
    const half = (await recipe()).tone!;
    expect(half.exposure).toBeCloseTo(all.exposure! / 2, 1);
    await hand.set('Amount by itself', 0);
    await bench.settled();
    expect((await recipe()).tone).toMatchObject({ exposure: 0, highlights: 0, white: 0 });
    // What is set by hand ends it: an amount would take that away.
    await hand.set('Exposure', 0.3);
    await page.waitForSelector('input[aria-label="Amount by itself slider"]', { hidden: true });
  });
});

describe('the curve', () => {
  it('keeps its ends and never falls, with the histogram behind it, and large it stands beside the picture', async () => {
    await button('All of Tone back to neutral').click();
    await turnTo('curve');
    await page.waitForSelector('[data-testid=curve-histogram]');
    const box = (await (await page.$('[data-testid=curve]'))!.boundingBox())!;
    const at = (x: number, y: number): [number, number] => [
      box.x + 5 + x * (box.width - 10),
      box.y + 5 + (1 - y) * (box.height - 10)
    ];
    await page.mouse.move(...at(0, 0));
    await page.mouse.down();
    await page.mouse.move(...at(0, 0.12), { steps: 6 });
    await page.mouse.move(at(0, 0.12)[0] + 1, at(0, 0.12)[1], { steps: 2 });
    await page.mouse.up();
    await bench.settled();
    const { curve } = (await recipe()).tone!;
    expect(curve!.map(({ x }) => x)).toEqual([0, 1]);
    expect(curve![0].y).toBeCloseTo(0.12, 1);
    await page.evaluate(() => localStorage.setItem('bench-room', JSON.stringify({ deck: 'below' })));
    await page.reload();
    await bench.settled();
    await hand.key('4');
    await turnTo('curve');
    await button('Make the curve large').click();
    await bench.settled();
    const [tool, picture] = await Promise.all(
      ['[data-testid=fine-tool]', '[data-testid=picture]'].map(async (selector) =>
        (await page.$(selector))!.boundingBox()
      )
    );
    const { left, width } = await bench.crop();
    const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
    expect(picture).not.toBeNull();
    expect(sheet.x + left + width).toBeLessThanOrEqual(tool!.x + 1);
    await page.evaluate(() => localStorage.removeItem('bench-room'));
  });
});
