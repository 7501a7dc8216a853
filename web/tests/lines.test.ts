/** Truing up by itself through the real interface, against the demo camera's truth. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { Recipe } from '../../core/recipe/schema.ts';
import { DEMO_FRAMES } from '../../scenes/demo-frames.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let page: Page;
let bench: BenchPage;
let jobUrl = '';
const ids: Record<string, string> = {};
const NAMES = ['SML_0101.dng', 'SML_0130.dng', 'CPR_0014.dng', 'BRN_0007_flat.dng'];

const linesOf = async (name: string): Promise<Recipe['lines']> => {
  const { frame } = (await (await fetch(`${app.address}/api/frames/${ids[name]}`)).json()) as {
    frame: { recipe: Recipe };
  };
  return frame.recipe.lines;
};
const truthOf = (name: string) => DEMO_FRAMES.find(({ file }) => file === name)!.setup.angles;

beforeAll(async () => {
  app = await startApp(newDataFolder());
  browser = await openBrowser();
  page = await browser.newPage();
  bench = benchPage(page);
  const post = async <T>(path: string, body: BodyInit, type: string): Promise<T> => {
    const response = await fetch(`${app.address}/api${path}`, {
      method: 'POST',
      body,
      headers: { 'content-type': type }
    });
    return (await response.json()) as T;
  };
  const { id } = await post<{ id: string }>('/jobs', '{"name":"Lines"}', 'application/json');
  jobUrl = `${app.address}/jobs/${id}`;
  for (const name of NAMES) {
    const bytes = readFileSync(join(inject('photographs'), name));
    ids[name] = (
      await post<{ id: string }>(`/jobs/${id}/frames?name=${name}`, bytes, 'application/octet-stream')
    ).id;
  }
  await page.goto(jobUrl, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(
    (n) => document.querySelectorAll('.frame[data-state=ready] img').length === n,
    { timeout: 90000 },
    NAMES.length
  );
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

describe('truing up by itself', () => {
  it('finds plumb lines, sets the verticals, and says how sure it is', async () => {
    await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
    await page.keyboard.press('2');
    await bench.press('By itself');
    await page.waitForFunction(
      () => /plumb lines agree within/.test(document.querySelector('.said')?.textContent ?? ''),
      { timeout: 30000 }
    );
    expect(parseFloat(await bench.reading('plumb'))).toBeLessThan(0.15);
    await bench.saved();
    const { marks, roll, pitch, yaw } = await linesOf('SML_0101.dng');
    const truth = truthOf('SML_0101.dng');
    expect(marks.length).toBeGreaterThan(8);
    expect(marks.every((mark) => mark.found)).toBe(true);
    expect(Math.abs(roll - truth.roll)).toBeLessThan(0.1);
    expect(Math.abs(pitch - truth.pitch)).toBeLessThan(0.2);
    expect(yaw).toBe(0);
  });

  it('lets a found line be taken out, and squares up a whole front', async () => {
    const { marks } = await linesOf('SML_0101.dng');
    await page.click('button[aria-label="Remove mark 1"]');
    await bench.press('From marks');
    await bench.saved();
    expect((await linesOf('SML_0101.dng')).marks).toHaveLength(marks.length - 1);
    await page.select('select[aria-label="What becomes true"]', 'front');
    await bench.press('By itself');
    await page.waitForFunction(
      () => !document.querySelector('[data-testid=reading-level]')!.textContent!.startsWith('no '),
      { timeout: 30000 }
    );
    await bench.saved();
    const front = await linesOf('SML_0101.dng');
    expect(Math.abs(front.yaw - truthOf('SML_0101.dng').yaw)).toBeLessThan(0.5);
    expect(parseFloat(await bench.reading('level'))).toBeLessThan(0.2);
  });

  it('trues up chosen frames of a job, and leaves alone what shows no lines, with the reason', async () => {
    await page.goto(jobUrl, { waitUntil: 'networkidle0' });
    for (const name of NAMES.slice(1)) await page.click(`[aria-label="Choose ${name}"]`);
    await bench.press('True up');
    await page.waitForFunction(
      () => document.querySelector('.batch')?.textContent?.includes('2 trued up; 1 left as they are'),
      { timeout: 60000 }
    );
    const cards = await page.$$eval('.frame', (all) => all.map((e) => e.textContent!.replace(/\s+/g, ' ')));
    expect(cards.find((card) => card.includes('flat'))).toMatch(
      /Left as it is: there are too few upright lines/
    );
    // The reading goes along to the job.
    expect(cards.find((card) => card.includes('SML_0130'))).toMatch(/plumb 0\.[01]\d°/);
    for (const name of ['SML_0130.dng', 'CPR_0014.dng']) {
      const { roll, pitch } = await linesOf(name);
      // The 12 mm lens names no focal length: its tilt cannot come out in full, its roll does.
      expect(Math.abs(roll - truthOf(name).roll)).toBeLessThan(0.3);
      if (name === 'SML_0130.dng') expect(Math.abs(pitch - truthOf(name).pitch)).toBeLessThan(0.3);
    }
  });
});
