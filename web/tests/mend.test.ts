/** Mending through the real interface: dust found, on other frames of the camera too, healed spots, cables, walked back, exported. */
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { MendSettings } from '../../core/steps/mend/step.ts';
import { dustOn } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
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
const OTHER = 'CPR_0003.dng';
const TURNED = 'SML_0130.dng';

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  ({ ids } = await jobWithFrames(page, app.address, 'Mend', [NAME, OTHER, TURNED]));
});
afterAll(() => app?.close());

const mend = async (name = NAME): Promise<MendSettings> =>
  (await frameAt<{ recipe: { mend?: MendSettings } }>(app.address, ids[name])).recipe.mend ?? {
    enabled: true,
    patches: []
  };

/** How many of a frame's patches lie on dust of the demo camera. */
async function onDust(name: string): Promise<number> {
  const frame = DEMO_FRAMES.find(({ file }) => file === name)!;
  const setup = setupAt(frame, 1500);
  const [unit, { width, height }] = [halfDiagonal(setup.size), setup.size];
  const specks = dustOn(setup);
  const { patches } = await mend(name);
  return patches.filter(({ points: [x, y] }) =>
    specks.some(
      (speck) => Math.hypot(x * unit + width / 2 - speck.x, y * unit + height / 2 - speck.y) < speck.radius
    )
  ).length;
}
const pixelsOf = async (name: string) =>
  sharp((await exportPicture(app.address, ids[name])).bytes)
    .raw()
    .toBuffer({ resolveWithObject: true });

describe('mending on the bench', () => {
  it('finds dust on the sky, each speck to be taken in or out', async () => {
    await bench.open(`${app.address}/frames/${ids[NAME]}`);
    await hand.key('7');
    await bench.press('Find dust');
    await page.waitForSelector('[data-testid=patches] li');
    expect(await bench.text('[data-testid=mend-said]')).toContain('specks found');
    await bench.saved();
    const { patches } = await mend();
    expect(patches.length).toBeGreaterThanOrEqual(4);
    expect(await onDust(NAME)).toBe(patches.length);
    expect(patches.every(({ dust, source }) => dust && Math.hypot(...source) > 0)).toBe(true);
    await page.click('[aria-label="Place 1 on or off"]');
    await bench.saved();
    expect((await mend()).patches[0].enabled).toBe(false);
    await bench.press('Undo');
    await bench.saved();
    // Once more there is nothing left to find.
    await bench.settled();
    await bench.press('Find dust');
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=mend-said]')?.textContent?.includes('No dust')
    );
    expect((await mend()).patches).toHaveLength(patches.length);
  });

  it('mends it on other frames of the camera where it shows, and takes that back', async () => {
    await bench.press('On other frames');
    await page.waitForFunction(() => document.body.textContent?.includes('other frames of this camera'));
    const [there, turned] = [await mend(OTHER), await mend(TURNED)];
    expect(there.patches.length).toBeGreaterThanOrEqual(2);
    expect(await onDust(OTHER)).toBe(there.patches.length);
    expect(await onDust(TURNED)).toBe(turned.patches.length);
    await page.evaluate(() => {
      const toast = [...document.querySelectorAll('button')].filter((b) => b.textContent?.trim() === 'Undo');
      toast.at(-1)!.click();
    });
    await page.waitForFunction(() => document.body.textContent?.includes('as before'));
    expect((await mend(OTHER)).patches).toHaveLength(0);
  });

  it('heals a spot with one press, whose source is shown and can be moved', async () => {
    const count = (await mend()).patches.length;
    await hand.key('Escape');
    const before = await hand.lightAt(0.25, 0.772);
    // One of the posts before the house.
    await hand.set('Size of the brush', 30);
    await hand.drag([0.255, 0.72], [0.255, 0.8]);
    await page.waitForFunction(
      (n) => document.querySelectorAll('[data-testid=patches] li').length === n,
      {},
      count + 1
    );
    await bench.saved();
    await bench.settled();
    expect(await hand.lightAt(0.255, 0.76)).not.toBe(before);
    const handles = await page.$$eval('[aria-label^="Mended place:"]', (all) =>
      all.map((each) => each.getAttribute('aria-label'))
    );
    expect(handles).toEqual(['Mended place: place', 'Mended place: source']);
    const { source } = (await mend()).patches.at(-1)!;
    await page.focus('[aria-label="Mended place: source"]');
    for (let n = 0; n < 4; n++) await page.keyboard.press('ArrowRight');
    await bench.saved();
    expect((await mend()).patches.at(-1)!.source[0]).toBeGreaterThan(source[0]);
    await page.reload();
    await bench.open(`${app.address}/frames/${ids[NAME]}`);
    await hand.key('7');
    expect(await page.$$eval('[data-testid=patches] li', (all) => all.length)).toBe(count + 1);
    await hand.key('.');
    await hand.key('Delete');
    await bench.saved();
    expect((await mend()).patches).toHaveLength(count);
  });

  it('takes a thing out that was painted over, names it, and fills it otherwise when asked', async () => {
    const count = (await mend()).patches.length;
    await hand.key('Escape');
    await bench.press('Take out');
    await hand.set('Size of the brush', 20);
    await hand.drag([0.255, 0.7], [0.255, 0.79]);
    await page.waitForFunction(
      (n) => document.querySelectorAll('[data-testid=patches] li').length === n,
      {},
      count + 1
    );
    await page.type('[aria-label="What was here"]', 'post');
    await page.keyboard.press('Tab');
    await bench.saved();
    const first = (await mend()).patches.at(-1)!;
    expect([first.kind, first.name]).toEqual(['takeOut', 'post']);
    expect(first.fill!.offsets.length).toBeGreaterThan(20);
    expect(await bench.text('[aria-label="Mended places"]')).toContain('taken out: post');
    await bench.press('Another try');
    await page.waitForFunction(
      () => !document.querySelector('[data-testid=mend-said]')?.textContent?.includes('Looking')
    );
    await bench.saved();
    expect((await mend()).patches.at(-1)!.fill).not.toEqual(first.fill);
    await hand.key('Delete');
    await bench.saved();
    expect((await mend()).patches).toHaveLength(count);
  });

  it('asks for a line along a cable, and takes it as one place', async () => {
    await bench.press('Cable');
    await page.mouse.click(...(await hand.at(0.5, 0.1)));
    expect(await bench.text('[data-testid=mend-said]')).toContain('Draw along the cable');
    const count = (await mend()).patches.length;
    await hand.drag([0.1, 0.1], [0.5, 0.14], [0.9, 0.1]);
    await page.waitForFunction(
      (n) => document.querySelectorAll('[data-testid=patches] li').length === n,
      {},
      count + 1
    );
    await bench.saved();
    const cable = (await mend()).patches.at(-1)!;
    expect(cable.kind).toBe('cable');
    expect(cable.points.length).toBeGreaterThanOrEqual(6);
    await bench.press('Undo');
    await bench.saved();
    expect((await mend()).patches).toHaveLength(count);
  });

  it('exports what the sheet shows: the specks are gone', async () => {
    const clean = await pixelsOf(NAME);
    await page.locator('[role=switch][aria-label*=Mend]').click();
    await bench.saved();
    expect((await mend()).enabled).toBe(false);
    const dusty = await pixelsOf(NAME);
    const { width, height, channels } = clean.info;
    expect([dusty.info.width, dusty.info.height]).toEqual([width, height]);
    let [changed, sum] = [0, 0];
    for (let i = 0; i < clean.data.length; i += channels) {
      const by = clean.data[i + 1] - dusty.data[i + 1];
      if (Math.abs(by) <= 4) continue;
      changed++;
      sum += by;
    }
    expect(changed).toBeGreaterThan(100);
    expect(changed / (width * height)).toBeLessThan(0.01);
    // Dust is a shade: without it the sky is lighter there.
    expect(sum / changed).toBeGreaterThan(1.5);
    await bench.press('Undo');
    await bench.saved();
  });
});

describe('bad input', () => {
  const put = async (patches: unknown[]): Promise<{ status: number; error: string }> => {
    const { version } = await frameAt<{ version: number }>(app.address, ids[OTHER]);
    const answer = await fetch(`${app.address}/api/frames/${ids[OTHER]}/recipe`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version, recipe: { mend: { patches } } })
    });
    return { status: answer.status, error: JSON.stringify(await answer.json()) };
  };
  const spot = { id: 'a', kind: 'heal', points: [0.1, 0.1], size: 10, source: [0.1, 0] };

  const FLAT = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  const filled = (how: object): object => ({
    ...spot,
    kind: 'takeOut',
    fill: { left: 0, top: 0, cell: 0.01, columns: 1, offsets: [9000, 0], ...how }
  });

  it('is refused in words', async () => {
    for (const bad of [
      [{ ...spot, points: [0.1] }],
      [{ ...spot, kind: 'vanish' }],
      [{ ...spot, size: 4000 }],
      [{ ...spot, points: [9, 9] }],
      [{ ...spot, source: [9, 0] }],
      [{ ...spot, points: Array<number>(5000).fill(0.1) }],
      [filled({ surfaces: [[1, 0, 0, 0, 1, 0, 0, 0]] })],
      [filled({ surfaces: Array.from({ length: 5 }, () => FLAT) })],
      [filled({ surfaces: [FLAT], along: [9] })],
      Array.from({ length: 400 }, (_, i) => ({ ...spot, id: String(i) }))
    ]) {
      const { status, error } = await put(bad);
      expect(status).toBe(422);
      expect(error.length).toBeGreaterThan(20);
      expect((await mend(OTHER)).patches).toHaveLength(0);
    }
  });

  it('that is lawful and does nothing is taken, and dust is only sent where there is some', async () => {
    expect((await put([{ ...spot, points: [1.4, 1.4], source: [-2.4, 2.4] }])).status).toBe(200);
    expect((await exportPicture(app.address, ids[OTHER])).bytes.length).toBeGreaterThan(10_000);
    // Along a surface that is none, what is there stays there; one that is not named is none.
    for (const how of [
      { surfaces: [Array<number>(9).fill(0)], along: [1] },
      { surfaces: [FLAT], along: [4] }
    ]) {
      expect((await put([filled(how)])).status).toBe(200);
      expect((await exportPicture(app.address, ids[OTHER])).bytes.length).toBeGreaterThan(10_000);
    }
    const sent = await fetch(`${app.address}/api/frames/${ids[OTHER]}/dust`, { method: 'POST' });
    expect(sent.status).toBe(422);
    expect(await sent.text()).toContain('No dust is mended on this frame');
  });
});
