/** A whole job from files dropped to ZIP, as a new user does it: by the mouse alone, and by the keyboard alone. */
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import type { FrameRow } from '../../server/frames/frame-row.ts';
import { chooseFiles } from './choose-files.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

const NAMES = ['SML_0101.dng', 'SML_0130.dng', 'CPR_0014.dng'];
let app: SharedApp;
let page: Page;
let paths: string[];
/** How often each hand was used. */
interface Used {
  mouse: number;
  keys: number;
}

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  paths = NAMES.map((name) => join(inject('photographs'), name));
  await page.evaluateOnNewDocument(() => {
    const count = (name: 'mouse' | 'keys') => (): void => {
      const kept = JSON.parse(sessionStorage.getItem('used') ?? '{"mouse":0,"keys":0}') as Record<
        string,
        number
      >;
      kept[name]++;
      sessionStorage.setItem('used', JSON.stringify(kept));
    };
    addEventListener('pointerdown', count('mouse'), true);
    addEventListener('keydown', count('keys'), true);
  });
});
afterAll(() => app?.close());

async function begin(): Promise<void> {
  await page.goto(app.address, { waitUntil: 'networkidle2' });
  await page.evaluate(() => sessionStorage.removeItem('used'));
}
const hands = (): Promise<Used> =>
  page.evaluate(() => JSON.parse(sessionStorage.getItem('used') ?? '{"mouse":0,"keys":0}') as never);
const readyFrames = (): Promise<unknown> =>
  page.waitForFunction(
    (count) => document.querySelectorAll('.frame[data-state=ready] img').length === count,
    { timeout: 90_000 },
    NAMES.length
  );
const jobOf = (): string => /jobs\/([^/]+)/.exec(page.url())![1];
/** What the ZIP holds that stands behind the link in hand, and what became of the frames. */
async function checkZip(link: ElementHandle): Promise<void> {
  const address = await link.evaluate((a) => (a as HTMLAnchorElement).href);
  await page.waitForFunction(
    (count) => document.body.innerText.includes(`${count} of ${count} done`),
    { timeout: 120_000 },
    NAMES.length
  );
  const zip = unzipSync(new Uint8Array(await (await fetch(address)).arrayBuffer()));
  expect(Object.keys(zip).filter((name) => name.endsWith('.jpg'))).toHaveLength(NAMES.length);
  expect(Object.keys(zip)).toEqual(expect.arrayContaining(['manifest.csv', 'report.pdf']));
  const { frames } = (await (await fetch(`${app.address}/api/jobs/${jobOf()}`)).json()) as {
    frames: FrameRow[];
  };
  for (const { name, recipe } of frames) {
    expect(recipe.lines?.pitch, name).toBeDefined();
    expect(recipe.tone, name).toBeDefined();
    expect(Boolean(recipe.lens?.solved), name).toBe(name === 'CPR_0014.dng');
  }
}

it('by the mouse alone', async () => {
  // Waits until it is there, rests and is not disabled.
  const press = (path: string): Promise<void> =>
    page.locator(`::-p-xpath(${path})`).setTimeout(60_000).click();
  await begin();
  const hand = await page.createCDPSession();
  const data = { items: [], files: paths, dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const)
    await hand.send('Input.dispatchDragEvent', { type, x: 640, y: 600, data });
  await press('//button[normalize-space()="Make the job"]');
  await page.waitForFunction(() => location.pathname.startsWith('/jobs/'));
  await readyFrames();
  await press('//label[contains(., "Select all")]');
  await press('//button[normalize-space()="Prepare…"]');
  await press('//dialog[@open]//button[normalize-space()="Prepare 3"]');
  await page.waitForSelector('::-p-xpath(//*[contains(text(), "3 frames prepared")])', { timeout: 120_000 });
  const done = await page.$('::-p-xpath(//dialog[@open]//button[normalize-space()="Done"])');
  await done?.click();
  await page.waitForFunction(() => !document.querySelector('dialog[open]'));
  await press('//a[normalize-space()="Deliver"]');
  await page.waitForFunction(() => location.pathname.endsWith('/deliver'));
  await press('(//section[@aria-label="What is delivered"]//thead//input[@type="checkbox"])[1]');
  await press('//button[normalize-space()="Deliver 3"]');
  const link = await page.waitForSelector('::-p-xpath(//a[normalize-space()="All as ZIP"])', {
    timeout: 120_000
  });
  await checkZip(link!);
  const { mouse, keys } = await hands();
  expect(keys).toBe(0);
  expect(mouse).toBeLessThanOrEqual(9);
});

it('by the keyboard alone', async () => {
  /** Walks to what has a name, as who has no mouse does; it says where it is when it never comes there. */
  async function walk(to: string): Promise<void> {
    for (let steps = 0; steps < 150; steps++) {
      await page.keyboard.press('Tab');
      const at = await page.evaluate((wanted) => {
        const here = document.activeElement as HTMLElement | null;
        const label = here?.closest('label')?.textContent ?? '';
        const names = [here?.textContent, here?.getAttribute('aria-label'), label].map(
          (text) => text?.trim() ?? ''
        );
        const shown = here
          ? getComputedStyle(here).outlineStyle !== 'none' || here.matches(':focus-visible')
          : false;
        return names.includes(wanted) && shown;
      }, to);
      if (at) return;
    }
    throw new Error(`The keyboard never comes to "${to}".`);
  }
  await begin();
  await walk('New job');
  await page.keyboard.press('Enter');
  await page.waitForSelector('dialog[open] input');
  await page.keyboard.type('By keys');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname.startsWith('/jobs/'));
  await walk('Add frames');
  await chooseFiles(page, () => page.keyboard.press('Enter'), paths);
  await readyFrames();
  await walk('Select all');
  await page.keyboard.press('Space');
  await walk('Prepare…');
  await page.keyboard.press('Enter');
  await page.waitForSelector('dialog[open]');
  await walk('Prepare 3');
  await page.keyboard.press('Enter');
  await page.waitForSelector('::-p-xpath(//*[contains(text(), "3 frames prepared")])', { timeout: 120_000 });
  if (await page.$('dialog[open]')) await page.keyboard.press('Escape');
  await page.waitForFunction(() => !document.querySelector('dialog[open]'));
  await walk('Deliver');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname.endsWith('/deliver'));
  await page.waitForNetworkIdle({ concurrency: 2 });
  await walk('All frames as Listing 4x3');
  await page.keyboard.press('Space');
  await page.waitForSelector('::-p-xpath(//button[normalize-space()="Deliver 3"])');
  await walk('Deliver 3');
  await page.keyboard.press('Enter');
  await page.waitForSelector('::-p-xpath(//a[normalize-space()="All as ZIP"])', { timeout: 120_000 });
  await walk('All as ZIP');
  await checkZip((await page.$(':focus'))!);
  const { mouse, keys } = await hands();
  expect(mouse).toBe(0);
  expect(keys).toBeGreaterThan(20);
});
