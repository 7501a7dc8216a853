/** The Lens step and the catalogue through the real interface, measured against the demo camera's truth. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { type Point, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { lateralShift } from '../../core/optics/lens-model.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import { IDENTITY } from '../../core/math/matrix3.ts';
import { straightness } from '../../core/render/readings/straightness.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { projectPoint, setupLens } from '../../scenes/camera/capture.ts';
import { bowLeft } from '../../scenes/camera/straight-net.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { ENTITY_BOMB, MADE_UP } from '../../server/tests/made-up-calibration.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { exportPicture } from './export-picture.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let page: Page;
let bench: BenchPage;
let jobUrl = '';
const urls: Record<string, string> = {};

const demo = DEMO_FRAMES.find((frame) => frame.file === 'CPR_0014.dng')!;
const setup = setupAt(demo, 1500);
const truth = setupLens(setup).model;
const unit = halfDiagonal(setup.size);

const recipeOf = async (name: string): Promise<Recipe> => {
  const id = urls[name].split('/').pop()!;
  const { frame } = (await (await fetch(`${app.address}/api/frames/${id}`)).json()) as {
    frame: { recipe: Recipe };
  };
  return frame.recipe;
};

async function sayIncludes(part: string): Promise<string> {
  await page.waitForFunction(
    (wanted) => [...document.querySelectorAll('[role=status]')].some((e) => e.textContent!.includes(wanted)),
    { timeout: 30000 },
    part
  );
  return page.$$eval('[role=status]', (all) => all.map((e) => e.textContent!.trim()).join(' '));
}

const tab = (name: string): Promise<void> =>
  page.locator(`::-p-xpath(//button[@role="tab"][normalize-space()="${name}"])`).click();

beforeAll(async () => {
  app = await startApp(newDataFolder());
  browser = await openBrowser();
  page = await browser.newPage();
  bench = benchPage(page);
  const post = async <T>(path: string, body: BodyInit, type: string): Promise<T> =>
    (await (
      await fetch(`${app.address}/api${path}`, { method: 'POST', body, headers: { 'content-type': type } })
    ).json()) as T;
  const { id } = await post<{ id: string }>('/jobs', '{"name":"Lens work"}', 'application/json');
  jobUrl = `${app.address}/jobs/${id}`;
  for (const name of ['CPR_0014.dng', 'SML_0101.dng', 'BRN_0001.dng', 'BRN_0004.dng', 'BRN_0007_flat.dng']) {
    const bytes = readFileSync(join(inject('photographs'), name));
    const added = await post<{ id: string }>(
      `/jobs/${id}/frames?name=${name}`,
      bytes,
      'application/octet-stream'
    );
    urls[name] = `${app.address}/frames/${added.id}`;
  }
  await page.goto(jobUrl, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(() => document.querySelectorAll('.frame[data-state=ready] img').length === 5, {
    timeout: 90000
  });
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

describe('a frame whose file names no lens', () => {
  it('is shown as one without a profile, in the job and on the bench, with controls that say why they rest', async () => {
    expect(await bench.text('[aria-label="Which frames"]')).toMatch(/without a lens profile \(4\)/);
    await bench.open(urls['CPR_0014.dng']);
    expect(await bench.text('[data-testid=state-lens]')).toBe('untouched');
    expect(await bench.reading('falloff')).toBe('no profile');
    expect(await bench.reading('proportion')).toBe('assumed');
    const control = (await page.$('section[aria-label="Correction"] .control'))!;
    expect(
      await control.evaluate((e) => [(e as HTMLElement).dataset.hint, e.querySelector('input')!.disabled])
    ).toEqual(['No profile is applied, so there is nothing to correct from.', true]);
  });

  it('is straightened by edges that are found and offered, within three quarters of a pixel of the truth over the whole frame', async () => {
    await tab('Bow');
    await bench.press('Find edges');
    const said = await sayIncludes('long edges found');
    const count = Number(/(\d+) long edges/.exec(said)![1]);
    expect(count).toBeGreaterThan(5);
    await bench.press(`Take all ${count}`);
    const before = parseFloat(await bench.reading('straight'));
    await bench.press('Straighten');
    expect(await sayIncludes('Bows of')).toMatch(/down to 0\.\d+ px, from \d+ edges/);
    expect(parseFloat(await bench.reading('straight'))).toBeLessThan(before);
    await bench.saved();
    const { solved, curves } = (await recipeOf('CPR_0014.dng')).lens;
    expect(curves).toHaveLength(count);
    expect(bowLeft(truth, {}, setup.size)).toBeGreaterThan(2);
    // Half a pixel to 0.7, by the noise of the frame.
    expect(bowLeft(truth, solved!, setup.size)).toBeLessThan(0.75);
  });

  it('takes an edge drawn by hand, snapped to the edge under it', async () => {
    await bench.press('Clear');
    await bench.press('Undo bend');
    await bench.saved();
    await bench.settled();
    expect((await recipeOf('CPR_0014.dng')).lens.solved).toBeNull();
    // The longest edge of the scene that is wholly in the picture.
    const inside = ([x, y]: Point): boolean =>
      x > 20 && y > 20 && x < setup.size.width - 20 && y < setup.size.height - 20;
    const [a, b] = demo
      .scene()
      .edges.map((edge) => [projectPoint(edge.a, setup), projectPoint(edge.b, setup)])
      .filter((ends): ends is [Point, Point] => ends.every((end) => end !== null && inside(end)))
      .sort(
        (p, q) =>
          Math.hypot(q[0][0] - q[1][0], q[0][1] - q[1][1]) - Math.hypot(p[0][0] - p[1][0], p[0][1] - p[1][1])
      )[0];
    await page.locator('section[aria-label="From the picture"] button').click();
    // Three presses a pixel or two off the edge; the last is pressed twice.
    const at = async (t: number): Promise<void> => {
      const [x, y] = await bench.screenOf([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], setup, false);
      await page.mouse.click(x + 1, y + 1);
    };
    await at(0.1);
    await at(0.5);
    await at(0.9);
    await at(0.9);
    await page.waitForFunction(() => document.querySelectorAll('section[aria-label=Edges] li').length === 1);
    await bench.press('Straighten');
    await sayIncludes('at least two edges');
    await bench.saved();
    const [curve] = (await recipeOf('CPR_0014.dng')).lens.curves;
    // The edge is straight in truth, so the points on it must be, once the true lens is undone; and they lie where it is.
    const projection = { size: setup.size, focal: 1, model: truth, rotation: IDENTITY };
    expect(straightness([curve], projection)!.rms).toBeLessThan(1.2);
    const [middle] = curve.points.slice(curve.points.length >> 1);
    const place: Point = [middle[0] * unit + setup.size.width / 2, middle[1] * unit + setup.size.height / 2];
    const along = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const off = ((place[0] - a[0]) * (b[1] - a[1]) - (place[1] - a[1]) * (b[0] - a[0])) / along;
    expect(Math.abs(off)).toBeLessThan(10);
    await page.keyboard.press('Escape');
    await bench.saved();
  });

  it('has its colour edges measured from the picture, with the reading before and after', async () => {
    await tab('Colour edges');
    // They are measured after the frame can be opened.
    await page.waitForFunction(
      () => / px$/.test(document.querySelector('[data-testid=reading-fringe]')!.textContent!.trim()),
      { timeout: 60000 }
    );
    const before = parseFloat(await bench.reading('fringe'));
    await bench.press('Measure');
    await sayIncludes('Fringe 0.');
    const after = parseFloat(await bench.reading('fringe'));
    // What is left is little more than the edges' own noise, before and after; the truth is asked for below.
    expect(after).toBeLessThanOrEqual(before);
    await bench.saved();
    const { measured } = (await recipeOf('CPR_0014.dng')).lens;
    for (let r = 0.67; r < 0.8; r += 0.03) {
      for (const colour of ['red', 'blue'] as const) {
        const error = lateralShift(measured![colour], r) - lateralShift(truth.lateral![colour], r);
        expect(Math.abs(error) * r * unit).toBeLessThan(0.25);
      }
    }
  });
});

describe('a lens measured on the chart', () => {
  it('becomes a profile of the catalogue, is kept for the lens, and is applied to all frames that say the same', async () => {
    await page.goto(jobUrl, { waitUntil: 'networkidle2' });
    for (const name of ['BRN_0001.dng', 'BRN_0004.dng', 'BRN_0007_flat.dng'])
      await page.locator(`[aria-label="Select ${name}"]`).click();
    await bench.press('Lens…');
    await bench.press('Measure from them…');
    await page.locator('::-p-aria(Maker)').fill('Brindle Optical');
    await page.locator('.names label:nth-child(2) input').fill('Brindle Optical 12 mm f/5.6');
    await page.locator('.names label:last-child input').fill('12');
    await bench.press('Measure and store');
    await page.waitForFunction(() => document.querySelector('.found')?.textContent?.includes('Stored in'), {
      timeout: 90000
    });
    expect(await bench.text('.found')).toMatch(/corners fit within 0\.\d\d px RMS/);

    await bench.open(urls['CPR_0014.dng']);
    await bench.press('Catalogue…');
    await page.locator('::-p-aria(Search lenses)').fill('brindle');
    const row = (await page.waitForSelector(
      '::-p-xpath(//li/button[contains(., "Brindle Optical 12 mm")])'
    )) as ElementHandle<HTMLElement>;
    await row.click();
    await page.waitForFunction(
      () => document.querySelector('[data-testid=reading-falloff]')!.textContent === '0.00 EV'
    );
    // The profile of a lens without zoom tells the focal length that the file does not.
    expect(await bench.reading('proportion')).toBe('known focal length');
    await bench.press('Keep for this lens');
    expect(await sayIncludes('Kept for this camera and lens')).toMatch(/4 frames of the job/);
    await bench.saved();
    await page.goto(jobUrl, { waitUntil: 'networkidle2' });
    const cards = await page.$$eval('.frame', (all) => all.map((e) => e.textContent!));
    expect(cards.filter((card) => card.includes('profile kept for this lens'))).toHaveLength(4);
    // The chart itself now comes out straight: the profile against the truth, over the whole frame.
    const { rows } = (await (await fetch(`${app.address}/api/lenses?text=brindle`)).json()) as {
      rows: { id: string }[];
    };
    const { profile } = (await (await fetch(`${app.address}/api/lenses/${rows[0].id}`)).json()) as {
      profile: LensProfile;
    };
    expect(bowLeft(truth, profile.distortion[0], setup.size)).toBeLessThan(0.2);
  });

  it('is carried into the export and its report', async () => {
    const id = urls['CPR_0014.dng'].split('/').pop()!;
    const { report } = await exportPicture(app.address, id);
    expect(report.lens.profile!.lens).toMatch(/Brindle/);
    expect(report.readings.fringe!.worst).toBeLessThan(0.3);
    expect(report.readings.falloff).toBeCloseTo(0, 6);
    expect(report.notMeasured.join()).toMatch(/neutral/);
  });
});

describe('a lens without data', () => {
  it('is straightened by the edges of frames in the job, which have it then', async () => {
    await page.goto(jobUrl, { waitUntil: 'networkidle2' });
    for (const name of ['CPR_0014.dng', 'BRN_0001.dng', 'BRN_0004.dng'])
      await page.locator(`[aria-label="Select ${name}"]`).click();
    await bench.press('Lens…');
    await bench.press('Straighten by their edges…');
    await page.waitForSelector('dialog[open]');
    const dialog = (): Promise<string> => bench.text('dialog[open]');
    expect(await dialog()).toContain('Give the lens a name.');
    const field = async (label: string, text: string): Promise<void> => {
      await page.locator(`::-p-xpath(//dialog//label[contains(., "${label}")]//input)`).fill(text);
    };
    await field('Lens', 'A twelve by hand');
    await page.waitForFunction(() =>
      document.querySelector('dialog[open]')!.textContent!.includes('Give the focal length')
    );
    await field('Focal length', '12');
    await bench.press('Solve');
    await page.waitForFunction(
      () => /At 12 mm: bows of/.test(document.querySelector('dialog[open]')!.textContent!),
      { timeout: 60000 }
    );
    expect((await dialog()).match(/px → [\d.]+ px, \d+ of \d+ edges/g)!.length).toBeGreaterThanOrEqual(2);
    await bench.press('Solve and give');
    await page.waitForFunction(
      () => /Stored in the\s+Catalogue/.test(document.querySelector('dialog[open]')!.textContent!),
      { timeout: 60000 }
    );
    const named = (await recipeOf('CPR_0014.dng')).lens.profile;
    const known = (await (await fetch(`${app.address}/api/lenses/${named}`)).json()) as {
      profile?: LensProfile;
    } & LensProfile;
    const [{ terms, centre }] = (known.profile ?? known).distortion;
    expect(bowLeft(truth, { terms, centre }, setup.size)).toBeLessThan(bowLeft(truth, {}, setup.size) / 4);
  });
});

describe('the catalogue', () => {
  it('shows a profile with its plots, searches, duplicates, edits and removes', async () => {
    await page.goto(`${app.address}/lenses`, { waitUntil: 'networkidle2' });
    await page.locator('::-p-aria(Search)').fill('16-35');
    await page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1);
    await page.locator('tbody tr button').click();
    await page.waitForFunction(() => document.querySelectorAll('.plot svg.main-svg').length >= 3, {
      timeout: 30000
    });
    await bench.press('Duplicate');
    await page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 2);
    await page.waitForFunction(() => document.querySelector('.details h2')?.textContent?.includes('copy'));
    await bench.press('Edit');
    const box = (await page.$('textarea'))!;
    const known = JSON.parse(await box.evaluate((e) => (e as HTMLTextAreaElement).value)) as LensProfile;
    const setText = (value: unknown): Promise<void> =>
      box.evaluate((e, wanted) => {
        (e as HTMLTextAreaElement).value = wanted;
        e.dispatchEvent(new Event('input', { bubbles: true }));
      }, JSON.stringify(value));
    await setText({ ...known, distortion: [{ focalLength: 16, terms: [0, -0.6] }] });
    await bench.press('Save');
    await page.waitForFunction(() =>
      document.querySelector('[role=alert]')?.textContent?.includes('folds back at')
    );
    await bench.press('Remove');
    await bench.press('Remove it');
    await page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1);
  });

  it('imports calibration data, and says what of bad files is wrong', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'profiles-'));
    writeFileSync(join(folder, 'made-up.xml'), MADE_UP);
    writeFileSync(join(folder, 'bomb.xml'), ENTITY_BOMB);
    const input = (await page.$('[data-testid=profiles]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(join(folder, 'made-up.xml'), join(folder, 'bomb.xml'));
    await page.waitForSelector('.report');
    const report = await bench.text('.report');
    expect(report).toMatch(/1 file read: 3 profiles, 2 camera bodies/);
    expect(report).toMatch(/bomb\.xml: it declares entities/);
    expect(report).toMatch(/"panoramic"/);
    await page.locator('::-p-aria(Search)').fill('tarn');
    await page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 3);
  });
});
