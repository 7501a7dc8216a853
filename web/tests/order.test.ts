/** Keeping a job in order: frames dragged, by mouse and by key, rooms and brackets together. */
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type BenchPage, benchPage } from './bench-page.ts';
import { jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let jobId = '';
const NAMES = ['CPR_0003.dng', 'CPR_0014.dng', 'SML_0101.dng', 'SML_0130.dng'];

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  ({ jobId } = await jobWithFrames(page, app.address, 'In order', NAMES));
});
afterAll(() => app?.close());

const shown = (): Promise<string> =>
  page.$$eval('.frame strong', (all) => all.map((each) => each.textContent!.slice(0, 8)).join(' '));
const becomes = (names: string): Promise<unknown> =>
  page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll('.frame strong')]
        .map((each) => each.textContent!.slice(0, 8))
        .join(' ') === wanted,
    {},
    names
  );
const kept = async (): Promise<string> => {
  const { frames } = (await (await fetch(`${app.address}/api/jobs/${jobId}`)).json()) as {
    frames: { name: string }[];
  };
  return frames.map(({ name }) => name.slice(0, 8)).join(' ');
};
const boxOf = async (name: string): Promise<{ x: number; y: number; width: number; height: number }> =>
  (await (await page.$(
    `::-p-xpath(//li[contains(@class, "frame")][contains(., "${name}")])`
  ))!.boundingBox())!;
/** Drags a frame onto the left or right part of another. */
async function drag(name: string, onto: string, part: number): Promise<void> {
  const [from, to] = [await boxOf(name), await boxOf(onto)];
  await page.mouse.move(from.x + from.width / 2, from.y + 100);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width / 2 + 12, from.y + 110, { steps: 3 });
  await page.mouse.move(to.x + to.width * part, to.y + 100, { steps: 8 });
  await page.waitForSelector('[data-testid=comes-here]');
  await page.mouse.up();
}

describe('the order of frames', () => {
  it('is that in which they are dragged, and is kept, also for the bench', async () => {
    expect(await shown()).toBe('CPR_0003 CPR_0014 SML_0101 SML_0130');
    await drag('SML_0130', 'CPR_0014', 0.2);
    await becomes('CPR_0003 SML_0130 CPR_0014 SML_0101');
    expect(await kept()).toBe('CPR_0003 SML_0130 CPR_0014 SML_0101');
    await drag('CPR_0003', 'CPR_0014', 0.8);
    await becomes('SML_0130 CPR_0014 CPR_0003 SML_0101');
    await page.reload();
    await becomes('SML_0130 CPR_0014 CPR_0003 SML_0101');
    expect(await page.$eval('[aria-label="Order"]', (select) => (select as HTMLSelectElement).value)).toBe(
      'hand'
    );
    // Dragged frames are no files: nothing is added.
    expect(await page.$('[aria-label="Files being added"]')).toBeNull();
  });

  it('takes all that are selected along, and is undone', async () => {
    await page.locator('[aria-label="Select SML_0130.dng"]').click();
    await page.locator('[aria-label="Select CPR_0003.dng"]').click();
    await drag('CPR_0003', 'SML_0101', 0.8);
    await becomes('CPR_0014 SML_0101 SML_0130 CPR_0003');
    await page
      .locator(
        '::-p-xpath((//*[contains(., "2 frames have another place")]//button[normalize-space()="Undo"])[last()])'
      )
      .click();
    await becomes('SML_0130 CPR_0014 CPR_0003 SML_0101');
    await page.locator('[aria-label="Select SML_0130.dng"]').click();
    await page.locator('[aria-label="Select CPR_0003.dng"]').click();
  });

  it('is changed by keys for the frame in hand', async () => {
    await page.focus('[aria-label="Open CPR_0014.dng"]');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
    await becomes('SML_0130 CPR_0003 CPR_0014 SML_0101');
    expect(await kept()).toBe('SML_0130 CPR_0003 CPR_0014 SML_0101');
  });

  it('brings rooms together, each under its name', async () => {
    const { frames } = (await (await fetch(`${app.address}/api/jobs/${jobId}`)).json()) as {
      frames: { id: string; name: string }[];
    };
    const ids = frames.filter(({ name }) => /0130|0003/.test(name)).map(({ id }) => id);
    await fetch(`${app.address}/api/jobs/${jobId}/frames`, {
      method: 'PATCH',
      body: JSON.stringify({ ids, room: 'Hall' }),
      headers: { 'content-type': 'application/json' }
    });
    await page.select('[aria-label="Order"]', 'room');
    await page.waitForSelector('::-p-xpath(//h2[normalize-space()="Hall"])');
    const texts = await page.$$eval('main h2, .frame strong', (all) =>
      all.map((each) => each.textContent!.trim().slice(0, 8))
    );
    expect(texts[0]).toBe('Hall');
    expect(texts.slice(1, 3).sort()).toEqual(['CPR_0003', 'SML_0130']);
    expect(texts[3]).toBe('No room ');
    expect(await bench.text('main')).toContain('No room named');
  });
});
