/** Areas through the real interface: drawn, painted, found, shared, walked back, reloaded and exported. */
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AreasSettings } from '../../core/steps/areas/step.ts';
import type { PartOf } from '../../core/steps/areas/parts/part.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { SKY, seenMask } from '../../scenes/seen-mask.ts';
import { lightScene } from '../../scenes/take-frame.ts';
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

const areas = async (name = NAME): Promise<AreasSettings> =>
  (await frameAt<{ recipe: { areas: AreasSettings } }>(app.address, ids[name])).recipe.areas;

/** Share of the frame that the demo camera sees of the sky. */
let trueSky = 0;

beforeAll(async () => {
  // First: connections that rest for as long as this takes would be closed by the app.
  const frame = DEMO_FRAMES.find(({ file }) => file === NAME)!;
  const setup = setupAt(frame, 400);
  const truth = seenMask(lightScene(frame.scene()), setup, setup.size, (seen) => seen === SKY);
  trueSky = truth.reduce((sum, share) => sum + share, 0) / truth.length;
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  ({ ids } = await jobWithFrames(page, app.address, 'Areas', [NAME, 'CPR_0014.dng']));
});
afterAll(() => app?.close());

const turnTo = (name: string): Promise<void> => page.locator(`[data-page=${name}]`).click();

describe('areas on the bench', () => {
  it('say that none is chosen, and begin one with what is drawn', async () => {
    await bench.open(`${app.address}/frames/${ids[NAME]}`);
    await hand.key('6');
    await turnTo('light');
    expect(await bench.text('[data-testid=no-area]')).toContain('No area is chosen');
    expect(await page.$('input[type=range][aria-label^=Exposure]')).toBeNull();
    await turnTo('shape');
    await hand.drag([0.5, 0.05], [0.5, 0.5]);
    await page.waitForSelector('[data-testid=areas] li');
    await bench.saved();
    const { list, shapes } = await areas();
    expect(list).toHaveLength(1);
    expect(shapes[0].parts).toMatchObject([{ kind: 'gradient', meets: 'add' }]);
    // It is shown, and what it covers is told: whole above, gone half-way down.
    await page.waitForFunction(() =>
      /\d %/.test(document.querySelector('[data-testid=cover]')?.textContent ?? '')
    );
    expect(Number.parseFloat(await bench.text('[data-testid=cover]'))).toBeGreaterThan(15);
  });

  it('change their own part of the picture alone, and are taken back and forth', async () => {
    await bench.settled();
    const [above, below] = [await hand.lightAt(0.5, 0.08), await hand.lightAt(0.5, 0.9)];
    await turnTo('light');
    await hand.set('Exposure', -2);
    await bench.settled();
    expect(await hand.lightAt(0.5, 0.08)).toBeLessThan(above * 0.7);
    expect(Math.abs((await hand.lightAt(0.5, 0.9)) - below)).toBeLessThan(1.5);
    await bench.press('Undo');
    await bench.settled();
    expect(Math.abs((await hand.lightAt(0.5, 0.08)) - above)).toBeLessThan(1.5);
    await bench.press('Redo');
    await bench.saved();
    expect((await areas()).list[0].settings.tone.exposure).toBe(-2);
  });

  it('take levels and a colour that is laid over them', async () => {
    const [above, below] = [await hand.lightAt(0.5, 0.08), await hand.lightAt(0.5, 0.9)];
    await turnTo('levels');
    await hand.set('To black of levels', 60);
    await turnTo('colour');
    await hand.set('Colour of the area', 30);
    await bench.settled();
    expect(await hand.lightAt(0.5, 0.08)).toBeGreaterThan(above * 1.3);
    expect(Math.abs((await hand.lightAt(0.5, 0.9)) - below)).toBeLessThan(1.5);
    await bench.saved();
    const { settings } = (await areas()).list[0];
    expect([settings.tone.levels.outBlack, settings.colour.zoneAll.chroma]).toEqual([0.6, 30]);
    for (let back = 0; back < 2; back++) await bench.press('Undo');
  });

  it('are softened, freed of noise and given glow, and switched off and on by a key', async () => {
    const finish = async () => (await areas()).list[0].settings.finish;
    await turnTo('local');
    await hand.set('Sharpening', -100);
    await hand.set('Noise', 40);
    await hand.set('Glow', 30);
    await bench.saved();
    await expect.poll(finish).toEqual({ sharpening: -100, noise: 40, glow: 30 });
    for (let back = 0; back < 3; back++) await bench.press('Undo');
    await bench.saved();
    await expect.poll(finish).toEqual({ sharpening: 0, noise: 0, glow: 0 });
    for (const enabled of [false, true]) {
      await page.keyboard.down('Shift');
      await hand.key('z');
      await page.keyboard.up('Shift');
      await bench.saved();
      await expect.poll(async () => (await areas()).list[0].enabled).toBe(enabled);
    }
  });

  it('are masked at once in another way, while their own edge is dragged, and not while they are judged', async () => {
    /** Whether much is drawn over a part of what the area covers. */
    const masked = (): Promise<boolean> =>
      page.$eval('.konvajs-content canvas', (canvas) => {
        const { width, height } = canvas as HTMLCanvasElement;
        const context = (canvas as HTMLCanvasElement).getContext('2d')!;
        const { data } = context.getImageData(width * 0.75, height * 0.12, 120, 30);
        let drawn = 0;
        for (let i = 3; i < data.length; i += 4) if (data[i] > 0) drawn++;
        return drawn > 0.1 * 120 * 30;
      });
    await turnTo('shape');
    const kind = 'select[aria-label="How the mask is shown"]';
    await expect.poll(masked).toBe(true);
    const cover = await bench.text('[data-testid=cover]');
    await page.select(kind, 'none');
    await expect.poll(masked).toBe(false);
    expect(await bench.text('[data-testid=cover]')).toBe(cover);
    for (const shown of ['grey', 'hatching']) {
      await page.select(kind, shown);
      await expect.poll(masked).toBe(true);
    }
    // What it does is seen without the mask, until that is asked for.
    await turnTo('light');
    await hand.set('Shadows', 30);
    await bench.settled();
    expect(await masked()).toBe(false);
    await hand.key('e');
    await expect.poll(masked).toBe(true);
    await bench.press('Undo');
    await turnTo('edge');
    await page.select(kind, 'hatching');
    const slider = (await (await page.$('input[type=range][aria-label^=Grow]'))!.boundingBox())!;
    await page.mouse.move(slider.x + slider.width / 2, slider.y + slider.height / 2);
    await page.mouse.down();
    for (let step = 1; step < 8; step++)
      await page.mouse.move(slider.x + slider.width / 2 + step * 2, slider.y + 3);
    await expect.poll(masked).toBe(true);
    await page.mouse.up();
    await bench.press('Undo');
    await bench.saved();
  });

  it('lose what is erased with Alt held, whatever their shape is built from', async () => {
    await turnTo('shape');
    await bench.press('Brush');
    const parts = async () => (await areas()).shapes[0].parts;
    const before = (await parts()).length;
    const covered = async (): Promise<number> => {
      await bench.settled();
      return Number.parseFloat(await bench.text('[data-testid=cover]'));
    };
    const whole = await covered();
    const erase = async (...way: [number, number][]): Promise<void> => {
      await page.keyboard.down('Alt');
      await hand.drag(...way);
      await page.keyboard.up('Alt');
    };
    await erase([0.2, 0.1], [0.8, 0.1]);
    await bench.saved();
    expect((await parts()).slice(before)).toMatchObject([{ kind: 'brush', meets: 'take' }]);
    await expect.poll(covered).toBeLessThan(whole - 3);
    // Erased again, it is the same part; painted, it is another that adds.
    await erase([0.2, 0.2], [0.8, 0.2]);
    await hand.drag([0.4, 0.1], [0.6, 0.1]);
    await bench.saved();
    expect((await parts()).slice(before)).toMatchObject([
      { kind: 'brush', meets: 'take', strokes: [{}, {}] },
      { kind: 'brush', meets: 'add' }
    ]);
    await bench.press('Gradient');
    await erase([0.1, 0.3], [0.1, 0.4]);
    await bench.saved();
    expect((await parts()).at(-1)).toMatchObject({ kind: 'gradient', meets: 'take' });
    for (let back = 0; back < 4; back++) await bench.press('Undo');
    await bench.saved();
    expect(await parts()).toHaveLength(before);
  });

  it('share one shape or take a copy of it', async () => {
    await bench.press('New area');
    await turnTo('shape');
    const shapeFrom = 'select[aria-label="Take the shape of another area"]';
    const value = await page.$eval(shapeFrom, (select) =>
      [...(select as HTMLSelectElement).options]
        .map(({ value }) => value)
        .find((each) => each.endsWith('shared'))
    );
    await page.select(shapeFrom, value!);
    await bench.saved();
    let now = await areas();
    expect(now.list[0].shape).toBe(now.list[1].shape);
    expect(now.shapes).toHaveLength(1);
    await turnTo('edge');
    await hand.set('Feather', 20);
    await bench.press('Duplicate');
    await bench.saved();
    now = await areas();
    expect(now.list.map(({ shape }) => now.shapes.find(({ id }) => id === shape)!.feather)).toEqual([
      20, 20, 20
    ]);
    expect(now.shapes).toHaveLength(2);
    // The duplicate has a shape of its own: the others do not change with it.
    await hand.set('Feather', 50);
    await bench.saved();
    now = await areas();
    expect(now.list.map(({ shape }) => now.shapes.find(({ id }) => id === shape)!.feather)).toEqual([
      20, 20, 50
    ]);
  });

  it('are painted stroke by stroke, and undone stroke by stroke; a reload keeps them', async () => {
    await bench.press('New area');
    await turnTo('shape');
    await bench.press('Brush');
    await hand.drag([0.2, 0.8], [0.5, 0.82]);
    await hand.drag([0.5, 0.9], [0.8, 0.88], [0.6, 0.86]);
    await bench.saved();
    const strokes = async (): Promise<number> => {
      const { list, shapes } = await areas();
      const painted = shapes.find(({ id }) => id === list.at(-1)!.shape)!;
      return (painted.parts[0] as PartOf<'brush'>).strokes.length;
    };
    expect(await strokes()).toBe(2);
    await bench.press('Undo');
    await bench.saved();
    expect(await strokes()).toBe(1);
    const before = await areas();
    await page.reload({ waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-testid=picture][data-drawn]');
    await hand.key('6');
    expect(await page.$$eval('[data-testid=areas] li', (items) => items.length)).toBe(before.list.length);
    expect(await areas()).toEqual(before);
  });

  it('follow the brush while it paints; what is broken off leaves nothing', async () => {
    await bench.press('New area');
    await turnTo('light');
    await hand.set('Exposure', -3);
    await bench.saved();
    await bench.settled();
    const before = await areas();
    const bare = await hand.lightAt(0.35, 0.8);
    await turnTo('shape');
    await bench.press('Brush');
    const paint = async (): Promise<void> => {
      await page.mouse.move(...(await hand.at(0.2, 0.8)));
      await page.mouse.down();
      for (const x of [0.35, 0.5]) await page.mouse.move(...(await hand.at(x, 0.8)), { steps: 20 });
    };
    const darkened = async (): Promise<number> => {
      for (let n = 0; n < 100 && (await hand.lightAt(0.35, 0.8)) > 0.6 * bare; n++)
        await new Promise((resolve) => setTimeout(resolve, 50));
      return hand.lightAt(0.35, 0.8);
    };
    await paint();
    expect(await darkened()).toBeLessThan(0.6 * bare);
    await page.$eval('[aria-label=Picture]', (sheet) =>
      sheet.dispatchEvent(new PointerEvent('pointercancel', { bubbles: true }))
    );
    await page.mouse.up();
    await bench.settled();
    expect(Math.abs((await hand.lightAt(0.35, 0.8)) - bare)).toBeLessThan(1.5);
    await paint();
    await page.mouse.up();
    await bench.saved();
    await bench.settled();
    expect(await hand.lightAt(0.35, 0.8)).toBeLessThan(0.6 * bare);
    // A stroke is one step, however many changes it came in.
    await bench.press('Undo');
    await bench.saved();
    expect(await areas()).toEqual(before);
    await bench.press('Undo');
    await bench.press('Undo');
    await bench.saved();
  });

  it('show another revision through a shape', async () => {
    await hand.key('Escape');
    await hand.key('.');
    const path = `/api/frames/${ids[NAME]}/revisions`;
    await fetch(app.address + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ recipe: { tone: { exposure: 1.5 } } })
    });
    await bench.settled();
    const [above, below] = [await hand.lightAt(0.5, 0.03), await hand.lightAt(0.5, 0.9)];
    await turnTo('revision');
    const shows = 'section[aria-label="What the area shows"] select';
    await page.waitForFunction((shows) => document.querySelectorAll(`${shows} option`).length > 1, {}, shows);
    await page.select(shows, 'A');
    await bench.settled();
    // It was darkened by two stops there, and is lighter than the frame by one and a half.
    expect(await hand.lightAt(0.5, 0.03)).toBeGreaterThan(above * 1.3);
    expect(Math.abs((await hand.lightAt(0.5, 0.9)) - below)).toBeLessThan(1.5);
    await turnTo('light');
    expect(
      await page.$eval('input[type=range][aria-label^=Exposure]', (e) => (e as HTMLInputElement).disabled)
    ).toBe(true);
    await bench.press('Undo');
    await bench.saved();
    expect((await areas()).list[0].revision).toBeNull();
    await hand.key('Escape');
  });

  it('are moved by the keyboard, and removed', async () => {
    await hand.key('.');
    const ends = await page.$$eval('[aria-label^="Part 1, gradient"]', (all) =>
      all.map((each) => each.getAttribute('aria-label'))
    );
    expect(ends.filter((label) => label?.startsWith('Part 1, gradient')).length).toBe(3);
    const { shapes } = await areas();
    const a = (shapes[0].parts[0] as PartOf<'gradient'>).a;
    await page.focus('[aria-label="Part 1, gradient: whole"]');
    for (let n = 0; n < 5; n++) await page.keyboard.press('ArrowRight');
    await bench.saved();
    const moved = ((await areas()).shapes[0].parts[0] as PartOf<'gradient'>).a;
    expect(moved[0]).toBeGreaterThan(a[0]);
    const count = (await areas()).list.length;
    await hand.key('Escape');
    await hand.key('.');
    await hand.key('Delete');
    await bench.saved();
    expect((await areas()).list.length).toBe(count - 1);
  });

  it('darken a found sky in the export, up to the roof and no further', async () => {
    // From nothing.
    while ((await areas()).list.length > 0) {
      await hand.key('Escape');
      await hand.key('.');
      await hand.key('Delete');
      await bench.saved();
    }
    const plain = await sharp((await exportPicture(app.address, ids[NAME])).bytes)
      .raw()
      .toBuffer({ resolveWithObject: true });
    await turnTo('shape');
    await page.select('select[aria-label="Add"]', 'Sky');
    await turnTo('edge');
    await hand.set('Refine', 10);
    await turnTo('light');
    await hand.set('Exposure', -1.5);
    await bench.saved();
    await bench.settled();
    const dark = await sharp((await exportPicture(app.address, ids[NAME])).bytes)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { width, height, channels } = dark.info;
    expect([width, height]).toEqual([plain.info.width, plain.info.height]);
    const darker = (x: number, y: number): number => {
      const i = (Math.round(y * height) * width + Math.round(x * width)) * channels;
      return dark.data[i + 1] / plain.data[i + 1];
    };
    for (const x of [0.1, 0.4, 0.6, 0.9]) {
      expect(darker(x, 0.05)).toBeLessThan(0.75);
      expect(darker(x, 0.9)).toBeGreaterThan(0.97);
    }
    // Bricks under the roof.
    for (const x of [0.4, 0.6]) expect(darker(x, 0.52)).toBeGreaterThan(0.97);
    // As much of the picture as the demo camera sees of the sky.
    let changed = 0;
    for (let i = 1; i < dark.data.length; i += channels) if (dark.data[i] < 0.85 * plain.data[i]) changed++;
    expect(Math.abs(changed / (width * height) - trueSky)).toBeLessThan(0.08);
  });
});

describe('bad input', () => {
  const put = async (recipe: object): Promise<{ status: number; error: string }> => {
    const { version } = await frameAt<{ version: number }>(app.address, ids['CPR_0014.dng']);
    const answer = await fetch(`${app.address}/api/frames/${ids['CPR_0014.dng']}/recipe`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version, recipe })
    });
    return { status: answer.status, error: ((await answer.json()) as { error?: string }).error ?? '' };
  };
  const stroke = (points: number) => ({
    id: 's',
    size: 0.1,
    softness: 50,
    flow: 100,
    erases: false,
    keepsEdges: false,
    points: Array.from({ length: points * 3 }, (_, i) => (i % 3 === 2 ? 1 : 0))
  });
  const shape = (parts: object[]) => ({
    areas: {
      shapes: [{ id: 's', parts }],
      list: [{ id: 'a', shape: 's', settings: { tone: { exposure: 1 } } }]
    }
  });

  it('is refused in words, and the last good state stays', async () => {
    const before = await areas('CPR_0014.dng');
    const list = Array.from({ length: 200 }, (_, i) => ({ id: `a${i}`, shape: 's' }));
    for (const recipe of [
      { areas: { list } },
      shape([{ id: 'p', kind: 'brush', meets: 'add', strokes: [stroke(100_000)] }]),
      shape([
        { id: 'p', kind: 'gradient', meets: 'add', a: [9, 0], b: [0, 0], twoSided: false, softness: 1 }
      ]),
      shape([{ id: 'p', kind: 'cloud', meets: 'add' }])
    ]) {
      const { status, error } = await put(recipe);
      expect(status).toBe(422);
      expect(error).toMatch(/areas/i);
    }
    expect(await areas('CPR_0014.dng')).toEqual(before);
  });

  it('that is lawful and does nothing is taken: an empty shape, one beyond the frame, a shape that is not there', async () => {
    for (const recipe of [
      shape([]),
      shape([
        {
          id: 'p',
          kind: 'polygon',
          meets: 'add',
          feather: 0,
          points: [
            [1.3, 1.3],
            [1.4, 1.3],
            [1.4, 1.4]
          ]
        }
      ]),
      { areas: { shapes: [], list: [{ id: 'a', shape: 'gone', settings: { tone: { exposure: 1 } } }] } }
    ]) {
      expect((await put(recipe)).status).toBe(200);
      await bench.open(`${app.address}/frames/${ids['CPR_0014.dng']}`);
      await bench.settled();
    }
  });
});
