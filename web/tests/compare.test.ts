/** Comparing through the real interface: a wipe, side by side, what changed, and one key for a step. */
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';
import { type SheetHand, sheetHand } from './sheet-hand.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let hand: SheetHand;
let ids: Record<string, string>;
/** What the sky is as shot. */
let asShot = 0;
const [NAME, OTHER] = ['CPR_0003.dng', 'CPR_0021.dng'];

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  ({ ids } = await jobWithFrames(page, app.address, 'Compare', [NAME, OTHER]));
  await bench.open(`${app.address}/frames/${ids[NAME]}`);
  await hand.key('4');
});
afterAll(() => app?.close());

/** Mean of green on the screen about a place of an element, in shares of it. */
async function seenAt(selector: string, x: number, y: number): Promise<number> {
  const box = (await (await page.waitForSelector(selector))!.boundingBox())!;
  const clip = { x: box.x + x * box.width - 4, y: box.y + y * box.height - 4, width: 8, height: 8 };
  const { channels } = await sharp(await page.screenshot({ clip, captureBeyondViewport: false })).stats();
  return channels[1].mean;
}
const sheet = '[aria-label=Picture]';
const drawings = (): Promise<string[]> =>
  page.$$eval('[data-testid=picture], [data-testid=other-picture]', (all) =>
    all.map((each) => (each as HTMLElement).dataset.drawn!)
  );
const otherDrawn = (): Promise<unknown> =>
  page.waitForFunction(() =>
    Number(document.querySelector<HTMLElement>('[data-testid=other-picture]')?.dataset.drawn)
  );
async function choose(label: string): Promise<void> {
  await bench.press('Compare');
  await page.locator(`::-p-xpath(//label[normalize-space()="${label}"])`).click();
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => !document.querySelector('[role=dialog][aria-label=Compare]'));
}
async function dragScreen(from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(...to, { steps: 10 });
  await page.mouse.up();
}

describe('comparing', () => {
  it('wipes the picture against as shot, by a line that is dragged and turned with nothing drawn anew', async () => {
    await hand.set('Exposure', -2);
    await bench.saved();
    await bench.settled();
    const now = [await seenAt(sheet, 0.3, 0.13), await seenAt(sheet, 0.7, 0.13)];
    await hand.key('w');
    await otherDrawn();
    await bench.settled();
    await expect.poll(() => seenAt(sheet, 0.3, 0.13)).toBeGreaterThan(1.3 * now[0]);
    const [left, right] = [await seenAt(sheet, 0.3, 0.13), await seenAt(sheet, 0.7, 0.13)];
    asShot = left;
    expect(Math.abs(right - now[1])).toBeLessThan(1);
    expect([
      await bench.text('[data-testid=other-label]'),
      await bench.text('[data-testid=own-label]')
    ]).toEqual(['As shot', 'Now']);
    const before = await drawings();
    const box = (await (await page.$(sheet))!.boundingBox())!;
    const middle: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
    await dragScreen(middle, [box.x + 0.2 * box.width, middle[1]]);
    expect(Math.abs((await seenAt(sheet, 0.3, 0.13)) - now[0])).toBeLessThan(1);
    await dragScreen([box.x + 0.2 * box.width, middle[1]], middle);
    // Turned by a right angle the line lies across, and the first side above it.
    await dragScreen([middle[0], middle[1] + 90], [middle[0] - 90, middle[1]]);
    const above = await seenAt(sheet, 0.7, 0.13);
    expect(await drawings()).toEqual(before);
    await hand.key('w');
    await page.waitForFunction(() => !document.querySelector('[data-testid=other-picture]'));
    expect(above).toBeGreaterThan(1.2 * (await seenAt(sheet, 0.7, 0.13)));
  });

  it('moves the line by the keyboard', async () => {
    await hand.key('w');
    await page.waitForSelector('[data-handle=wipe-line]');
    const leftOf = (): Promise<number> =>
      page.$eval('[data-handle=wipe-line]', (each) => parseFloat((each as HTMLElement).style.left));
    const before = await leftOf();
    await page.focus('[data-handle=wipe-line]');
    await page.keyboard.press('ArrowRight');
    expect(await leftOf()).toBeCloseTo(before + 8, 0);
    await hand.key('w');
  });

  it('shows both side by side, enlarged and moved together', async () => {
    await hand.key('m');
    await otherDrawn();
    await bench.settled();
    const other = '[data-testid=beside]';
    expect(await seenAt(other, 0.5, 0.5)).toBeGreaterThan(1.3 * (await seenAt(sheet, 0.5, 0.5)));
    await page.mouse.move(...(await hand.at(0.4, 0.5)));
    await page.keyboard.press('f');
    await bench.settled();
    await otherDrawn();
    const placed = (selector: string): Promise<number[]> =>
      page.$eval(selector, (each) => {
        const [own, pane] = [each, each.closest('[role=application]')!].map((e) => e.getBoundingClientRect());
        return [own.width, own.left - pane.left, own.top - pane.top].map(Math.round);
      });
    expect(await placed('[data-testid=other-picture]')).toEqual(await placed('[data-testid=picture]'));
    const box = (await (await page.$(other))!.boundingBox())!;
    const from = await page.$eval('[data-testid=picture]', (e) => (e as HTMLElement).dataset.view);
    await dragScreen([box.x + 100, box.y + 80], [box.x + 160, box.y + 100]);
    await bench.settled();
    expect(await page.$eval('[data-testid=picture]', (e) => (e as HTMLElement).dataset.view)).not.toBe(from);
    expect(await placed('[data-testid=other-picture]')).toEqual(await placed('[data-testid=picture]'));
    await hand.key('0');
    await hand.key('m');
  });

  it('tells what changed in ΔE: nothing as it stands, much by two stops', async () => {
    await choose('As it was when opened');
    await choose('What changed');
    const mean = (): Promise<number> =>
      page
        .$eval('[data-testid=difference-figures]', (e) => Number((e as HTMLElement).dataset.mean))
        .catch(() => -1);
    await expect.poll(mean).toBeGreaterThan(8);
    await hand.set('Exposure', 0);
    await bench.settled();
    await expect.poll(mean).toBeLessThan(0.01);
    await choose('Off');
  });

  it('compares with a revision, with the frame without a step, and with another frame', async () => {
    await hand.set('Exposure', -1.5);
    await bench.saved();
    await page.keyboard.down('Shift');
    await page.keyboard.press('y');
    await page.keyboard.up('Shift');
    await page.waitForSelector('[data-testid=revisions] canvas');
    await page.keyboard.press('Escape');
    await hand.set('Exposure', 0.5);
    await bench.press('Compare');
    await page.waitForFunction(
      () =>
        document.querySelector<HTMLSelectElement>('[aria-label="Compare with a revision"]')?.disabled ===
        false
    );
    await page.select('[aria-label="Compare with a revision"]', 'A');
    await page.keyboard.press('Escape');
    await otherDrawn();
    await bench.settled();
    expect(await bench.text('[data-testid=other-label]')).toBe('Revision A');
    await expect.poll(() => seenAt(sheet, 0.3, 0.13)).toBeLessThan(0.8 * asShot);
    await choose('Without the step in hand');
    await expect.poll(() => bench.text('[data-testid=other-label]')).toBe('Without Tone');
    await expect.poll(() => seenAt(sheet, 0.3, 0.13)).toBeGreaterThan(0.95 * asShot);
    await bench.press('Compare');
    await page.waitForSelector('[aria-label="Compare with another frame"]');
    await page.select('[aria-label="Compare with another frame"]', ids[OTHER]);
    await page.keyboard.press('Escape');
    await page.waitForFunction(
      () => document.querySelector<HTMLImageElement>('img[data-testid=other-picture]')?.naturalWidth
    );
    expect(await bench.text('[data-testid=other-label]')).toBe(OTHER);
    await choose('Off');
  });

  it('switches the step in hand off and on by one key', async () => {
    const enabled = async (): Promise<boolean> =>
      (await frameAt<{ recipe: { tone: { enabled: boolean } } }>(app.address, ids[NAME])).recipe.tone.enabled;
    await hand.key('z');
    await bench.saved();
    await expect.poll(enabled).toBe(false);
    await hand.key('z');
    await bench.saved();
    await expect.poll(enabled).toBe(true);
  });
});
