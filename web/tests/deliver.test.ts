/** Ratios, crops, a deliverable and a delivery through the real interface; the ZIP is opened and checked. */
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { Browser, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { jobWithFrames } from './job-with-frames.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let page: Page;
let bench: BenchPage;
let data = '';
let jobId = '';
let ids: Record<string, string> = {};
const NAMES = ['SML_0101.dng', 'CPR_0003.dng'];

const cropOf = async (name: string): Promise<Recipe['crop']> => {
  const { frame } = (await (await fetch(`${app.address}/api/frames/${ids[name]}`)).json()) as {
    frame: { recipe: Recipe };
  };
  return frame.recipe.crop;
};
const box = (): Promise<{ left: number; top: number; width: number; height: number }> =>
  page.$eval('[data-testid=picture]', (canvas) => {
    const own = canvas.getBoundingClientRect();
    const crop = JSON.parse((canvas as HTMLElement).dataset.crop!) as {
      left: number;
      top: number;
      width: number;
      height: number;
    };
    return { ...crop, left: crop.left + own.left, top: crop.top + own.top };
  });
async function drag(from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 3 });
  await page.mouse.move(...to, { steps: 3 });
  await page.mouse.up();
  await bench.saved();
}
const fill = async (label: string, text: string): Promise<void> => {
  const [field] = await page.$$(`::-p-xpath(//label[contains(normalize-space(), "${label}")]//input)`);
  await field.click({ count: 3 });
  await page.keyboard.type(text);
};

beforeAll(async () => {
  data = newDataFolder();
  app = await startApp(data);
  browser = await openBrowser();
  page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  bench = benchPage(page);
  ({ jobId, ids } = await jobWithFrames(page, app.address, 'Deliver', NAMES));
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

describe('the crop in every ratio', () => {
  it('is shown side by side, follows the composition, and stays where it was changed alone', async () => {
    await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
    await page.keyboard.press('3');
    await page.waitForFunction(() => document.querySelectorAll('.pick canvas[data-drawn]').length === 4, {
      timeout: 30000
    });
    // Live: each shows the frame, not an empty square.
    const lit = await page.$$eval('.pick canvas', (all) =>
      all.map((canvas) => {
        const c = canvas as HTMLCanvasElement;
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        return { ratio: c.width / c.height, mean: data.reduce((sum, value) => sum + value, 0) / data.length };
      })
    );
    for (const { mean } of lit) expect(mean).toBeGreaterThan(90);
    expect(lit[1].ratio).toBeCloseTo(4 / 3, 1);
    expect(lit[2].ratio).toBeCloseTo(16 / 9, 1);

    await page.locator('::-p-xpath(//button[contains(@class,"pick")][contains(., "4:3")])').click();
    await bench.settled();
    const before = await box();
    // Smaller, from its lower right handle: the composition of all.
    await drag(
      [before.left + before.width, before.top + before.height],
      [before.left + before.width * 0.7, before.top + before.height * 0.7]
    );
    const composed = (await cropOf('SML_0101.dng')).rectangle!;
    expect(composed.width / composed.height).toBeCloseTo(4 / 3, 4);
    await page.locator('::-p-xpath(//button[contains(@class,"pick")][contains(., "16:9")])').click();
    await page.locator('::-p-xpath(//label[contains(., "this ratio alone")]/input)').click();
    const wide = await box();
    await drag(
      [wide.left + wide.width / 2, wide.top + wide.height / 2],
      [wide.left + wide.width / 2 + 40, wide.top + wide.height / 2 + 20]
    );
    const crop = await cropOf('SML_0101.dng');
    expect(crop.rectangle).toEqual(composed);
    expect(Object.keys(crop.own)).toEqual(['16:9']);
    expect(await bench.reading('cover')).toBe('100 %');
    // Nudged from the keyboard by ten pixels of the output.
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.up('Shift');
    await bench.saved();
    const nudged = (await cropOf('SML_0101.dng')).own['16:9'];
    const [width] = (await bench.reading('output')).split(' × ').map(Number);
    expect((crop.own['16:9'].x - nudged.x) / (nudged.width / width)).toBeCloseTo(10, 1);
  });

  it('turns by a drag outside, takes a ratio of one’s own and an exact size, and keeps the list for the job', async () => {
    const crop = await box();
    await drag(
      [crop.left + crop.width + 40, crop.top + crop.height / 2],
      [crop.left + crop.width + 40, crop.top + crop.height / 2 + 30]
    );
    const { frame } = (await (await fetch(`${app.address}/api/frames/${ids['SML_0101.dng']}`)).json()) as {
      frame: { recipe: Recipe };
    };
    expect(frame.recipe.lines.roll).toBeGreaterThan(1);
    expect(await bench.reading('cover')).toBe('100 %');
    await bench.press('Undo');
    const type = async (text: string): Promise<void> => {
      await page.locator('[aria-label="Ratio or size"]').click({ count: 3 });
      await page.keyboard.type(text);
      await page.keyboard.press('Enter');
    };
    await type('wide');
    await page.waitForFunction(() =>
      /Write a ratio as 7:5/.test(document.querySelector('.said')!.textContent!)
    );
    await type('600x315');
    await page.waitForFunction(() => document.querySelectorAll('.pick').length === 5);
    await bench.saved();
    expect(await bench.reading('output')).toBe('600 × 315');
    // What it measures on paper follows the resolution it is printed at.
    expect(await bench.text('[data-testid=printed]')).toContain('5.1 × 2.7 cm, 2.0 × 1.1 in');
    await page.locator('[aria-label="Resolution for the printed size"]').click({ count: 3 });
    await page.keyboard.type('150');
    await page.keyboard.press('Tab');
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=printed]')!.textContent!.includes('10.2 × 5.3 cm, 4.0 × 2.1 in')
    );
    const { job } = (await (await fetch(`${app.address}/api/jobs/${jobId}`)).json()) as {
      job: { ratios: string[] };
    };
    expect(job.ratios).toEqual(['original', '4:3', '16:9', '4:5', '600x315']);
  });
});

describe('a delivery', () => {
  it('is made from a deliverable of one’s own, and comes as a ZIP that holds what its manifest says', async () => {
    await page.goto(`${app.address}/deliverables?job=${jobId}`, { waitUntil: 'networkidle2' });
    await bench.press('New');
    await page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('fieldset input')?.value === 'New deliverable'
    );
    await fill('Name', 'Small 4x3');
    await fill('Ratio', '4:3');
    await page.select('::-p-xpath(//label[contains(normalize-space(), "Size")]//select)', 'long');
    await fill('Edge', '640');
    await fill('Largest file', '70');
    await fill('File name', '{room}-{number}-{ratio}');
    expect(await bench.text('.example .mono')).toBe('West-front-0101-4x3.jpg');
    await bench.press('Save');
    await page.waitForFunction(() => document.querySelector('.foot [role=status]')?.textContent === 'Saved.');

    await page.goto(`${app.address}/jobs/${jobId}/deliver`, { waitUntil: 'networkidle2' });
    // The page loads anew for the first room while the second one is typed.
    await page.emulateNetworkConditions({ latency: 300, download: 1e7, upload: 1e7 });
    for (const [name, room] of [
      ['SML_0101.dng', 'Front'],
      ['CPR_0003.dng', 'Street']
    ]) {
      await page.locator(`[aria-label="Room of ${name}"]`).click();
      await page.keyboard.type(room, { delay: 200 });
      await page.keyboard.press('Tab');
    }
    await page.emulateNetworkConditions(null);
    await page.locator('[aria-label="All frames as Small 4x3"]').click();
    // What a client would see lean is named.
    await page.waitForSelector('[data-testid=not-true]');
    expect(await bench.text('[data-testid=not-true]')).toMatch(/CPR_0003\.dng leans by 3\.\d°/);
    await page.locator('[aria-label="SML_0101.dng as Banner 16x9"]').click();
    await page.waitForFunction(() =>
      /first Street-0003-4x3.jpg/.test(document.querySelector('.foot')!.textContent!.replace(/\s+/g, ' '))
    );
    await bench.press('Deliver 3');
    await page.waitForFunction(
      () => document.querySelector('[data-testid=delivery-state]')?.textContent?.includes('3 of 3 done'),
      { timeout: 90000 }
    );
    const [delivery] = (await (await fetch(`${app.address}/api/jobs/${jobId}/deliveries`)).json()) as {
      id: string;
    }[];
    const address = await page.$eval(
      '::-p-xpath(//a[contains(., "All as ZIP")])',
      (a) => (a as HTMLAnchorElement).href
    );
    expect(address).toBe(`${app.address}/api/deliveries/${delivery.id}/zip`);
    const files = unzipSync(new Uint8Array(await (await fetch(address)).arrayBuffer()));
    expect(Object.keys(files).sort()).toEqual(
      [
        'Deliver-SML_0101-Banner-16x9.jpg',
        'Front-0101-4x3.jpg',
        'Street-0003-4x3.jpg',
        'manifest.csv',
        'manifest.json',
        'report.pdf'
      ].sort()
    );
    const manifest = JSON.parse(Buffer.from(files['manifest.json']).toString()) as {
      files: { file: string; sha256: string; width: number; height: number; bytes: number }[];
    };
    expect(manifest.files).toHaveLength(3);
    for (const { file, sha256, width, height, bytes } of manifest.files) {
      expect(createHash('sha256').update(files[file]).digest('hex')).toBe(sha256);
      expect(files[file].length).toBe(bytes);
      expect(await sharp(files[file]).metadata()).toMatchObject({ width, height });
    }
    expect(files['Front-0101-4x3.jpg'].length).toBeLessThanOrEqual(70_000);
    const { width, height } = await sharp(files['Front-0101-4x3.jpg']).metadata();
    expect([width, height]).toEqual([640, 480]);
    // Looked at beside the frame as shot.
    await page.locator('[aria-label="Look at Front-0101-4x3.jpg"]').click();
    await page.waitForFunction(
      () =>
        [...document.querySelectorAll<HTMLImageElement>('.beside img')].filter((i) => i.naturalWidth > 300)
          .length === 2
    );
  });

  it('trues up what is not true yet, there and then', async () => {
    await page.goto(`${app.address}/jobs/${jobId}/deliver`, { waitUntil: 'networkidle2' });
    expect(await page.$('[data-testid=not-true]')).toBeNull();
    await page.locator('[aria-label="All of CPR_0003.dng"]').click();
    await page.waitForSelector('[data-testid=not-true]');
    await bench.press('True up these');
    await page.waitForFunction(
      () =>
        document.body.textContent!.includes('1 trued up.') &&
        document.querySelector('[data-testid=not-true]') === null,
      { timeout: 60000 }
    );
  });

  it('ends with every file once and whole when the server is killed in the middle and started again', async () => {
    const call = (path: string, body?: unknown): Promise<Response> =>
      fetch(`${app.address}/api${path}`, {
        ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
        headers: { 'content-type': 'application/json' }
      });
    interface Row {
      id: string;
      document: { name: string };
    }
    const known = (await (await call('/deliverables')).json()) as Row[];
    const picks = known
      .filter(({ document }) => /^(Feed|Banner|Print|Architect)/.test(document.name))
      .flatMap(({ id }) => NAMES.map((name) => [ids[name], id]));
    expect(picks).toHaveLength(8);
    interface Item {
      state: string;
      placed: string;
      sha256: string;
      progress: number;
    }
    let id = '';
    const items = async (): Promise<Item[]> =>
      ((await (await call(`/deliveries/${id}`)).json()) as { items: Item[] }).items;
    const until = async (check: (all: Item[]) => boolean): Promise<Item[]> => {
      for (const deadline = Date.now() + 120_000; ;) {
        const all = await items();
        if (check(all)) return all;
        if (Date.now() > deadline) throw new Error(JSON.stringify(all));
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    };
    const allDone = (all: Item[]): boolean => all.every(({ state }) => state === 'done');
    // Far enough to have a name, and not so far that it may be done before the server is dead.
    const isUnderWay = ({ state, progress, placed }: Item): boolean =>
      state === 'running' && placed !== null && progress > 0.2 && progress < 0.6;
    const folders = join(data, 'deliveries');
    const [folder] = readdirSync(folders)
      .filter((name) => !name.startsWith('.'))
      .map((name) => join(folders, name));
    const deliverAndKill = async (): Promise<{ before: Item[]; running: Item | undefined }> => {
      ({ id } = (await (await call(`/jobs/${jobId}/deliveries`, { picks })).json()) as { id: string });
      const before = await until((all) => all.some(({ state }) => state === 'done') && all.some(isUnderWay));
      await app.kill();
      const there = readdirSync(folder);
      const running = before.find(
        ({ state, placed }) => state === 'running' && placed && !there.includes(placed)
      );
      return { before, running };
    };
    const others = ['Deliver-SML_0101-Banner-16x9.jpg', 'Front-0101-4x3.jpg', 'Street-0003-4x3.jpg'];
    let { before, running } = await deliverAndKill();
    // What ran may have been finished between the question and the kill.
    for (let tries = 0; !running && tries < 4; tries++) {
      app = await startApp(data);
      others.push(...(await until(allDone)).map(({ placed }) => placed));
      ({ before, running } = await deliverAndKill());
    }
    // What was half written when the server died lies in no client's folder.
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
    // What a file looks like whose writing was broken off.
    writeFileSync(join(folder, `${running!.placed}.1-1.part`), 'half');
    app = await startApp(data);
    const after = await until(allDone);
    const placed = after.map((item) => item.placed);
    expect(new Set(placed).size).toBe(8);
    const there = readdirSync(folder);
    expect(there.filter((name) => name.endsWith('.part'))).toEqual([]);
    for (const { placed: name, sha256 } of after)
      expect(
        createHash('sha256')
          .update(readFileSync(join(folder, name)))
          .digest('hex')
      ).toBe(sha256);
    // Neither a second copy under another name, nor a file of which nobody knows.
    const earlier = there.filter((name) => !placed.includes(name));
    expect(earlier.sort()).toEqual(others.sort());
    for (const { state, sha256, placed: name } of before)
      if (state === 'done') expect(after.find((item) => item.placed === name)!.sha256).toBe(sha256);
  });
});
