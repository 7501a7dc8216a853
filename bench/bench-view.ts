/**
 * npm run bench:view: what a photographer waits for on the bench, in a real browser at 1280 x 800 on 24 and 45 MP raw files:
 * from moving a control to the new picture, 1:1, and the next frame.
 */
import { ALL_TONE } from './all-tone.ts';
import { areasAtWork } from './areas-at-work.ts';
import type { Page } from 'puppeteer-core';
import { openBrowser } from '../tools/open-browser.ts';
import { SIZES, type SizeName, pause, rawFile, say, startOwnApp } from './running-app.ts';

async function addFrame(job: string, name: SizeName, i: number): Promise<{ id: string; seconds: number }> {
  const bytes = rawFile(name, i);
  const started = performance.now();
  const { id } = await app.post<{ id: string }>(
    `/api/jobs/${job}/frames?name=${name.replace(' ', '')}-${i}.dng`,
    bytes as Uint8Array<ArrayBuffer>,
    'application/octet-stream'
  );
  for (;;) {
    const { frame } = await app.get<{ frame: { state: string } }>(`/api/frames/${id}`);
    if (frame.state === 'ready') return { id, seconds: (performance.now() - started) / 1000 };
    if (frame.state === 'failed') throw new Error(`${name} could not be prepared.`);
    await pause(50);
  }
}

const EIGHT_AREAS = areasAtWork(8);

const share = (times: readonly number[], part: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * part))];

const told = (name: string, times: readonly number[], most: number): void =>
  say(
    `  ${name.padEnd(46)}${share(times, 0.5).toFixed(0).padStart(5)} ms median ${share(times, 0.95).toFixed(0).padStart(5)} ms p95 (wanted ${most})`
  );

/** Waits until the sheet was drawn again, sharp if that is asked for. */
const drawn = (page: Page, after: number, sharp = false): Promise<unknown> =>
  page.waitForFunction(
    (after, sharp) => {
      const dataset = document.querySelector<HTMLElement>('canvas[data-testid=picture]')?.dataset;
      return Number(dataset?.drawn ?? 0) > after && (!sharp || dataset?.sharp === 'true');
    },
    { polling: 'raf', timeout: 30_000 },
    after,
    sharp
  );
const count = (page: Page): Promise<number> =>
  page.$eval('canvas[data-testid=picture]', (canvas) => Number((canvas as HTMLElement).dataset.drawn ?? 0));

/** Moves a slider, and waits for the picture each time: in the page itself, from the event to the drawn canvas. */
function moved(page: Page, label: string, steps: number, motion: boolean): Promise<number[]> {
  return page.evaluate(
    async (label, steps, motion) => {
      const slider = document.querySelector<HTMLInputElement>(`input[type=range][aria-label^="${label}"]`)!;
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-testid=picture]')!;
      const from = Number(slider.value);
      const step = (Number(slider.max) - Number(slider.min)) / 200;
      const times: number[] = [];
      for (let i = 1; i <= steps; i++) {
        const before = Number(canvas.dataset.drawn);
        const started = performance.now();
        slider.value = String(from + step * (i % 20));
        slider.dispatchEvent(new Event('input', { bubbles: true }));
        if (!motion) slider.dispatchEvent(new Event('change', { bubbles: true }));
        // No helpers: what they are compiled to is not known in the page.
        while (!(Number(canvas.dataset.drawn) > before && (motion || canvas.dataset.rest === 'true')))
          await new Promise((done) => setTimeout(done, 1));
        times.push(Number(canvas.dataset.at) - started);
        if (!motion) await new Promise((done) => setTimeout(done, 60));
      }
      slider.dispatchEvent(new Event('change', { bubbles: true }));
      await new Promise((done) => setTimeout(done, 400));
      return times;
    },
    label,
    steps,
    motion
  );
}

/** Last points of a stroke that are waited for, one by one. */
const LAST_POINTS = 15;

/** Paints a stroke; milliseconds from each of its last points to the picture that has it, and from letting go to that at rest. */
async function painted(page: Page, points: number): Promise<{ motion: number[]; rest: number }> {
  const box = (await (await page.$('canvas[data-testid=picture]'))!.boundingBox())!;
  const at = (i: number): [number, number] => [
    box.x + box.width * (0.2 + (0.6 * i) / points),
    box.y + box.height * (0.5 + 0.2 * Math.sin(i / 25))
  ];
  const motion: number[] = [];
  await page.mouse.move(...at(0));
  await page.mouse.down();
  for (let i = 1; i < points; i++) {
    const isLast = i >= points - LAST_POINTS;
    // Nothing is drawn any more.
    if (isLast) await pause(300);
    const before = isLast ? await count(page) : 0;
    const started = performance.now();
    await page.mouse.move(...at(i));
    if (!isLast) continue;
    await drawn(page, before);
    motion.push(performance.now() - started);
  }
  const before = await count(page);
  const started = performance.now();
  await page.mouse.up();
  await drawn(page, before);
  return { motion, rest: performance.now() - started };
}

const app = await startOwnApp(4196);

async function putRecipe(id: string, steps: object): Promise<void> {
  const { frame } = await app.get<{ frame: { version: number; recipe: Record<string, unknown> } }>(
    `/api/frames/${id}`
  );
  await fetch(`${app.address}/api/frames/${id}/recipe`, {
    method: 'PUT',
    body: JSON.stringify({ version: frame.version, recipe: { ...frame.recipe, areas: {}, ...steps } }),
    headers: { 'content-type': 'application/json' }
  });
}

const browser = await openBrowser();
try {
  for (const name of Object.keys(SIZES) as SizeName[]) {
    say(name);
    const { id: job } = await app.post<{ id: string }>('/api/jobs', JSON.stringify({ name }));
    const first = await addFrame(job, name, 1);
    const second = await addFrame(job, name, 2);
    say(
      `  ${'from dropping a frame to opening it'.padEnd(46)}${first.seconds.toFixed(1)} s, then ${second.seconds.toFixed(1)} s`
    );
    const page = await browser.newPage();
    await page.goto(`${app.address}/frames/${first.id}`);
    await drawn(page, 0);
    await pause(3000);
    /** Opens a page of a step's deck. */
    const turnTo = async (step: string, name: string): Promise<void> => {
      // A slider or tab that has the focus keeps keys to itself.
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      await page.keyboard.press(step as '1');
      await page.locator(`::-p-xpath(//*[@role='tab'][normalize-space()='${name}'])`).click();
      await pause(300);
    };
    await turnTo('2', 'By hand');
    told('a Lines control, in motion', await moved(page, 'Roll', 60, true), 50);
    told('a Lines control, at rest', await moved(page, 'Roll', 15, false), 200);
    await turnTo('1', 'Profile');
    told('a Lens control, in motion', await moved(page, 'Distortion', 60, true), 50);
    told('a Lens control, at rest', await moved(page, 'Distortion', 15, false), 200);
    await turnTo('1', 'Falloff');
    told('a light control (falloff), in motion', await moved(page, 'Corners', 60, true), 25);
    // Every tone and colour control in use, and then one of them moved.
    await putRecipe(first.id, ALL_TONE);
    await page.reload();
    await drawn(page, 0);
    await pause(3000);
    await turnTo('4', 'Light');
    told('exposure, all of tone and colour in use', await moved(page, 'Exposure', 60, true), 50);
    told('highlights, the same', await moved(page, 'Highlights', 60, true), 50);
    await turnTo('5', 'Balance');
    told('saturation, the same', await moved(page, 'Saturation', 60, true), 50);
    // Eight areas at work, and one of them changed: what it does, where it fades, and a stroke of 500 points.
    await putRecipe(first.id, { ...ALL_TONE, areas: EIGHT_AREAS });
    await page.reload();
    await drawn(page, 0);
    await pause(3000);
    await turnTo('6', 'Light');
    await page.keyboard.press('.');
    await pause(1000);
    told('an area’s exposure, eight at work, in motion', await moved(page, 'Exposure', 40, true), 80);
    await turnTo('6', 'Edge');
    told('the feather of its shape, in motion', await moved(page, 'Feather', 40, true), 80);
    await turnTo('6', 'Shape');
    await page.locator(`::-p-xpath(//button[normalize-space()='Brush'])`).click();
    const { motion, rest } = await painted(page, 500);
    told('the last points of a stroke of 500', motion, 80);
    told('the same stroke let go, to the picture at rest', [rest], 200);
    // Saved, before another recipe takes its place: a page with changes asks before it goes.
    await pause(2000);
    await putRecipe(first.id, ALL_TONE);
    await page.reload();
    await drawn(page, 0);
    await pause(3000);
    const sheet = (await page.$('canvas[data-testid=picture]'))!;
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    const box = (await sheet.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    let before = await count(page);
    let started = performance.now();
    await page.keyboard.press('f');
    await drawn(page, before, true);
    told('1:1, sharp', [performance.now() - started], 300);
    await page.keyboard.press('f');
    await pause(1500);
    before = 0;
    started = performance.now();
    await page.keyboard.press('d');
    await page.waitForFunction(
      (id) =>
        location.pathname.endsWith(id) &&
        Number(document.querySelector<HTMLElement>('canvas[data-testid=picture]')?.dataset.drawn ?? 0) > 0,
      { polling: 'raf' },
      second.id
    );
    told('the next frame', [performance.now() - started], 250);
    await page.close();
  }
} finally {
  await browser.close();
  await app.end();
}
