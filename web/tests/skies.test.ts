/** Another sky, and windows that are found, through the real interface: chosen, moved, taken in, undone, reloaded, exported. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AreasSettings } from '../../core/steps/areas/step.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { exportPicture } from './export-picture.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';
import { type SheetHand, sheetHand } from './sheet-hand.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let hand: SheetHand;
let ids: Record<string, string> = {};
const NAME = 'SML_0101.dng';
const KITCHEN = 'CPR_0014.dng';
let folder = '';

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'line-true-skies-'));
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  ({ ids } = await jobWithFrames(page, app.address, 'Skies', [NAME, KITCHEN]));
});
afterAll(() => app?.close());

const areas = async (name = NAME): Promise<AreasSettings> =>
  (await frameAt<{ recipe: { areas?: AreasSettings } }>(app.address, ids[name])).recipe.areas ?? {
    enabled: true,
    shapes: [],
    list: []
  };
const turnTo = (name: string): Promise<void> => page.locator(`[data-page=${name}]`).click();
const pictures = async () => {
  const { data, info } = await sharp((await exportPicture(app.address, ids[NAME])).bytes)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return (x: number, y: number): number[] => {
    const at = (Math.round(y * info.height) * info.width + Math.round(x * info.width)) * info.channels;
    return [...data.subarray(at, at + 3)];
  };
};
const chosenSky = (label: string): Promise<unknown> =>
  page.locator(`[data-testid=skies] ::-p-xpath(.//button[contains(normalize-space(), "${label}")])`).click();

describe('another sky on the bench', () => {
  it('is chosen among those that ship, behind the roof and nowhere else', async () => {
    await bench.open(`${app.address}/frames/${ids[NAME]}`);
    const plain = await pictures();
    await hand.key('6');
    await turnTo('sky');
    await chosenSky('First light');
    await bench.saved();
    await bench.settled();
    const { list, shapes } = await areas();
    expect(list).toHaveLength(1);
    expect(list[0].sky).toMatchObject({ picture: 'first-light', match: 100 });
    expect(shapes[0].parts).toMatchObject([{ kind: 'found', what: 'sky' }]);
    const composed = await pictures();
    const warmth = ([r, , b]: number[]): number => r / b;
    for (const x of [0.2, 0.5, 0.8]) {
      expect(warmth(composed(x, 0.2))).toBeGreaterThan(1.25 * warmth(plain(x, 0.2)));
      const [was, is] = [plain(x, 0.93), composed(x, 0.93)];
      was.forEach((value, c) => expect(Math.abs(value - is[c])).toBeLessThanOrEqual(2));
    }
  });

  it('moves with its controls, goes with Undo, and is there after a reload', async () => {
    await hand.set('Up', 20);
    await hand.set('Turn', -3);
    await bench.saved();
    expect((await areas()).list[0].sky).toMatchObject({ up: 20, turn: -3 });
    await bench.press('Undo');
    await bench.saved();
    expect((await areas()).list[0].sky).toMatchObject({ up: 20, turn: 0 });
    await bench.open(`${app.address}/frames/${ids[NAME]}`);
    await bench.settled();
    expect((await areas()).list[0].sky).toMatchObject({ picture: 'first-light', up: 20 });
  });

  it('may be a picture of one’s own, once it is whole', async () => {
    const [whole, small] = ['whole.png', 'small.png'].map((name) => join(folder, name));
    const flat = (width: number): Promise<Buffer> =>
      sharp({ create: { width, height: width, channels: 3, background: { r: 40, g: 160, b: 90 } } })
        .png()
        .toBuffer();
    writeFileSync(whole, await flat(700));
    writeFileSync(small, await flat(100));
    await hand.key('6');
    await hand.key('.');
    await turnTo('sky');
    const chooser = (await page.waitForSelector(
      'input[aria-label="Take a picture of a sky"]'
    )) as ElementHandle<HTMLInputElement>;
    await chooser.uploadFile(small);
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=skies]')?.textContent?.includes('needs 400')
    );
    expect((await areas()).list[0].sky?.picture).toBe('first-light');
    await chooser.uploadFile(whole);
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=skies]')?.textContent?.includes('taken in')
    );
    await hand.set('Match', 0);
    await bench.saved();
    await bench.settled();
    expect((await areas()).list[0].sky?.picture).toMatch(/^[0-9a-f-]{36}$/);
    const [r, g, b] = (await pictures())(0.5, 0.15);
    expect(g).toBeGreaterThan(1.5 * r);
    expect(g).toBeGreaterThan(1.2 * b);
  });
});

describe('windows that are found', () => {
  it('are pulled down, and the room stays as it was', async () => {
    const before = await sharp((await exportPicture(app.address, ids[KITCHEN])).bytes)
      .raw()
      .toBuffer({ resolveWithObject: true });
    await bench.open(`${app.address}/frames/${ids[KITCHEN]}`);
    await hand.key('6');
    await turnTo('shape');
    await page.select('select[aria-label="Add"]', 'Windows');
    await turnTo('light');
    await hand.set('Exposure', -1.5);
    await bench.saved();
    await bench.settled();
    const after = await sharp((await exportPicture(app.address, ids[KITCHEN])).bytes)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { width, height, channels } = after.info;
    let [changed, left, right] = [0, width, 0];
    for (let i = 0; i < width * height; i++) {
      if (after.data[i * channels + 1] > before.data[i * channels + 1] - 12) continue;
      changed++;
      left = Math.min(left, i % width);
      right = Math.max(right, i % width);
    }
    // One window, in the middle of the far wall.
    expect(changed / (width * height)).toBeGreaterThan(0.004);
    expect(changed / (width * height)).toBeLessThan(0.03);
    expect(left / width).toBeGreaterThan(0.3);
    expect(right / width).toBeLessThan(0.7);
  });

  it('and a front is none where Lines has no marks, which is said', async () => {
    const frame = await frameAt<{ recipe: { lines?: { marks?: unknown[] } } }>(app.address, ids[KITCHEN]);
    expect(frame.recipe.lines?.marks ?? []).toEqual([]);
    const { shapes } = await areas(KITCHEN);
    await turnTo('shape');
    await page.select('select[aria-label="Add"]', 'Front');
    await page.waitForFunction(() => document.body.textContent?.includes('true it up there first'));
    expect((await areas(KITCHEN)).shapes).toEqual(shapes);
  });
});
