/** What draws the bench, and what may happen to it: the picture comes again, or it is said what is missing. */
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../../tools/open-browser.ts';
import { benchPage } from './bench-page.ts';
import { jobWithFrames } from './job-with-frames.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let url = '';
let nextUrl = '';

/** All pixels of the sheet, without loss. */
const pixels = (page: Page): Promise<string> =>
  page.$eval('[data-testid=picture]', (canvas) => (canvas as HTMLCanvasElement).toDataURL());
const drawn = (page: Page): Promise<number> =>
  page.$eval('[data-testid=picture]', (canvas) => Number((canvas as HTMLElement).dataset.drawn));
const isDrawnAgain = (page: Page, after: number): Promise<unknown> =>
  page.waitForFunction(
    (after) => Number(document.querySelector<HTMLElement>('[data-testid=picture]')!.dataset.drawn) > after,
    { timeout: 30000 },
    after
  );

async function openBench(prepare?: (page: Page) => Promise<unknown>): Promise<Page> {
  const page = await browser.newPage();
  await prepare?.(page);
  await page.goto(url, { waitUntil: 'networkidle2' });
  return page;
}

beforeAll(async () => {
  app = await startApp(newDataFolder());
  browser = await openBrowser();
  const page = await browser.newPage();
  const names = ['SML_0101.dng', 'CPR_0003.dng'];
  const { ids } = await jobWithFrames(page, app.address, 'Preview', names);
  url = `${app.address}/frames/${ids['SML_0101.dng']}`;
  nextUrl = ids['CPR_0003.dng'];
  await page.close();
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

describe('the preview', () => {
  it('draws the same with one worker, where pages may share no memory, as with one for each core', async () => {
    const page = await openBench();
    await benchPage(page).settled();
    const cores = await page.evaluate(() => navigator.hardwareConcurrency);
    expect(page.workers()).toHaveLength(Math.min(8, cores));
    const shared = await pixels(page);
    await page.close();
    const alone = await openBench((fresh) =>
      fresh.evaluateOnNewDocument(() =>
        Object.defineProperty(globalThis, 'crossOriginIsolated', { get: () => false })
      )
    );
    await benchPage(alone).settled();
    expect(alone.workers()).toHaveLength(1);
    expect(await pixels(alone)).toBe(shared);
    // 1:1 as well, which needs full-size pixels.
    await alone.keyboard.press('f');
    await benchPage(alone).settled();
    expect(await pixels(alone)).not.toBe(shared);
    await alone.close();
  });

  it('comes again when a worker breaks down, or is gone without a word', async () => {
    const page = await openBench();
    await benchPage(page).settled();
    const before = await pixels(page);
    const count = await drawn(page);
    const [first] = page.workers();
    await first.evaluate(() => {
      setTimeout(() => {
        throw new Error('Broken on purpose.');
      }, 0);
    });
    await isDrawnAgain(page, count);
    await benchPage(page).settled();
    expect(await pixels(page)).toBe(before);
    // One that ends says nothing: it is missed when it does not answer.
    for (const worker of page.workers()) await worker.evaluate(() => self.close()).catch(() => {});
    const known = await drawn(page);
    await page.keyboard.down('q');
    await isDrawnAgain(page, known);
    await page.keyboard.up('q');
    await benchPage(page).settled();
    expect(await pixels(page)).toBe(before);
    await page.close();
  });

  it('keeps its workers for the next frame', async () => {
    const page = await openBench();
    await benchPage(page).settled();
    const [worker] = page.workers();
    await page.keyboard.press('a');
    await page.waitForFunction((id) => location.pathname.endsWith(id), {}, nextUrl);
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 30000 });
    await benchPage(page).settled();
    expect(page.workers()).toContain(worker);
    await page.close();
  });

  it('says so where there is no memory, and the rest of the bench works', async () => {
    const page = await openBench((fresh) =>
      fresh.evaluateOnNewDocument(() => {
        WebAssembly.Memory = function () {
          throw new RangeError('could not allocate memory');
        } as unknown as typeof WebAssembly.Memory;
      })
    );
    await page.waitForFunction(() =>
      document
        .querySelector('[aria-label=Picture] [role=status].note')
        ?.textContent?.includes('no memory for pictures')
    );
    await page.keyboard.press('3');
    await page.waitForFunction(() =>
      document.querySelector('[aria-current=step]')?.textContent?.includes('Crop')
    );
    await page.close();
  });
});
