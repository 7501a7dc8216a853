/** Tone and colour through the real interface, on the bench and in what is exported. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter, differenceCiede2000 } from 'culori';
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RENDITION } from '../../core/settings/rendition.ts';
import { touchedSettings } from '../../core/settings/step.ts';
import { toneSchema } from '../../core/steps/tone/step.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { chooseFiles } from './choose-files.ts';
import { type Exported, exportPicture } from './export-picture.ts';
import { jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let jobId = '';
let frameId = '';
/** What the frame was, delivered before anything was done to it. */
let finished: Buffer;
const recipe = async (): Promise<Recipe> =>
  ((await (await fetch(`${app.address}/api/frames/${frameId}`)).json()) as { frame: { recipe: Recipe } })
    .frame.recipe;

/** A look in which red and blue change places. */
const cube = join(mkdtempSync(join(tmpdir(), 'line-true-look-')), 'swapped.cube');
const places = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${b} ${g} ${r}`)));
writeFileSync(cube, `TITLE "Swapped"\nLUT_3D_SIZE 2\n${places.join('\n')}\n`);

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  const made = await jobWithFrames(page, app.address, 'Tone', ['SML_0101.dng']);
  jobId = made.jobId;
  frameId = made.ids['SML_0101.dng'];
  finished = (await exportPicture(app.address, frameId, { format: 'png', sharpening: 'none' })).bytes;
  await bench.open(`${app.address}/frames/${frameId}`);
});
afterAll(() => app?.close());

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
const meanAt = (x: number, y: number): Promise<number[]> =>
  page.$eval(
    '[data-testid=picture]',
    (canvas, across, down) => {
      const c = canvas as HTMLCanvasElement;
      const { left, top, width, height } = JSON.parse(c.dataset.crop!) as Record<string, number>;
      const [x0, y0] = [Math.round(left), Math.round(top)];
      const [w, h] = [Math.round(left + width) - x0, Math.round(top + height) - y0];
      const [px, py] = [x0 + Math.round(across * w) - 2, y0 + Math.round(down * h) - 2];
      const { data } = c.getContext('2d')!.getImageData(px, py, 5, 5);
      const sum = [0, 0, 0];
      data.forEach((value, i) => (sum[i % 4] += value / 25));
      return sum.slice(0, 3);
    },
    x,
    y
  );

const turnTo = (name: string): Promise<void> => page.locator(`[data-page=${name}]`).click();
/** Place on the screen of a share of the crop. */
async function placeOf(x: number, y: number): Promise<[number, number]> {
  const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
  const crop = await bench.crop();
  return [sheet.x + crop.left + crop.width * x, sheet.y + crop.top + crop.height * y];
}
async function drag(
  from: [number, number],
  by: [number, number],
  before?: () => Promise<void>
): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  if (before) await before();
  await page.mouse.move(from[0] + by[0], from[1] + by[1], { steps: 6 });
}
const chroma = ([r, g, b]: number[]): number => Math.max(r, g, b) - Math.min(r, g, b);
/** The road before the building, and the sky above it. */
const ROAD = [0.5, 0.93] as const;
const SKY = [0.55, 0.12] as const;
/** A dark pane of the first window. */
const PANE = [0.182, 0.42] as const;

/** All that a practitioner does to light and colours, by hand, on the frame that is open. */
async function work(rendered: boolean): Promise<void> {
  await page.keyboard.press('4');
  await bench.settled();
  const road = (await meanAt(...ROAD))[0];
  await type('Exposure', '0.3');
  await type('Recovery', '70');
  await bench.settled();
  expect((await meanAt(...ROAD))[0]).toBeGreaterThan(road + 4);
  const [dark, sky] = [await meanAt(...PANE), await meanAt(...SKY)];
  await type('Shadows', '80');
  // A pane opens (it mirrors the street, and is not black), once the broad light is measured; the sky does not move.
  await expect.poll(async () => (await meanAt(...PANE))[0]).toBeGreaterThan(dark[0] + 1.5);
  await bench.settled();
  expect((await meanAt(...SKY))[2]).toBeCloseTo(sky[2], -0.5);

  // Black by the view of what clips, with a key held while its slider is dragged.
  const slider = (await (await page.$('::-p-aria(Black slider)'))!.boundingBox())!;
  await drag([slider.x + slider.width / 2, slider.y + slider.height / 2], [-40, 0], () =>
    page.keyboard.down('Alt')
  );
  await page.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=picture]')!;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    for (let i = 0; i < data.length; i += 4)
      if (data[i + 3] > 0 && data[i] !== 0 && data[i] !== 255) return false;
    return true;
  });
  await page.keyboard.up('Alt');
  await page.mouse.up();
  await bench.settled();
  expect(new Set((await shown()).pixels).size).toBeGreaterThan(50);

  // The curve, dragged on the picture where the road lies.
  await turnTo('curve');
  await bench.press('On the picture');
  const before = (await meanAt(...ROAD))[0];
  await drag(await placeOf(...ROAD), [0, 30]);
  await page.mouse.up();
  await bench.settled();
  expect((await meanAt(...ROAD))[0]).toBeLessThan(before - 5);
  await bench.press('On the picture');

  // A band, the same way.
  await turnTo('bands');
  await page.waitForSelector('[data-testid=bands] [role=slider]');
  await bench.press('On the picture');
  await page.mouse.move(...(await placeOf(...SKY)));
  await page.waitForFunction(() =>
    /Pointed at: L\* \d+, [<\d ]+% of the picture/.test(document.body.textContent!)
  );
  const light = (await meanAt(...SKY))[0];
  await drag(await placeOf(...SKY), [0, 36]);
  await page.mouse.up();
  await bench.settled();
  expect((await meanAt(...SKY))[0]).toBeLessThan(light - 6);
  await bench.press('On the picture');

  await page.keyboard.press('5');
  await turnTo('balance');
  if (rendered) await type('Warmth', '40');
  else await type('Temperature', '9000');
  await bench.settled();
  expect(chroma(await meanAt(...ROAD))).toBeGreaterThan(10);
  await bench.press('Pick');
  await page.mouse.click(...(await placeOf(0.3, 0.94)));
  await page.waitForSelector('[data-testid=neutral-reading]');
  await bench.press('Pick another');
  await page.mouse.click(...(await placeOf(...ROAD)));
  await page.waitForFunction(() =>
    /2\s+places/.test(document.querySelector('[data-testid=neutral-reading]')?.textContent ?? '')
  );
  await bench.settled();
  expect(chroma(await meanAt(...ROAD))).toBeLessThan(6);
  expect(
    Number(/([\d.]+) from grey/.exec(await bench.text('[data-testid=neutral-reading]'))![1])
  ).toBeLessThan(2);

  // The sky's colour, dragged on the picture: what is not blue stays.
  await turnTo('hues');
  await bench.press('On the picture');
  const [blue, brick] = [await meanAt(...SKY), await meanAt(0.33, 0.57)];
  await drag(await placeOf(...SKY), [0, -60], () =>
    page.waitForSelector('[data-testid=hues] [role=slider]').then(() => {})
  );
  await page.mouse.up();
  await bench.settled();
  expect(chroma(await meanAt(...SKY))).toBeGreaterThan(chroma(blue) + 2);
  (await meanAt(0.33, 0.57)).forEach((value, c) => expect(Math.abs(value - brick[c])).toBeLessThan(1.5));

  // Black and white, and back.
  await turnTo('mono');
  const check = '::-p-aria(Black and white[role="checkbox"])';
  await page.locator(check).click();
  await bench.settled();
  expect(chroma(await meanAt(...SKY))).toBeLessThan(1);
  await page.locator(check).click();
  await bench.settled();
  expect(chroma(await meanAt(...SKY))).toBeGreaterThan(chroma(blue));

  // A look from a file, laid on by half.
  await turnTo('looks');
  await page.waitForFunction(
    () => document.querySelectorAll('[data-testid=looks] canvas[data-drawn]').length > 3
  );
  const [seen] = [await meanAt(...SKY)];
  await chooseFiles(page, () => bench.press('Take a .cube file…'), [cube]);
  await page.waitForFunction(() => document.body.textContent!.includes('“Swapped” is taken'));
  await expect.poll(async () => Math.abs((await meanAt(...SKY))[0] - seen[2])).toBeLessThan(4);
  const swapped = await meanAt(...SKY);
  // What was blue beyond sRGB is red beyond it now, and comes to its edge elsewhere.
  expect(Math.abs(swapped[2] - seen[0])).toBeLessThan(25);
  await type('Amount of the look', '50');
  await bench.settled();
  expect(Math.abs((await meanAt(...SKY))[0] - (seen[0] + seen[2]) / 2)).toBeLessThan(12);
  await bench.saved();
}

/** A window in which the crop covers whole pixels of the sheet, as its export does. */
async function fitWholePixels(): Promise<void> {
  const { width, height } = await bench.crop();
  const off = (w: number): number => Math.abs((w * height) / width - Math.round((w * height) / width));
  const widths = Array.from({ length: 200 }, (_, i) => Math.round(width) - i);
  const whole = widths.reduce((best, w) => (off(w) < off(best) - 1e-6 ? w : best));
  await page.setViewport({ width: 1280 - Math.round(width) + whole, height: 800 });
  await bench.settled();
}

/** The export at the size of the sheet, against the sheet. */
async function expectTheSame(space: 'srgb' | 'display-p3' = 'srgb'): Promise<Exported['report']> {
  await fitWholePixels();
  const picture = await shown();
  const edge = Math.max(picture.w, picture.h);
  const { bytes, report } = await exportPicture(app.address, frameId, {
    format: 'png',
    sizeKind: 'long',
    width: edge,
    sharpening: 'none',
    space
  });
  const small = await sharp(bytes, { ignoreIcc: true })
    .resize(picture.w, picture.h, { fit: 'fill' })
    .raw()
    .toBuffer();
  const difference = differenceCiede2000();
  const colour = (of: ArrayLike<number>, at: number) => ({
    mode: space === 'srgb' ? ('rgb' as const) : ('p3' as const),
    r: of[at] / 255,
    g: of[at + 1] / 255,
    b: of[at + 2] / 255
  });
  let [sum, count] = [0, 0];
  for (let i = 0; i < picture.w * picture.h; i += 7, count++)
    sum += difference(colour(picture.pixels, i * 4), colour(small, i * 3));
  expect(sum / count).toBeLessThan(0.5);
  await page.setViewport({ width: 1280, height: 800 });
  return report;
}

/** What the bar says of the picked greys is what the client is told, from the full-size picture. */
async function expectNeutralTold(report: Exported['report']): Promise<void> {
  const { rms, places } = report.readings.neutral!;
  expect(places).toBe(2);
  expect(Math.abs(rms - Number(await bench.text('[data-testid=reading-neutral]')))).toBeLessThan(0.4);
}

describe('a screen with the colours of Display P3', () => {
  /** Shares of the crop's pixels that sRGB has no room for, as the canvas holds them. */
  const beyondSrgb = async (): Promise<number> => {
    const { pixels } = await shown();
    const toSrgb = converter('lrgb');
    let [beyond, count] = [0, 0];
    for (let at = 0; at < pixels.length; at += 28, count++) {
      const [r, g, b] = pixels.slice(at, at + 3).map((value) => value / 255);
      const colour = toSrgb({ mode: 'p3', r, g, b });
      if (Math.min(colour.r, colour.g, colour.b) < -0.01) beyond++;
    }
    return beyond / count;
  };

  it('shows what sRGB has no room for, as it is delivered, and sRGB when asked', async () => {
    await page.emulateMediaFeatures([{ name: 'color-gamut', value: 'p3' }]);
    await bench.open(`${app.address}/frames/${frameId}`);
    await page.keyboard.press('5');
    await turnTo('balance');
    await type('Saturation', '100');
    await bench.settled();
    await bench.saved();
    expect(await beyondSrgb()).toBeGreaterThan(0.003);
    await expectTheSame('display-p3');
    await page.click('[aria-label="Make the histogram large"]');
    await bench.press('sRGB');
    await bench.settled();
    expect(await beyondSrgb()).toBeLessThan(0.0001);
    await page.emulateMediaFeatures([]);
    await bench.settled();
    await expectTheSame();
    await type('Saturation', '0');
    await bench.saved();
    await page.click('[aria-label="Make the histogram small"]');
  });
});

describe('a frame that was finished before', () => {
  it('stays as it was until it is rendered anew, which shows what changes and can be undone', async () => {
    const at = `${app.address}/api/frames/${frameId}`;
    const before = ((await (await fetch(at)).json()) as { frame: { recipe: Recipe; version: number } }).frame;
    // Clipped parts of a rendering that is steep: where the two differ most.
    const old = { ...before.recipe, rendition: 1, tone: { ...before.recipe.tone, exposure: 1.5 } };
    const put = await fetch(`${at}/recipe`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version: before.version, recipe: old })
    });
    expect(put.status).toBe(200);
    await bench.open(`${app.address}/frames/${frameId}`);
    await bench.settled();
    const first = (await shown()).pixels;
    await bench.press('Render anew…');
    await page.waitForSelector('dialog figure img');
    const pictures = await page.$$eval('dialog figure img', (images) =>
      Promise.all(
        images.map(async (image) => {
          const bytes = await (await fetch((image as HTMLImageElement).src)).arrayBuffer();
          return new Uint8Array(bytes).join();
        })
      )
    );
    expect(pictures).toHaveLength(2);
    expect(pictures[0]).not.toBe(pictures[1]);
    expect((await recipe()).rendition).toBe(1);
    await page.$$eval('dialog button', (buttons) =>
      buttons.find((button) => button.textContent!.trim() === 'Render anew')?.click()
    );
    await bench.settled();
    await bench.saved();
    expect((await recipe()).rendition).toBe(RENDITION);
    const second = (await shown()).pixels;
    expect(second.filter((value, i) => Math.abs(value - first[i]) > 8).length).toBeGreaterThan(1000);
    await bench.press('Undo');
    await bench.settled();
    await bench.saved();
    expect((await recipe()).rendition).toBe(1);
    expect((await shown()).pixels.filter((value, i) => Math.abs(value - first[i]) > 2)).toHaveLength(0);
    await page.keyboard.press('4');
    await type('Exposure', '0');
    await bench.press('Render anew…');
    await page.waitForSelector('dialog figure img');
    await page.$$eval('dialog button', (buttons) =>
      buttons.find((button) => button.textContent!.trim() === 'Render anew')?.click()
    );
    await bench.saved();
    await expect.poll(async () => (await recipe()).rendition).toBe(RENDITION);
  });
});

describe('a raw file', () => {
  it('is bent by a drag on the curve, and steps back and forth', async () => {
    await page.keyboard.press('4');
    await bench.settled();
    await turnTo('curve');
    const [before] = await meanAt(...ROAD);
    const box = (await (await page.$('[data-testid=curve]'))!.boundingBox())!;
    await drag([box.x + box.width * 0.5, box.y + box.height * 0.5], [0, box.height * 0.2]);
    await page.mouse.up();
    await bench.settled();
    await bench.saved();
    const { tone } = await recipe();
    expect(tone.curve).toHaveLength(3);
    expect(tone.curve[1].x).toBeCloseTo(0.5, 1);
    expect(tone.curve[1].y).toBeCloseTo(0.29, 1);
    expect((await meanAt(...ROAD))[0]).toBeLessThan(before - 15);
    // The whole drag is one step back.
    await bench.press('Undo');
    await bench.settled();
    expect((await meanAt(...ROAD))[0]).toBeCloseTo(before, 0);
    await turnTo('light');
  });

  it('names the light that it was taken in, and is set by itself', async () => {
    await page.keyboard.press('5');
    const kelvin = await page.$eval('::-p-aria(Temperature[role="textbox"])', (e) =>
      Number((e as HTMLInputElement).value)
    );
    // The demo camera's light is D65.
    expect(Math.abs(kelvin - 6504)).toBeLessThan(150);
    await page.keyboard.press('4');
    await bench.press('All by itself');
    await page.waitForFunction(() => document.body.textContent!.includes('Set by itself:'));
    await bench.settled();
    await bench.saved();
    const { tone } = await recipe();
    expect(touchedSettings(toneSchema, tone).length).toBeGreaterThan(1);
    await bench.press('Undo');
    await bench.settled();
    await bench.saved();
    expect(touchedSettings(toneSchema, (await recipe()).tone)).toEqual([]);
  });

  it('is worked through, kept over a reload, and delivered as it is seen', async () => {
    await work(false);
    const kept = await recipe();
    await bench.open(`${app.address}/frames/${frameId}`);
    await page.keyboard.press('5');
    await bench.settled();
    expect(await recipe()).toEqual(kept);
    expect(await bench.text('[data-testid=state-tone]')).toBe('by hand');
    expect(await bench.text('[data-testid=state-colour]')).toBe('by hand');
    await expectNeutralTold(await expectTheSame());
  });
});

describe('a finished picture', () => {
  it('is worked through the same way, and delivered as it is seen', async () => {
    const added = await fetch(`${app.address}/api/jobs/${jobId}/frames?name=finished.png`, {
      method: 'POST',
      body: new Uint8Array(finished),
      headers: { 'content-type': 'application/octet-stream' }
    });
    frameId = ((await added.json()) as { id: string }).id;
    for (let state = ''; state !== 'ready';) {
      await new Promise((done) => setTimeout(done, 300));
      const answer = await fetch(`${app.address}/api/frames/${frameId}`);
      state = ((await answer.json()) as { frame: { state: string } }).frame.state;
      expect(state).not.toBe('failed');
    }
    await bench.open(`${app.address}/frames/${frameId}`);
    await work(true);
    await expectNeutralTold(await expectTheSame());
  });
});
