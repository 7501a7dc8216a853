/** The room of the picture, and every deck in both places, measured in the real window. */
import { unzipSync } from 'fflate';
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let ids: Record<string, string> = {};
const NAMES = ['SML_0101.dng', 'SML_0130.dng'];
const PAGES: Record<string, string[]> = {
  '1': ['profile', 'bow', 'colour', 'falloff'],
  '2': ['marks', 'hand', 'lengths', 'residuals'],
  '3': [],
  '4': ['light', 'local', 'bands', 'levels', 'curve'],
  '5': ['balance', 'hues', 'zones', 'cast', 'primaries', 'mono', 'looks'],
  '6': ['shape', 'edge', 'light', 'local', 'levels', 'curve', 'colour', 'hues', 'revision', 'sky'],
  '7': []
};

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  ({ ids } = await jobWithFrames(page, app.address, 'Room', NAMES));
});
afterAll(() => app?.close());

const open = (name: string): Promise<void> => bench.open(`${app.address}/frames/${ids[name]}`);
/** Percent of the window that the crop covers. */
async function share(): Promise<number> {
  await bench.settled();
  const { width, height } = await bench.crop();
  const window = page.viewport()!;
  return (100 * width * height) / (window.width * window.height);
}
const place = (): Promise<{ deck?: string; index?: string }> =>
  page.$eval('[data-testid=bench]', (e) => {
    const { deck, index } = (e as HTMLElement).dataset;
    return { deck, index };
  });
const putDeck = async (where: string): Promise<void> => {
  const button = `::-p-xpath(//button[normalize-space()="${where}"])`;
  await bench.press('View');
  await bench.press(where);
  await page.waitForSelector(`${button.slice(0, -2)} and @aria-pressed="true"])`);
  await page.keyboard.press('Escape');
  await page.waitForSelector(button, { hidden: true });
};

describe('the picture', () => {
  it('has the room, with the deck open, folded, and alone', async () => {
    await open('SML_0101.dng');
    await page.keyboard.press('4');
    expect(await share()).toBeGreaterThan(52);
    expect(await place()).toEqual({ deck: 'beside', index: 'above' });
    await page.keyboard.press('b');
    expect(await share()).toBeGreaterThan(68);
    await page.keyboard.press('v');
    await bench.settled();
    const crop = await bench.crop();
    expect(Math.max(crop.width - 1280, crop.height - 800)).toBeGreaterThanOrEqual(-8.01);
    expect(await page.$('[aria-label=Readings]')).toBeNull();
    await page.keyboard.press('r');
    await page.waitForSelector('[aria-label=Readings]');
    await page.keyboard.press('Escape');
    await page.waitForSelector('[aria-label=Course]');
    await page.keyboard.press('b');
    expect(await share()).toBeGreaterThan(52);
  });

  it('has it where it is upright, and in a larger window', async () => {
    await open('SML_0130.dng');
    await page.keyboard.press('4');
    expect(await share()).toBeGreaterThan(30);
    expect(await place()).toEqual({ deck: 'beside', index: 'aside' });
    await open('SML_0101.dng');
    await page.keyboard.press('4');
    await page.setViewport({ width: 1920, height: 1080 });
    expect(await share()).toBeGreaterThan(58);
    await page.setViewport({ width: 1280, height: 800 });
  });

  it('gives and takes room by the edge of the deck, which is kept', async () => {
    await bench.settled();
    const edge = (await (await page.waitForSelector('[aria-label="Edge of the deck"]'))!.boundingBox())!;
    const wide = (await bench.crop()).width;
    await page.mouse.move(edge.x, 400);
    await page.mouse.down();
    await page.mouse.move(edge.x + 100, 400, { steps: 4 });
    await page.mouse.up();
    await bench.settled();
    expect((await bench.crop()).width).toBeCloseTo(wide - 100, -0.5);
    await open('SML_0101.dng');
    await page.keyboard.press('4');
    await bench.settled();
    expect((await bench.crop()).width).toBeCloseTo(wide - 100, -0.5);
    await page.focus('[aria-label="Edge of the deck"]');
    await page.keyboard.press('ArrowLeft');
    await bench.settled();
    expect((await bench.crop()).width).toBeCloseTo(wide - 84, -0.5);
    const now = (await (await page.$('[aria-label="Edge of the deck"]'))!.boundingBox())!;
    await page.mouse.click(now.x, 400, { count: 2 });
    await bench.settled();
    expect((await bench.crop()).width).toBeCloseTo(wide, -0.5);
  });
});

describe('every deck', () => {
  beforeAll(() => open('SML_0101.dng'));

  it.each(['beside', 'below'])(
    'shows all of itself %s the sheet, and its fine tools large',
    async (where) => {
      await putDeck(where);
      expect((await place()).deck).toBe(where);
      const faults: unknown[] = [];
      for (const [step, pages] of Object.entries(PAGES)) {
        await page.keyboard.press(step as '1');
        if (step === '6') await bench.press('New area');
        for (const name of pages.length > 0 ? pages : [null]) {
          if (name) await page.locator(`[data-page=${name}]`).click();
          await new Promise((resolve) => setTimeout(resolve, 150));
          const found = await page.$eval(
            '[data-testid=deck]',
            (deck, least) => {
              const own = deck.getBoundingClientRect();
              const cut = [
                ...deck.querySelectorAll(
                  ':is(button, input, select, label, h2):not(li *, [data-testid=looks] *, [data-testid=skies] [aria-pressed])'
                )
              ].filter((e) => {
                const { left, right, top, bottom, width } = e.getBoundingClientRect();
                const beyond = Math.max(
                  right - own.right,
                  own.left - left,
                  bottom - own.bottom,
                  own.top - top
                );
                return width > 0 && beyond > 1;
              });
              const narrow = [...deck.querySelectorAll('input[type=range]')].map(
                (e) => e.getBoundingClientRect().width
              );
              return {
                scrolls: deck.scrollHeight > deck.clientHeight + 1 || deck.scrollWidth > deck.clientWidth + 1,
                cut: cut.map((e) => e.getAttribute('aria-label') ?? e.textContent),
                narrow: narrow.filter((width) => width < least).map(Math.round)
              };
            },
            160
          );
          if (found.scrolls || found.cut.length > 0 || found.narrow.length > 0)
            faults.push([step, name, found]);
          if (name === 'bands') await page.waitForSelector('[data-testid=bands] [role=slider]');
          const tools = await page.$$('[data-testid=fine-tool]');
          for (const tool of tools) {
            if (where === 'below')
              await page
                .locator('[data-testid=fine-tool] ~ [aria-label$=" large"][aria-expanded=false]')
                .click();
            const { width, height } = (await tool.boundingBox())!;
            expect(Math.min(width, height)).toBeGreaterThanOrEqual(260);
            if (where === 'below') await bench.press('Small');
          }
        }
      }
      expect(faults).toEqual([]);
      await putDeck('by itself');
    }
  );

  it('is reached in a window of 900 by 600', async () => {
    await page.setViewport({ width: 900, height: 600 });
    await bench.settled();
    for (const step of Object.keys(PAGES)) {
      await page.keyboard.press(step as '1');
      const beyond = await page.$eval(
        '[data-testid=bench]',
        (all) =>
          [...all.querySelectorAll('header button, [aria-label=Course] button, [role=tab]')].filter((e) => {
            const { right, bottom } = e.getBoundingClientRect();
            return right > innerWidth + 1 || bottom > innerHeight + 1;
          }).length
      );
      expect(beyond).toBe(0);
      const reached = await page.$eval('[data-testid=deck]', (deck) => {
        const last = [...deck.querySelectorAll('button, input, select')].at(-1)!;
        last.scrollIntoView();
        return last.getBoundingClientRect().bottom <= innerHeight + 1;
      });
      expect(reached).toBe(true);
    }
    await page.setViewport({ width: 1280, height: 800 });
  });
});

describe('the histogram', () => {
  const clipped = (): Promise<string> => bench.text('figure[aria-label=Histogram] figcaption');

  it('is of the whole crop at every zoom, and of what is seen when asked', async () => {
    await open('SML_0101.dng');
    await page.keyboard.press('4');
    await bench.settled();
    const whole = await clipped();
    expect(whole).toMatch(/clipped [1-9]/);
    const percent = (text: string): number => Number(/clipped ([\d.]+)/.exec(text)![1]);
    // The road, where nothing is clipped.
    await page.mouse.move(800, 700);
    await page.keyboard.press('f');
    for (let i = 0; i < 4; i++) await page.keyboard.press('+');
    await bench.settled();
    await expect.poll(async () => Math.abs(percent(await clipped()) - percent(whole))).toBeLessThan(0.3);
    await page.locator('[aria-label="Make the histogram large"]').click();
    await bench.press('only what is seen');
    await expect.poll(clipped).toMatch(/clipped (0 %|< 0.1 %|[\d.]+ %)/);
    await expect
      .poll(async () => Math.abs(percent((await clipped()).replace('clipped <', 'clipped')) - percent(whole)))
      .toBeGreaterThan(0.5);
    await bench.press('only what is seen');
    await expect.poll(async () => Math.abs(percent(await clipped()) - percent(whole))).toBeLessThan(0.3);
    await bench.press('Small');
    await page.keyboard.press('0');
  });
});

describe('looks', () => {
  const colour = (): Promise<number[]> =>
    page.$eval('[data-testid=picture]', (canvas) => {
      const c = canvas as HTMLCanvasElement;
      return [...c.getContext('2d')!.getImageData(c.width >> 1, c.height >> 3, 1, 1).data];
    });

  it('are small pictures of the frame, tried on while one is pointed at, and taken by a press', async () => {
    await open('SML_0101.dng');
    await page.keyboard.press('5');
    await page.locator('[data-page=looks]').click();
    // Those that are in sight.
    await page.waitForFunction(
      () => document.querySelectorAll('[data-testid=looks] canvas[data-drawn]').length >= 4
    );
    const means = await page.$$eval('[data-testid=looks] canvas[data-drawn]', (all) =>
      all.map((e) => {
        const c = e as HTMLCanvasElement;
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        return [0, 1, 2]
          .map((k) => data.filter((_, i) => i % 4 === k).reduce((a, b) => a + b, 0) / (data.length / 4))
          .join();
      })
    );
    expect(new Set(means).size).toBe(means.length);
    await bench.settled();
    const plain = await colour();
    const saved = await bench.text('[data-testid=save-state]');
    const look = (await (await page.$$('[data-testid=looks] [aria-pressed=false]'))[0].boundingBox())!;
    await page.mouse.move(look.x + 20, look.y + 20);
    await expect.poll(colour).not.toEqual(plain);
    await page.mouse.move(800, 500);
    await expect.poll(colour).toEqual(plain);
    expect(await bench.text('[data-testid=save-state]')).toBe(saved);
    const { recipe } = await frameAt<{ recipe: { colour?: { look?: string } } }>(
      app.address,
      ids['SML_0101.dng']
    );
    expect(recipe.colour?.look ?? null).toBeNull();
    await page.mouse.click(look.x + 20, look.y + 20);
    await page.mouse.move(800, 500);
    await bench.saved();
    await bench.settled();
    expect(await colour()).not.toEqual(plain);
    await bench.press('Undo');
    await bench.saved();
  });
});

describe('the history', () => {
  const steps = (): Promise<string[]> =>
    page.$$eval('[data-testid=steps] li', (all) => all.map((e) => e.textContent!.trim()));
  const exposure = async (): Promise<number> =>
    (await frameAt<{ recipe: { tone: { exposure: number } } }>(app.address, ids['SML_0130.dng'])).recipe.tone
      .exposure;
  const type = async (name: string, value: string): Promise<void> => {
    const field = await page.waitForSelector(
      `::-p-xpath(//*[self::label or self::button][normalize-space()="${name}"]/following::input[@type="text"][1])`
    );
    await field!.click({ count: 3 });
    await page.keyboard.type(value);
    await page.keyboard.press('Enter');
  };

  it('says in words what was done, survives a reload, and goes to any point', async () => {
    await open('SML_0130.dng');
    await page.keyboard.press('4');
    await type('Exposure', '0.7');
    await type('Contrast', '30');
    await type('Exposure', '1');
    await bench.saved();
    await open('SML_0130.dng');
    await page.keyboard.press('4');
    await bench.settled();
    await bench.press('Undo');
    await bench.saved();
    expect(await exposure()).toBe(0.7);
    await page.keyboard.press('y');
    await page.waitForSelector('[data-testid=steps]');
    expect((await steps()).slice(0, 3)).toEqual([
      'Exposure 0.70 → 1.00 EV',
      'Contrast 0 → 30',
      'Exposure 0.00 → 0.70 EV'
    ]);
    expect((await steps()).at(-1)).toBe('As it came');
    await page.locator('[data-testid=steps] li:last-child button').click();
    await bench.saved();
    await expect.poll(exposure).toBe(0);
    await page.locator('[data-testid=steps] li:first-child button').click();
    await bench.saved();
    await expect.poll(exposure).toBe(1);
    await page.keyboard.press('Escape');
  });

  it('keeps revisions with pictures, names and readings; one is delivered while the frame stands otherwise', async () => {
    // Looks and revisions are drawn side by side, each by its own state.
    await page.keyboard.press('5');
    await page.locator('[data-page=looks]').click();
    await page.keyboard.down('Shift');
    await page.keyboard.press('y');
    await page.keyboard.up('Shift');
    await page.waitForSelector('[data-testid=revisions] canvas[data-drawn]');
    await page.waitForFunction(
      () => document.querySelectorAll('[data-testid=looks] canvas[data-drawn]').length >= 4
    );
    const chromas = await page.$$eval('[data-testid=looks] canvas[data-drawn]', (all) =>
      all.map((e) => {
        const c = e as HTMLCanvasElement;
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        let sum = 0;
        for (let i = 0; i < data.length; i += 4) sum += Math.abs(data[i] - data[i + 2]);
        return sum / (data.length / 4);
      })
    );
    // Plaster has little colour.
    expect(chromas[3]).toBeLessThan(0.6 * chromas[0]);
    await page.keyboard.press('4');
    await page.locator('[aria-label="Name of revision A"]').click();
    await page.keyboard.type('light');
    await page.keyboard.press('Tab');
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=revisions]')?.textContent?.includes('A · light')
    );
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[data-testid=revisions]'));
    await type('Exposure', '-1');
    await bench.saved();
    await page.keyboard.down('Shift');
    await page.keyboard.press('y');
    await page.keyboard.up('Shift');
    await page.waitForFunction(
      () => document.querySelectorAll('[data-testid=revisions] canvas[data-drawn]').length === 2
    );
    const [light, dark] = await page.$$eval('[data-testid=revisions] canvas', (all) =>
      all.map((e) => {
        const c = e as HTMLCanvasElement;
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        return data.reduce((sum, value) => sum + value, 0) / data.length;
      })
    );
    expect(light).toBeGreaterThan(dark + 30);
    expect(await bench.text('ul[aria-label=Revisions] li')).toMatch(/plumb \d+\.\d\d°/);
    await page.locator('[aria-label="Deliver revision A"]').click();
    await page.waitForFunction(() =>
      document.body.textContent!.includes('Deliveries take the marked revision.')
    );
    // Pointing at it shows it, a press goes back to it; what was before can be undone to.
    await page.locator('[data-testid=revisions] button').click();
    await bench.saved();
    await expect.poll(exposure).toBe(1);
    await page.keyboard.press('Escape');
    await bench.press('Undo');
    await bench.saved();
    await expect.poll(exposure).toBe(-1);
    const { job_id: jobId } = await frameAt<{ job_id: string }>(app.address, ids['SML_0130.dng']);
    const known = (await (await fetch(`${app.address}/api/deliverables`)).json()) as { id: string }[];
    const post = async (path: string, body: unknown): Promise<{ id: string }> =>
      (await (
        await fetch(`${app.address}/api${path}`, {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { 'content-type': 'application/json' }
        })
      ).json()) as { id: string };
    const { id } = await post(`/jobs/${jobId}/deliveries`, { picks: [[ids['SML_0130.dng'], known[0].id]] });
    const item = async (): Promise<{ id: string; state: string }> =>
      (
        (await (await fetch(`${app.address}/api/deliveries/${id}`)).json()) as {
          items: { id: string; state: string }[];
        }
      ).items[0];
    await expect.poll(async () => (await item()).state, { timeout: 60000 }).toBe('done');
    const zip = new Uint8Array(await (await fetch(`${app.address}/api/deliveries/${id}/zip`)).arrayBuffer());
    const [picture] = Object.entries(unzipSync(zip)).filter(([name]) => name.endsWith('.jpg'));
    const { channels } = await sharp(picture[1]).stats();
    // As it stands it is four times darker.
    expect(channels[1].mean).toBeGreaterThan(170);
  });
});

describe('a job', () => {
  it('is gone through large by keys, and sorted on the way', async () => {
    const frameOf = (name: string): Promise<{ job_id: string; choice: string }> =>
      frameAt(app.address, ids[name]);
    await page.goto(`${app.address}/jobs/${(await frameOf(NAMES[0])).job_id}`, { waitUntil: 'networkidle2' });
    const large = (): Promise<string | null> =>
      page.$eval('[data-testid=large]', (e) =>
        (e as HTMLImageElement).naturalWidth > 900 ? (e as HTMLImageElement).alt : null
      );
    await page.hover(`[data-frame="${ids[NAMES[0]]}"]`);
    await page.keyboard.press('Space');
    await page.waitForSelector('[data-testid=large]');
    await expect.poll(large).toBe(NAMES[0]);
    await page.keyboard.press('c');
    await expect.poll(async () => (await frameOf(NAMES[0])).choice).toBe('chosen');
    await page.keyboard.press('d');
    await expect
      .poll(async () => page.$eval('[data-testid=large]', (e) => (e as HTMLImageElement).alt))
      .toBe(NAMES[1]);
    await page.keyboard.press('o');
    await expect.poll(async () => (await frameOf(NAMES[1])).choice).toBe('left out');
    expect((await frameOf(NAMES[0])).choice).toBe('chosen');
    // At the end it stays.
    await page.keyboard.press('d');
    await page.keyboard.press('ArrowLeft');
    await expect.poll(large).toBe(NAMES[0]);
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[data-testid=large]'));
  });
});
