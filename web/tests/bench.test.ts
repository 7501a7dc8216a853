/** The whole way through the real interface, and what it made measured against the scene's truth. */
import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { differenceCiede2000 } from 'culori';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { Point } from '../../core/math/frame-geometry.ts';
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import { projectPoint, setupLens } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import type { ItemRow } from '../../server/deliveries/deliveries.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { askForPicture, latestPicture } from './export-picture.ts';
import { exportedVerticals } from './exported-verticals.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

let app: Running;
let browser: Browser;
let page: Page;
let frameUrl = '';
const setup = setupAt(DEMO_FRAMES[0], 1500);
const edges = DEMO_FRAMES[0].scene().edges;

let settled: BenchPage['settled'];
let text: BenchPage['text'];
let reading: BenchPage['reading'];
let press: BenchPage['press'];
let saved: BenchPage['saved'];
let screenOf: (sensor: Point) => Promise<Point>;

async function drag(from: Point, to: Point): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 });
  await page.mouse.move(...to, { steps: 4 });
  await page.mouse.up();
}

beforeAll(async () => {
  app = await startApp(newDataFolder());
  browser = await openBrowser();
  page = await browser.newPage();
  const onPage = benchPage(page);
  ({ settled, text, reading, press, saved } = onPage);
  screenOf = (sensor) => onPage.screenOf(sensor, setup);
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});

describe('the way from a raw file to a straight picture', () => {
  it('makes a job and adds frames, telling good from bad', async () => {
    await page.goto(app.address, { waitUntil: 'networkidle2' });
    expect(await text('main h2')).toBe('Begin with your photographs');
    await press('New job');
    await page.locator('::-p-aria(Name)').fill('Harbour office');
    await press('Make the job');
    await page.waitForFunction(() => location.pathname.startsWith('/jobs/'));
    const input = (await page.waitForSelector('[data-testid=files]')) as ElementHandle<HTMLInputElement>;
    const folder = mkdtempSync(join(tmpdir(), 'bad-'));
    writeFileSync(join(folder, 'notes.dng'), 'Shot list: west front, stair. '.repeat(50));
    writeFileSync(join(folder, 'empty.jpg'), '');
    await input.uploadFile(
      join(folder, 'notes.dng'),
      join(inject('photographs'), 'SML_0101.dng'),
      join(folder, 'empty.jpg'),
      join(inject('photographs'), 'SML_0130.dng')
    );
    await page.waitForFunction(() => document.querySelectorAll('.frame[data-state=ready] img').length === 2, {
      timeout: 60000
    });
    const list = await text('.uploads');
    expect(list).toMatch(/notes\.dng.*text file/);
    expect(list).toMatch(/empty\.jpg.*empty/);
    const card = await text('.frame');
    expect(card).toMatch(/24 mm.*Fenwright F2.*f\/8.*1\/250 s.*ISO 100/s);
    expect(card).not.toContain('no lens profile');
  });

  it('applies the matching profile by itself, and shows the difference when it is switched off', async () => {
    await page.locator('a[aria-label="Open SML_0101.dng"]').click();
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    frameUrl = page.url();
    await settled();
    expect(await text('[data-testid=state-lens]')).toBe('automatic');
    expect(await reading('falloff')).toBe('0.00 EV');
    expect(await reading('plumb')).toBe('no plumb lines yet');
    expect(await reading('proportion')).toBe('known focal length');
    const corner = (): Promise<number> =>
      page.$eval('[data-testid=picture]', (canvas) => {
        const c = canvas as HTMLCanvasElement;
        const view = JSON.parse(c.dataset.crop!) as { left: number; top: number };
        const { data } = c.getContext('2d')!.getImageData(view.left + 4, view.top + 4, 12, 12);
        return data.reduce((sum, value) => sum + value, 0);
      });
    const on = await corner();
    await page.locator('[aria-label="Lens on or off"]').click();
    await settled();
    expect(await reading('falloff')).toBe('no profile');
    await expect.poll(corner).toBeLessThan(on * 0.93);
    await press('Undo');
    await expect.poll(corner).toBe(on);
  });

  it('trues up from two plumb lines drawn with the mouse', async () => {
    await page.keyboard.press('2');
    await settled();
    const corners = edges.filter((edge) => edge.kind === 'plumb' && edge.b[1] === 8.2);
    expect(corners.length).toBe(2);
    for (const { a, b } of corners) {
      await drag(await screenOf(projectPoint(a, setup)!), await screenOf(projectPoint(b, setup)!));
    }
    expect(parseFloat(await reading('plumb'))).toBeGreaterThan(2);
    await press('From marks');
    await settled();
    expect(await reading('plumb')).toBe('0.00°');
    expect(await reading('cover')).toBe('100 %');
    await page.locator('::-p-aria(By hand[role="tab"])').click();
    const found = await page.$$eval('section[aria-label="Angles"] input[type=text]', (all) =>
      all.map((e) => (e as HTMLInputElement).value)
    );
    expect(Math.abs(Number(found[0]) - setup.angles.roll)).toBeLessThan(0.15);
    expect(Math.abs(Number(found[1]) - setup.angles.pitch)).toBeLessThan(0.3);
  });

  it('holds the correction back, by typing', async () => {
    const holdBack = async (name: string, percent: string): Promise<void> => {
      const field = (await page.$(`::-p-aria(Hold back ${name}[role="textbox"])`))!;
      await field.click({ count: 3 });
      await page.keyboard.type(percent);
      await page.keyboard.press('Enter');
      await settled();
    };
    await holdBack('pitch', '100');
    const withRoll = parseFloat(await reading('plumb'));
    expect(withRoll).toBeGreaterThan(2);
    await holdBack('roll', '100');
    expect(parseFloat(await reading('plumb'))).not.toBeCloseTo(withRoll, 1);
    await press('Undo');
    await press('Undo');
    expect(await reading('plumb')).toBe('0.00°');
  });

  it('crops to 4:3, keeps every change over a reload, and steps back and forth', async () => {
    await page.keyboard.press('3');
    await press('4:3');
    await saved();
    const output = await reading('output');
    await page.reload({ waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    expect(await reading('output')).toBe(output);
    expect(await text('[data-testid=state-crop]')).toBe('by hand');
    const [width, height] = output.split(' × ').map(Number);
    expect(Math.abs(height - (width * 3) / 4)).toBeLessThanOrEqual(0.5);
    await page.keyboard.press('3');
    await press('4:5');
    expect(await reading('output')).not.toBe(output);
    await press('Undo');
    expect(await reading('output')).toBe(output);
    await press('Redo');
    expect(await reading('output')).not.toBe(output);
    await press('Undo');
    await saved();
  });

  it('exports a picture that is plumb, whole and 4:3 against the truth', async () => {
    await press('Export');
    await press('Export picture');
    await page.waitForSelector('li[data-state=done]', { timeout: 60000 });
    const frameId = frameUrl.split('/').pop()!;
    const { bytes, report } = await latestPicture(app.address, frameId);
    const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect(Math.abs(info.height - (info.width * 3) / 4)).toBeLessThanOrEqual(0.5);
    expect(report.picture.pixels).toEqual({ width: info.width, height: info.height });
    expect(report.readings.cover).toBe(100);

    const { focal } = setupLens(setup);
    expect(focal).toBeCloseTo(24 / FULL_FRAME_HALF_DIAGONAL, 6);
    const measured = exportedVerticals({ ...info, data }, report, setup, edges);
    expect(measured.length).toBeGreaterThanOrEqual(10);
    const median = measured.map(({ angle }) => Math.abs(angle)).sort((a, b) => a - b)[measured.length >> 1];
    expect(median).toBeLessThan(0.1);
    // Beside short window edges run the shadows of their reveals; the building's own corners stand free.
    const long = measured.filter(({ length }) => length > 140);
    expect(long.length).toBeGreaterThanOrEqual(6);
    for (const { angle } of long) expect(Math.abs(angle)).toBeLessThan(0.1);

    // Blank pixels are black; nothing in this scene is, least of all along the border.
    let blank = 0;
    for (let x = 0; x < info.width; x++)
      for (const y of [0, info.height - 1]) if (data[y * info.width + x] < 8) blank++;
    for (let y = 0; y < info.height; y++)
      for (const x of [0, info.width - 1]) if (data[y * info.width + x] < 8) blank++;
    expect(blank).toBe(0);
  });

  it('shows on the bench what it exports, within half a ΔE', async () => {
    await page.goto(frameUrl, { waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    await settled();
    const shown = await page.$eval('[data-testid=picture]', (canvas) => {
      const c = canvas as HTMLCanvasElement;
      const { left, top, width, height } = JSON.parse(c.dataset.crop!) as Record<string, number>;
      const [x, y] = [Math.round(left), Math.round(top)];
      const [w, h] = [Math.round(left + width) - x, Math.round(top + height) - y];
      return { w, h, pixels: [...c.getContext('2d')!.getImageData(x, y, w, h).data] };
    });
    // The same size again, this time rendered by the server from the raw file.
    await press('Export');
    await page.select('form[aria-label="Export settings"] .row:first-child select', 'long');
    await page.locator('::-p-aria(Edge \\(px\\))').fill(String(Math.max(shown.w, shown.h)));
    await page.select('form[aria-label="Export settings"] .row:nth-child(2) label:last-child select', 'none');
    // Without losses of its own.
    await page.select('form[aria-label="Export settings"] .row:nth-child(2) label:first-child select', 'png');
    await press('Export picture');
    await page.waitForFunction(() => document.querySelectorAll('li[data-state=done]').length === 2, {
      timeout: 60000
    });
    const frameId = frameUrl.split('/').pop()!;
    const { bytes } = await latestPicture(app.address, frameId);
    const { width, height } = await sharp(bytes).metadata();
    expect(Math.abs(width - shown.w) + Math.abs(height - shown.h)).toBeLessThanOrEqual(2);
    const small = await sharp(bytes).resize(shown.w, shown.h, { fit: 'fill' }).raw().toBuffer();
    const difference = differenceCiede2000();
    const colour = (r: number, g: number, b: number) => ({
      mode: 'rgb' as const,
      r: r / 255,
      g: g / 255,
      b: b / 255
    });
    let sum = 0;
    let count = 0;
    for (let i = 0; i < shown.w * shown.h; i += 7) {
      const [r, g, b] = shown.pixels.slice(i * 4, i * 4 + 3);
      sum += difference(colour(r, g, b), colour(small[i * 3], small[i * 3 + 1], small[i * 3 + 2]));
      count++;
    }
    // The file is dithered, and the screen is not.
    expect(sum / count).toBeLessThan(0.6);
  });

  it('tells a second window of newer changes and loses neither', async () => {
    await page.goto(frameUrl, { waitUntil: 'networkidle2' });
    const other = await browser.newPage();
    await other.goto(frameUrl, { waitUntil: 'networkidle2' });
    await page.bringToFront();
    await page.keyboard.press('3');
    await press('4:5');
    await saved();
    await other.bringToFront();
    await other.keyboard.press('3');
    await other.locator('::-p-xpath(//button[normalize-space()="16:9"])').click();
    await other.locator('::-p-xpath(//button[normalize-space()="Take the other"])').click();
    await other.waitForFunction(() => {
      const [width, height] = document
        .querySelector('[data-testid=reading-output]')!
        .textContent!.split(' × ')
        .map(Number);
      return Math.abs(height - (width * 5) / 4) <= 1;
    });
    await other.close();
  });
});

describe('starting and stopping', () => {
  it('finishes after a kill in the middle of an export and of an import, with everything whole', async () => {
    const frameId = frameUrl.split('/').pop()!;
    const api = (path: string): string => `${app.address}/api${path}`;
    const post = (path: string, body: unknown): Promise<Response> =>
      fetch(api(path), {
        method: 'POST',
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' }
      });
    await askForPicture(app.address, frameId);
    const { id: jobId } = (await (await post('/jobs', { name: 'Second job' })).json()) as { id: string };
    const bytes = readFileSync(join(inject('photographs'), 'SML_0130.dng'));
    const added = await fetch(api(`/jobs/${jobId}/frames?name=SML_0130.dng`), {
      method: 'POST',
      body: bytes,
      headers: { 'content-type': 'application/octet-stream' }
    });
    expect(added.status, await added.clone().text()).toBe(201);
    // One upload is still on its way when the power goes.
    const half = fetch(api(`/jobs/${jobId}/frames?name=half.dng`), {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      duplex: 'half',
      body: new ReadableStream({
        start(controller) {
          controller.enqueue(new Uint8Array(bytes.subarray(0, 200000)));
        }
      })
    } as RequestInit).catch(() => null);
    await new Promise((resolve) => setTimeout(resolve, 300));
    const data = app.child.spawnargs[app.child.spawnargs.indexOf('--data') + 1];
    await app.kill();
    await half;
    app = await startApp(data);
    const deadline = Date.now() + 90000;
    for (;;) {
      const [row] = (await (await fetch(api(`/frames/${frameId}/deliveries`))).json()) as ItemRow[];
      const { frames } = (await (await fetch(api(`/jobs/${jobId}`))).json()) as {
        frames: { name: string; state: string }[];
      };
      if (row.state === 'done' && frames.every((frame) => frame.state === 'ready')) {
        expect(frames.map((frame) => frame.name)).toEqual(['SML_0130.dng']);
        const { bytes: picture } = await latestPicture(app.address, frameId);
        expect((await sharp(picture).stats()).channels.length).toBe(3);
        break;
      }
      if (Date.now() > deadline)
        throw new Error(`export ${row.state} ${row.error}, frames ${JSON.stringify(frames)}`);
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    const written = readdirSync(join(data, 'deliveries'), { recursive: true }) as string[];
    expect(written.filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('stops everything it started on Ctrl-C', async () => {
    expect(await app.interrupt()).toBe(0);
    await expect(fetch(app.address)).rejects.toThrow();
    const data = app.child.spawnargs[app.child.spawnargs.indexOf('--data') + 1];
    expect(readdirSync(join(data, 'database/cluster'))).not.toContain('postmaster.pid');
  });
});
