/** Tone and colour through the real interface, on the bench and in what is exported. */
import { differenceCiede2000 } from 'culori';
import type { Browser, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { exportPicture } from './export-picture.ts';
import { jobWithFrames } from './job-with-frames.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let page: Page;
let bench: BenchPage;
let frameId = '';
const recipe = async (): Promise<Recipe> =>
  ((await (await fetch(`${app.address}/api/frames/${frameId}`)).json()) as { frame: { recipe: Recipe } })
    .frame.recipe;

beforeAll(async () => {
  app = await startApp(newDataFolder());
  browser = await openBrowser();
  page = await browser.newPage();
  bench = benchPage(page);
  const { ids } = await jobWithFrames(page, app.address, 'Tone', ['SML_0101.dng']);
  frameId = ids['SML_0101.dng'];
  await bench.open(`${app.address}/frames/${frameId}`);
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

const type = async (name: string, value: string): Promise<void> => {
  const field = (await page.$(`::-p-aria(${name}[role="textbox"])`))!;
  await field.click({ count: 3 });
  await page.keyboard.type(value);
  await page.keyboard.press('Enter');
};
/** The crop as it is shown: pixels of the canvas. */
const shown = (): Promise<{ w: number; h: number; pixels: number[] }> =>
  page.$eval('[data-testid=picture]', (canvas) => {
    const c = canvas as HTMLCanvasElement;
    const { left, top, width, height } = JSON.parse(c.dataset.crop!) as Record<string, number>;
    const [x, y] = [Math.round(left), Math.round(top)];
    const [w, h] = [Math.round(left + width) - x, Math.round(top + height) - y];
    return { w, h, pixels: [...c.getContext('2d')!.getImageData(x, y, w, h).data] };
  });
/** Mean colour about a place, in shares of the crop. */
async function meanAt(x: number, y: number): Promise<number[]> {
  const { w, h, pixels } = await shown();
  const sum = [0, 0, 0];
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const at = ((Math.round(y * h) + dy) * w + Math.round(x * w) + dx) * 4;
      for (let c = 0; c < 3; c++) sum[c] += pixels[at + c] / 25;
    }
  return sum;
}

describe('tone', () => {
  it('is exposed by typing, bent by a drag on the curve, and steps back and forth', async () => {
    await page.keyboard.press('4');
    await bench.settled();
    const [before] = await meanAt(0.5, 0.93);
    await type('Exposure', '0.5');
    await type('Recovery', '80');
    await bench.settled();
    const [lighter] = await meanAt(0.5, 0.93);
    expect(lighter).toBeGreaterThan(before + 8);
    const box = (await (await page.$('[data-testid=curve]'))!.boundingBox())!;
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.5);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.7, { steps: 5 });
    await page.mouse.up();
    await bench.settled();
    await bench.saved();
    const { tone } = await recipe();
    expect([tone.exposure, tone.recovery]).toEqual([0.5, 80]);
    expect(tone.curve).toHaveLength(3);
    expect(tone.curve[1].x).toBeCloseTo(0.5, 1);
    expect(tone.curve[1].y).toBeCloseTo(0.29, 1);
    expect((await meanAt(0.5, 0.93))[0]).toBeLessThan(lighter - 15);
    // The whole drag is one step back.
    await bench.press('Undo');
    await bench.settled();
    expect((await meanAt(0.5, 0.93))[0]).toBeCloseTo(lighter, 0);
    await bench.press('Redo');
    await bench.saved();
    expect(await bench.text('[data-testid=state-tone]')).toBe('by hand');
  });

  it('has its colours balanced by a pick, which leaves the picked place without colour', async () => {
    await page.keyboard.press('5');
    await bench.settled();
    await type('Warmth', '40');
    await bench.settled();
    const warm = await meanAt(0.5, 0.93);
    expect(warm[0] - warm[2]).toBeGreaterThan(10);
    await bench.press('Pick');
    const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
    const crop = await bench.crop();
    await page.mouse.click(sheet.x + crop.left + crop.width * 0.5, sheet.y + crop.top + crop.height * 0.93);
    await page.waitForFunction(() => document.body.textContent!.includes('What you picked is neutral now.'));
    await bench.settled();
    const [r, g, b] = await meanAt(0.5, 0.93);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(5);
    await bench.saved();
  });

  it('is exported as the bench shows it, within half a ΔE', async () => {
    await bench.open(`${app.address}/frames/${frameId}`);
    await page.keyboard.press('4');
    await bench.settled();
    const picture = await shown();
    const edge = Math.max(picture.w, picture.h);
    const { bytes } = await exportPicture(app.address, frameId, {
      format: 'png',
      sizeKind: 'long',
      width: edge,
      sharpening: 'none'
    });
    const small = await sharp(bytes).resize(picture.w, picture.h, { fit: 'fill' }).raw().toBuffer();
    const difference = differenceCiede2000();
    const colour = (of: ArrayLike<number>, at: number) => ({
      mode: 'rgb' as const,
      r: of[at] / 255,
      g: of[at + 1] / 255,
      b: of[at + 2] / 255
    });
    let [sum, count] = [0, 0];
    for (let i = 0; i < picture.w * picture.h; i += 7, count++)
      sum += difference(colour(picture.pixels, i * 4), colour(small, i * 3));
    expect(sum / count).toBeLessThan(0.5);
  });
});
