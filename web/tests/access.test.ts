/** Hands on the keyboard, assistive access, zoom, and sets of frames, through the real interface. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { KeyInput, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { projectPoint } from '../../scenes/camera/capture.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { latestPicture } from './export-picture.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const NAMES = ['SML_0101.dng', 'SML_0130.dng', 'CPR_0003.dng'];
let app: SharedApp;
let page: Page;
let bench: BenchPage;
let jobId = '';
let ids: Record<string, string> = {};
const recipeOf = async (name: string): Promise<Recipe> =>
  (await frameAt<{ recipe: Recipe }>(app.address, ids[name])).recipe;

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  ({ jobId, ids } = await jobWithFrames(page, app.address, 'Access', NAMES));
});
afterAll(() => app?.close());

const SIZES = 'target-size';
const COLOURS = 'color-contrast';

/** What an automatic check finds that keeps people out: by all of its rules, or by some. */
async function serious(rules: { only?: string; without?: string } = {}): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(
    async ({ only, without }, sizes) => {
      const { axe } = window as unknown as {
        axe: {
          run(
            context: Document,
            options: object
          ): Promise<{ violations: { impact: string; id: string; nodes: { html: string }[] }[] }>;
        };
      };
      const { violations } = await axe.run(document, {
        resultTypes: ['violations'],
        ...(only ? { runOnly: [only] } : { rules: { [sizes]: { enabled: without !== sizes } } })
      });
      return violations
        .filter(({ impact }) => impact === 'serious' || impact === 'critical')
        .map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`);
    },
    rules,
    SIZES
  );
}

describe('an automatic check of access', () => {
  const look = async (theme: string): Promise<void> => {
    await app.context.setCookie({ name: 'view', value: `${theme}.grey`, domain: '127.0.0.1', path: '/' });
  };
  it.each(['light', 'dim'])('finds nothing serious on any view, %s', async (theme) => {
    await look(theme);
    // Themes differ by their colours alone.
    const rules = theme === 'dim' ? { only: COLOURS } : {};
    for (const path of ['/', `/jobs/${jobId}`, `/jobs/${jobId}/deliver`, '/deliverables', '/lenses']) {
      await page.goto(app.address + path, { waitUntil: 'networkidle2' });
      expect(await page.$eval('html', (html) => html.dataset.theme)).toBe(theme);
      expect(await serious(rules), path).toEqual([]);
    }
    for (const deck of ['below', 'beside']) {
      await page.evaluate((deck) => localStorage.setItem('bench-room', JSON.stringify({ deck })), deck);
      await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
      for (const key of deck === 'below'
        ? ['1', '2', '3', '4', '5', '6', '7', '/']
        : ['1', '2', '3', '4', '5', '6', '7', 'y']) {
        await page.keyboard.press(key as '1');
        await new Promise((done) => setTimeout(done, 400));
        // A panel that lies over others leaves less of them to press.
        expect(
          await serious(key === 'y' ? { without: SIZES, ...rules } : rules),
          `bench, deck ${deck}, ${key}`
        ).toEqual([]);
      }
      await page.keyboard.press('Escape');
    }
    await page.evaluate(() => localStorage.removeItem('bench-room'));
    await look('light');
  });
});

describe('zoom', () => {
  it('keeps what is under the pointer within a pixel, from fit to 800 % and back, at twenty places', async () => {
    await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
    await bench.settled();
    const viewOf = async (): Promise<{ left: number; top: number; pixel: number }> =>
      JSON.parse(await page.$eval('[data-testid=picture]', (e) => (e as HTMLElement).dataset.view!)) as never;
    const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
    const crop = await bench.crop();
    for (let i = 0; i < 20; i++) {
      const x = Math.round(crop.left + crop.width * (0.06 + (0.88 * ((i * 7) % 20)) / 19));
      const y = Math.round(crop.top + crop.height * (0.06 + 0.88 * (i / 19)));
      await page.mouse.move(sheet.x + x, sheet.y + y);
      const fit = await viewOf();
      const under = [fit.left + x * fit.pixel, fit.top + y * fit.pixel];
      for (const turn of [-700, -700, -700, -900]) {
        await page.mouse.wheel({ deltaY: turn });
        const view = await viewOf();
        const off = Math.hypot(
          (under[0] - view.left) / view.pixel - x,
          (under[1] - view.top) / view.pixel - y
        );
        expect(off).toBeLessThan(1);
      }
      expect(parseFloat(await page.$eval('[data-testid=zoom]', (e) => (e as HTMLInputElement).value))).toBe(
        800
      );
      for (let back = 0; back < 8; back++) await page.mouse.wheel({ deltaY: 900 });
      expect((await viewOf()).pixel).toBeCloseTo(fit.pixel, 9);
      expect((await viewOf()).left).toBeCloseTo(fit.left, 9);
    }
  });

  it('shows enlarged pixels crisp, goes where it is typed to, and is taken along to the next frame', async () => {
    const zoom = (await page.$('[data-testid=zoom]'))!;
    await zoom.click({ count: 3 });
    await page.keyboard.type('400');
    await page.keyboard.press('Enter');
    await bench.settled();
    const drawn = await page.$eval('[data-testid=picture]', (e) => {
      const canvas = e as HTMLCanvasElement;
      const box = canvas.getBoundingClientRect();
      return { scale: box.width / canvas.width, rendering: getComputedStyle(canvas).imageRendering };
    });
    expect(drawn.scale).toBeCloseTo(4, 3);
    expect(drawn.rendering).toBe('pixelated');
    expect(await page.$('[data-testid=overview]')).not.toBeNull();
    const share = async (): Promise<number> => {
      const [view, crop] = await page.$eval('[data-testid=picture]', (e) => {
        const { dataset } = e as HTMLElement;
        return [JSON.parse(dataset.view!), JSON.parse(dataset.crop!)] as [
          unknown,
          { left: number; width: number }
        ];
      });
      expect(view).toBeTruthy();
      const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
      return (sheet.width / 2 - crop.left) / crop.width;
    };
    await page.keyboard.press('h');
    const before = await share();
    await page.keyboard.press('d');
    await page.waitForFunction((id) => location.pathname.endsWith(id), {}, ids['SML_0130.dng']);
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    await bench.settled();
    expect(await page.$eval('[data-testid=zoom]', (e) => (e as HTMLInputElement).value)).toBe('400 %');
    expect(await share()).toBeCloseTo(before, 2);
    await page.keyboard.press('0');
    expect(await page.$('[data-testid=overview]')).toBeNull();
  });
});

describe('what was in the way', () => {
  it('is gone: a slider keeps no shortcut for itself, and undo in the middle of a drag loses nothing', async () => {
    await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
    await bench.settled();
    const slider = (await page.$('[aria-label="Distortion slider"]'))!;
    const box = (await slider.boundingBox())!;
    const value = (): Promise<string> =>
      page.$eval('[aria-label="Distortion slider"]', (e) => (e as HTMLInputElement).value);
    const y = box.y + box.height / 2;
    await page.mouse.move(box.x + box.width * 0.6, y);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.4, y, { steps: 4 });
    await page.mouse.up();
    const first = await value();
    expect(first).not.toBe('100');
    // The slider has the focus, and shortcuts act all the same.
    await page.keyboard.press('g');
    expect(await page.$eval('::-p-xpath(//button[normalize-space()="Grid"])', (e) => e.ariaPressed)).toBe(
      'true'
    );
    await page.keyboard.press('g');
    await page.mouse.move(box.x + box.width * 0.4, y);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.2, y, { steps: 4 });
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    expect(await value()).toBe(first);
    await page.mouse.up();
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    expect(await value()).toBe('100');
    await bench.saved();
  });
});

describe('a frame with the keyboard alone', () => {
  it('is opened, trued up by two marks, cropped and delivered', async () => {
    await page.goto(`${app.address}/jobs/${jobId}`, { waitUntil: 'networkidle2' });
    const focus = async (check: string): Promise<void> => {
      for (let i = 0; i < 80; i++) {
        await page.keyboard.press('Tab');
        if (await page.evaluate((selector) => document.activeElement?.matches(selector) ?? false, check))
          return;
      }
      throw new Error(`Tab does not reach ${check}`);
    };
    await focus('a[aria-label="Open SML_0101.dng"]');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    await page.keyboard.press('2');
    await bench.settled();
    // Two lines are drawn by keys, and their ends moved onto the corners of the building.
    const setup = setupAt(DEMO_FRAMES[0], 1500);
    const corners = DEMO_FRAMES[0].scene().edges.filter(({ kind, b }) => kind === 'plumb' && b[1] === 8.2);
    const steps = async (count: number, key: KeyInput): Promise<void> => {
      await page.keyboard.down('Shift');
      for (let i = 0; i < Math.floor(count / 10); i++) await page.keyboard.press(key);
      await page.keyboard.up('Shift');
      for (let i = 0; i < count % 10; i++) await page.keyboard.press(key);
    };
    for (const { a, b } of corners) {
      await page.keyboard.press('p');
      await bench.saved();
      const { marks } = (await recipeOf('SML_0101.dng')).lines;
      const mark = marks[marks.length - 1];
      const half = Math.hypot(setup.size.width, setup.size.height) / 2;
      for (const [end, keys, point] of [
        ['a', ['Alt'], b],
        ['b', ['Control', 'Alt'], a]
      ] as const) {
        const [u, v] = mark[end];
        const from = await bench.screenOf(
          [u * half + setup.size.width / 2, v * half + setup.size.height / 2],
          setup
        );
        const to = await bench.screenOf(projectPoint(point, setup)!, setup);
        for (const key of keys) await page.keyboard.down(key);
        for (const [distance, forth, back] of [
          [to[0] - from[0], 'ArrowRight', 'ArrowLeft'],
          [to[1] - from[1], 'ArrowDown', 'ArrowUp']
        ] as const)
          await steps(Math.round(Math.abs(distance)), distance > 0 ? forth : back);
        for (const key of [...keys].reverse()) await page.keyboard.up(key);
      }
    }
    expect(parseFloat(await bench.reading('plumb'))).toBeGreaterThan(2);
    await page.keyboard.press('t');
    await bench.settled();
    expect(await bench.reading('plumb')).toBe('0.00°');
    await bench.saved();
    const { pitch } = (await recipeOf('SML_0101.dng')).lines;
    expect(Math.abs(pitch - setup.angles.pitch)).toBeLessThan(0.3);
    // Crop: a ratio by the box of commands would need none; its own controls are reached.
    await page.keyboard.press('3');
    await focus('button.pick:nth-of-type(1)');
    for (let i = 0; i < 12; i++) {
      if (await page.evaluate(() => document.activeElement?.textContent?.trim().startsWith('4:3') ?? false))
        break;
      await page.keyboard.press('Tab');
    }
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.keyboard.down('Alt');
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowLeft');
    await page.keyboard.up('Alt');
    await bench.saved();
    const { crop } = await recipeOf('SML_0101.dng');
    expect(crop.ratio).toBe('4:3');
    expect(crop.rectangle).not.toBeNull();
    // Chosen with one key, and exported through the box of commands.
    await page.keyboard.press('c');
    await page.keyboard.press('/');
    await page.waitForSelector('[aria-label=Command]');
    await page.keyboard.type('export this');
    await page.keyboard.press('Enter');
    await page.waitForSelector('form[aria-label="Export settings"]', { visible: true });
    for (let i = 0; i < 60; i++) {
      if (await page.evaluate(() => document.activeElement?.textContent?.trim() === 'Export picture')) break;
      await page.keyboard.press('Tab');
    }
    await page.keyboard.press('Enter');
    await page.waitForSelector('li[data-state=done]', { timeout: 60000 });
    const { bytes } = await latestPicture(app.address, ids['SML_0101.dng']);
    const { width, height } = await sharp(bytes).metadata();
    expect(Math.abs(height! - (width! * 3) / 4)).toBeLessThanOrEqual(0.5);
  });
});

describe('a set', () => {
  it('is sorted, filtered by what its frames are, named at once, and loses frames only after saying what is lost', async () => {
    await page.goto(`${app.address}/jobs/${jobId}`, { waitUntil: 'networkidle2' });
    const names = (): Promise<string[]> =>
      page.$$eval('.frame strong', (all) => all.map((e) => e.textContent!.trim()));
    await expect.poll(names).toEqual(['CPR_0003.dng', 'SML_0101.dng', 'SML_0130.dng']);
    // One key for the frame under the pointer; SML_0101 was chosen on the bench.
    await page.locator('a[aria-label="Open SML_0130.dng"]').hover();
    await page.keyboard.press('o');
    await page.select('[aria-label="Which frames"]', 'left out');
    await expect.poll(names).toEqual(['SML_0130.dng']);
    await page.select('[aria-label="Which frames"]', 'chosen');
    await expect.poll(names).toEqual(['SML_0101.dng']);
    await page.select('[aria-label="Which frames"]', 'all');
    await page.select('[aria-label="Order"]', 'state');
    await expect.poll(names).toEqual(['CPR_0003.dng', 'SML_0130.dng', 'SML_0101.dng']);
    for (const name of ['SML_0130.dng', 'CPR_0003.dng'])
      await page.locator(`[aria-label="Select ${name}"]`).click();
    await bench.press('Room…');
    await page.locator('::-p-xpath(//form//input[@placeholder="Kitchen"])').fill('Stair');
    await bench.press('Name them');
    await expect.poll(names).toEqual(['CPR_0003.dng · Stair', 'SML_0130.dng · Stair', 'SML_0101.dng']);
    await bench.press('More…');
    await bench.press('Remove…');
    await page.waitForSelector('[data-testid=loss]');
    expect(await bench.text('[data-testid=loss]')).toMatch(
      // Other jobs have the originals as well: they stay.
      /^Lost for good: 2 frames\./
    );
    expect(await names()).toHaveLength(3);
    await bench.press('Remove 2 for good');
    await expect.poll(names).toEqual(['SML_0101.dng']);
  });

  it('is renamed, put away, found again and removed', async () => {
    await bench.press('Change…');
    await page.locator('::-p-aria(Name[role="textbox"])').fill('Access renamed');
    await bench.press('Save');
    await page.waitForFunction(
      () =>
        document.querySelector('h1')?.textContent === 'Access renamed' &&
        !document.querySelector('dialog[open]')
    );
    await bench.press('Change…');
    await bench.press('Put away');
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await page.goto(app.address, { waitUntil: 'networkidle2' });
    const named = (): Promise<number> =>
      page.$$eval('a.card', (all) => all.filter((e) => e.textContent!.includes('Access renamed')).length);
    expect(await named()).toBe(0);
    await page.locator('::-p-aria(1 put away)').click();
    await expect.poll(named).toBe(1);
    await page.locator('[aria-label="Search jobs"]').fill('nothing like it');
    await page.waitForFunction(() => document.querySelectorAll('a.card').length === 0);
    await page.locator('[aria-label="Search jobs"]').fill('renamed');
    await page.locator('a.card').click();
    await page.waitForSelector('h1');
    await bench.press('Change…');
    await page.locator('::-p-xpath(//form//button[normalize-space()="Remove…"])').click();
    await page.waitForSelector('form [data-testid=loss]');
    await bench.press('Remove for good');
    await page.waitForFunction(() => location.pathname === '/');
    const jobs = (await (await fetch(`${app.address}/api/jobs`)).json()) as { name: string }[];
    expect(jobs.filter(({ name }) => name === 'Access renamed')).toEqual([]);
  });
});
