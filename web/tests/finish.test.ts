/** The Finish step through the real interface: noise, sharpening, the edge and grain, reloaded, walked back, and exported. */
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FinishSettings } from '../../core/steps/finish/step.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { exportPicture } from './export-picture.ts';
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
  const { ids } = await jobWithFrames(page, app.address, 'Finish', [NAME]);
  id = ids[NAME];
  await bench.open(`${app.address}/frames/${id}`);
  await hand.key('8');
});
afterAll(() => app?.close());

const finish = async (): Promise<FinishSettings> =>
  (await frameAt<{ recipe: { finish: FinishSettings } }>(app.address, id)).recipe.finish;
const turnTo = (label: string): Promise<void> => bench.press(label);

/** The exported picture, and the mean step from a pixel of green to the next in a part of it, in shares of its size. */
async function exported() {
  const { data, info } = await sharp((await exportPicture(app.address, id, { quality: 95 })).bytes)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const green = (x: number, y: number): number => data[(Math.round(y) * width + Math.round(x)) * 3 + 1];
  return {
    at: (x: number, y: number): number => {
      let sum = 0;
      for (let j = -8; j <= 8; j++) for (let i = -8; i <= 8; i++) sum += green(x * width + i, y * height + j);
      return sum / 289;
    },
    roughness: (left: number, top: number, right: number, bottom: number): number => {
      let [sum, count] = [0, 0];
      for (let y = top * height; y < bottom * height; y++)
        for (let x = left * width; x < right * width; x++, count++)
          sum += Math.abs(green(x + 1, y) - green(x, y));
      return sum / count;
    }
  };
}

describe('finishing on the bench', () => {
  let before: Awaited<ReturnType<typeof exported>>;

  it('says what the sensor’s noise is, and takes it out by itself', async () => {
    before = await exported();
    expect(await bench.text('[data-testid=sensor-noise]')).toMatch(/^Measured in this file: \d/);
    await bench.press('By itself');
    await bench.saved();
    expect(await finish()).toMatchObject({ noise: 50, noiseColour: 50 });
    await bench.settled();
    const after = await exported();
    // The sky is smoother, while the roof keeps its tiles.
    expect(after.roughness(0.7, 0.03, 0.9, 0.1)).toBeLessThan(0.8 * before.roughness(0.7, 0.03, 0.9, 0.1));
    expect(after.roughness(0.35, 0.28, 0.55, 0.32)).toBeGreaterThan(
      0.85 * before.roughness(0.35, 0.28, 0.55, 0.32)
    );
    await bench.press('Undo');
    await bench.saved();
    expect((await finish()).noise).toBe(0);
  });

  it('says that sharpening cannot be judged at a small size, and offers 1:1', async () => {
    await turnTo('Sharpening');
    // A control that would act on nothing is out of reach.
    expect(await page.$eval('input[aria-label^="Radius"]', (e) => (e as HTMLInputElement).disabled)).toBe(
      true
    );
    await hand.set('Sharpening', 70);
    await bench.saved();
    expect(await page.$eval('input[aria-label^="Radius"]', (e) => (e as HTMLInputElement).disabled)).toBe(
      false
    );
    expect(await bench.text('[data-testid=too-small]')).toContain('cannot be judged');
    await bench.press('Show 1:1');
    await page.waitForSelector('[data-testid=as-the-file]');
    await bench.settled();
    await hand.key('f');
    await bench.settled();
    const histogram = () => page.$eval('[aria-label=Histogram] svg', (e) => e.innerHTML);
    const [counted, sky] = [await histogram(), await hand.lightAt(0.8, 0.06)];
    await hand.key('e');
    await bench.settled();
    expect(await bench.text('[data-testid=sharpened-label]')).toBe('Where sharpening acts');
    // Little in the sky, all of the roof; counted is still the picture.
    expect(sky).toBeGreaterThan(100);
    expect(await hand.lightAt(0.8, 0.06)).toBeLessThan(50);
    expect(await hand.lightAt(0.5, 0.15)).toBeGreaterThan(120);
    expect(await histogram()).toBe(counted);
    await turnTo('Noise');
    await bench.settled();
    expect(Math.abs((await hand.lightAt(0.8, 0.06)) - sky)).toBeLessThan(2);
    await turnTo('Sharpening');
    const after = await exported();
    expect(after.roughness(0.3, 0.4, 0.6, 0.6)).toBeGreaterThan(1.05 * before.roughness(0.3, 0.4, 0.6, 0.6));
    expect(after.roughness(0.7, 0.03, 0.9, 0.1)).toBeLessThan(1.05 * before.roughness(0.7, 0.03, 0.9, 0.1));
  });

  it('darkens the edge, whose middle is dragged, and is as it was after a reload', async () => {
    await turnTo('Edge');
    await hand.set('Edge', -60);
    await bench.saved();
    await bench.settled();
    const [dark, middle] = [await hand.lightAt(0.97, 0.06), await hand.lightAt(0.5, 0.3)];
    await hand.drag([0.5, 0.5], [0.75, 0.25]);
    await bench.saved();
    const { edgeX, edgeY } = await finish();
    expect(Math.abs(edgeX - 50)).toBeLessThan(6);
    expect(Math.abs(edgeY + 50)).toBeLessThan(6);
    await bench.settled();
    expect(await hand.lightAt(0.97, 0.06)).toBeGreaterThan(dark + 8);
    expect(await hand.lightAt(0.03, 0.94)).toBeLessThan(90);
    await page.reload({ waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-testid=picture][data-drawn]');
    await bench.settled();
    expect(await finish()).toMatchObject({ edge: -60, edgeX, edgeY, sharpening: 70 });
    const after = await exported();
    expect(after.at(0.03, 0.95)).toBeLessThan(0.7 * before.at(0.03, 0.95));
    expect(after.at(0.5, 0.5)).toBeGreaterThan(0.9 * before.at(0.5, 0.5));
    expect(middle).toBeGreaterThan(0);
  });

  it('adds grain, and is switched off with its step', async () => {
    await hand.key('8');
    await turnTo('Grain');
    await hand.set('Grain', 80);
    await bench.saved();
    const after = await exported();
    expect(after.roughness(0.7, 0.03, 0.9, 0.1)).toBeGreaterThan(2 * before.roughness(0.7, 0.03, 0.9, 0.1));
    await page.click('[aria-label="Finish on or off"]');
    await bench.saved();
    const off = await exported();
    expect(off.at(0.03, 0.95)).toBeCloseTo(before.at(0.03, 0.95), 0);
    expect(off.roughness(0.7, 0.03, 0.9, 0.1)).toBeCloseTo(before.roughness(0.7, 0.03, 0.9, 0.1), 1);
  });
});
