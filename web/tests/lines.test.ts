/** Truing up by itself through the real interface, against the demo camera's truth. */
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { type Point, fieldToSensor } from '../../core/math/frame-geometry.ts';
import { projectPoint } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import sharp from 'sharp';
import { exportPicture } from './export-picture.ts';
import { exportedVerticals } from './exported-verticals.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let jobUrl = '';
let ids: Record<string, string> = {};
const NAMES = [
  'SML_0101.dng',
  'SML_0130.dng',
  'CPR_0014.dng',
  'CPR_0003.dng',
  'CPR_0021.dng',
  'BRN_0007_flat.dng'
];

const linesOf = async (name: string): Promise<Recipe['lines']> =>
  (await frameAt<{ recipe: Recipe }>(app.address, ids[name])).recipe.lines;
/** The marks on the screen, from the sheet's rulers. */
async function marksOnScreen(): Promise<{ id: string; kind: string; ends: [Point, Point] }[]> {
  const { marks, roll, pitch, yaw } = await linesOf('SML_0101.dng');
  const setup = setupAt(DEMO_FRAMES[0], 1500);
  const place = (field: Point): Promise<Point> =>
    bench.screenOf(fieldToSensor(field, setup.size), setup, true, { roll, pitch, yaw });
  const placed = [];
  for (const { id, kind, a, b } of marks)
    placed.push({ id, kind, ends: [await place(a as Point), await place(b as Point)] as [Point, Point] });
  return placed;
}
const middleOf = ([[ax, ay], [bx, by]]: [Point, Point]): Point => [(ax + bx) / 2, (ay + by) / 2];
/** Pixels from a place to the nearest of some marks. */
const room = ([x, y]: Point, marks: readonly { ends: [Point, Point] }[]): number =>
  Math.min(
    ...marks.map(({ ends: [[ax, ay], [bx, by]] }) => {
      const [dx, dy] = [bx - ax, by - ay];
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
      return Math.hypot(x - ax - t * dx, y - ay - t * dy);
    })
  );
const truthOf = (name: string) => DEMO_FRAMES.find(({ file }) => file === name)!.setup.angles;

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  const made = await jobWithFrames(page, app.address, 'Lines', NAMES);
  ids = made.ids;
  jobUrl = `${app.address}/jobs/${made.jobId}`;
});
afterAll(() => app?.close());

describe('truing up by itself', () => {
  it('finds plumb lines, sets the verticals, and says how sure it is', async () => {
    await bench.open(`${app.address}/frames/${ids['SML_0101.dng']}`);
    await page.keyboard.press('2');
    await bench.press('By itself');
    await page.waitForFunction(
      () => /plumb lines \(±/.test(document.querySelector('.said')?.textContent ?? ''),
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

  it('takes a found line out with a press and in again, and several at once with a lasso', async () => {
    const counted = async (): Promise<number> =>
      (await linesOf('SML_0101.dng')).marks.filter((mark) => mark.kind === 'plumb' && !mark.out).length;
    const before = await counted();
    const { marks } = await linesOf('SML_0101.dng');
    const shown = await marksOnScreen();
    // The plumb line that others lie farthest from.
    const [at] = shown
      .filter(({ kind }) => kind === 'plumb')
      .map(({ id, ends }) => ({
        at: middleOf(ends),
        free: room(
          middleOf(ends),
          shown.filter((other) => other.id !== id)
        )
      }))
      .sort((one, other) => other.free - one.free)
      .map((each) => each.at);
    await page.mouse.click(...at);
    await expect.poll(counted).toBe(before - 1);
    // Two presses close together would be a double one.
    await bench.settled();
    await page.mouse.click(...at);
    await expect.poll(counted).toBe(before);

    await bench.press('Choose');
    const box = (await (await page.$('[data-testid=picture]'))!.boundingBox())!;
    const [left, top, right, bottom] = [box.x + 4, box.y + 4, box.x + box.width - 4, box.y + box.height - 4];
    await page.mouse.move(left, top);
    await page.mouse.down();
    for (const [x, y] of [
      [right, top],
      [right, bottom],
      [left, bottom]
    ])
      await page.mouse.move(x, y, { steps: 3 });
    await page.mouse.up();
    expect(await bench.text('section[aria-label="Chosen lines"] h2')).toBe(`${marks.length} chosen, as`);
    await bench.press('Nothing');
    await bench.saved();
    expect(await counted()).toBe(0);
    // Nothing is taken in any more: what was found when the frame was added is read.
    expect(await bench.reading('plumb')).toMatch(/found$/);
    await bench.press('Undo');
    await bench.saved();
    expect(await counted()).toBe(before);
  });

  it('removes a found line, takes a drawn one, and squares up a whole front', async () => {
    const { marks } = await linesOf('SML_0101.dng');
    await page.locator('button[aria-label="Remove mark 1"]').click();
    await page.locator('::-p-aria(Plumb[role="button"])').click();
    // An upright line in the sky, where none was found: a press on one would take it out, one by its end drag that.
    const sheet = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
    const crop = await bench.crop();
    const [x, y] = [sheet.x + crop.left + crop.width / 2, sheet.y + crop.top + crop.height * 0.08];
    expect(room([x, y + 30], await marksOnScreen())).toBeGreaterThan(40);
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x, y + 60, { steps: 5 });
    await page.mouse.up();
    await bench.saved();
    const drawn = (await linesOf('SML_0101.dng')).marks;
    expect(drawn).toHaveLength(marks.length);
    expect(drawn.at(-1)).not.toHaveProperty('found');
    await bench.press('From marks');
    await bench.saved();
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

  it('measures lengths on the front from one that is known, within what it says of them', async () => {
    await page.locator('::-p-aria(Lengths[role="tab"])').click();
    const setup = setupAt(DEMO_FRAMES[0], 1500);
    const angles = await linesOf('SML_0101.dng');
    const at = (world: [number, number, number]): Promise<Point> =>
      bench.screenOf(projectPoint(world, setup)!, setup, true, angles);
    const plumb = DEMO_FRAMES[0].scene().edges.filter(({ kind }) => kind === 'plumb');
    const [one, other] = plumb.filter(({ b }) => b[1] === 8.2);
    const draw = async (from: Point, to: Point): Promise<void> => {
      await page.mouse.move(...from);
      await page.mouse.down();
      await page.mouse.move(...to, { steps: 4 });
      await page.mouse.up();
    };
    await draw(await at(one.a), await at(one.b));
    // Not from the first one's end: that would be dragged.
    const half = ({ b: [x, , z] }: typeof one): [number, number, number] => [x, 5, z];
    await draw(await at(half(one)), await at(half(other)));
    await page.locator('[aria-label="Known length 1"]').click();
    await page.keyboard.type(String(one.b[1] - one.a[1]));
    await page.keyboard.press('Tab');
    await page.waitForSelector('.lengths .value');
    const [, length] = (await bench.text('.lengths .value')).match(/^([\d.]+) ± ([\d.]+) m$/)!;
    const truth = Math.abs(other.b[0] - one.b[0]);
    expect(Math.abs(Number(length) / truth - 1)).toBeLessThan(0.01);
    await bench.saved();
    // A rectangle of the front's own proportions agrees with it.
    await bench.press('Mark corners');
    for (const corner of [one.b, other.b, other.a, one.a]) await page.mouse.click(...(await at(corner)));
    await page.waitForFunction(() => /Comes out/.test(document.body.textContent ?? ''));
    const ratio = truth / (one.b[1] - one.a[1]);
    await page.locator('[aria-label="Width"]').click({ count: 3 });
    await page.keyboard.type(ratio.toFixed(4));
    await page.locator('[aria-label="Height"]').click({ count: 3 });
    await page.keyboard.type('1');
    await page.keyboard.press('Tab');
    const said = await bench.text('section[aria-label="Known rectangle"] [role=status]');
    expect(Number(said.match(/: ([\d.]+) %/)![1])).toBeLessThan(1);
    await bench.saved();
    await page.locator('::-p-aria(Residuals[role="tab"])').click();
    await page.waitForSelector('[aria-label="Plumb lines"] .js-plotly-plot .point', { timeout: 30000 });
  });

  it('levels along an edge, flips what it is, nudges from the keyboard, and holds back; all of it stays', async () => {
    await page.goto(`${app.address}/frames/${ids['CPR_0003.dng']}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-testid=picture][data-drawn]', { timeout: 60000 });
    await page.keyboard.press('2');
    await page.locator('::-p-aria(By hand[role="tab"])').click();
    await bench.settled();
    const frame = DEMO_FRAMES.find(({ file }) => file === 'CPR_0003.dng')!;
    const setup = setupAt(frame, 1500);
    const eave = frame.scene().edges.find(({ kind }) => kind === 'level')!;
    await page.mouse.move(...(await bench.screenOf(projectPoint(eave.a, setup)!, setup)));
    await page.mouse.down();
    await page.mouse.move(...(await bench.screenOf(projectPoint(eave.b, setup)!, setup)), { steps: 5 });
    await page.mouse.up();
    await bench.saved();
    const levelled = await linesOf('CPR_0003.dng');
    expect(levelled.marks).toMatchObject([{ kind: 'level' }]);
    // The front is turned a little from the camera, and so its eave runs askew in truth.
    expect(Math.abs(levelled.roll - frame.setup.angles.roll)).toBeLessThan(0.8);
    expect(await bench.reading('level')).toBe('0.00°');
    await bench.press('Flip');
    expect(await bench.text('section[aria-label="Angles"] [role=status]')).toMatch(
      /within 45° makes this edge plumb/
    );
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('ArrowUp');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.up('Shift');
    await bench.saved();
    expect((await linesOf('CPR_0003.dng')).pitch).toBeCloseTo(0.55, 6);
    await page.reload({ waitUntil: 'networkidle2' });
    await page.keyboard.press('2');
    expect((await linesOf('CPR_0003.dng')).pitch).toBeCloseTo(0.55, 6);
  });

  it('exports what was found, taken out, drawn and trued up, plumb against the truth', async () => {
    const { report, bytes } = await exportPicture(app.address, ids['SML_0101.dng'], { quality: 92 });
    const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    const setup = setupAt(DEMO_FRAMES[0], 1500);
    const long = exportedVerticals({ ...info, data }, report, setup, DEMO_FRAMES[0].scene().edges).filter(
      ({ length }) => length > 140
    );
    expect(long.length).toBeGreaterThanOrEqual(6);
    for (const { angle } of long) expect(Math.abs(angle)).toBeLessThan(0.12);
    expect(report.lengths?.measured).toHaveLength(2);
    expect(report.readings.rectangle!.error).toBeLessThan(1);
  });

  it('trues up chosen frames of a job, and leaves alone what shows no lines, with the reason', async () => {
    await page.goto(jobUrl, { waitUntil: 'networkidle2' });
    for (const name of NAMES.slice(1)) await page.locator(`[aria-label="Select ${name}"]`).click();
    await bench.press('True up');
    await page.waitForFunction(
      () =>
        document
          .querySelector('[data-testid=toasts]')
          ?.textContent?.includes('3 trued up; 2 left as they are'),
      { timeout: 60000 }
    );
    const cardOf = async (name: string): Promise<string> => {
      const cards = await page.$$eval('.frame', (all) => all.map((e) => e.textContent!.replace(/\s+/g, ' ')));
      return cards.find((card) => card.includes(name)) ?? '';
    };
    await expect.poll(() => cardOf('flat')).toMatch(/Left as it is: there are too few upright lines/);
    // Trees that lean are no plumb lines: the green is left as it is, and the house beside one comes out right.
    await expect.poll(() => cardOf('CPR_0021')).toMatch(/Left as it is/);
    const house = await linesOf('CPR_0003.dng');
    expect(Math.abs(house.roll - truthOf('CPR_0003.dng').roll)).toBeLessThan(0.1);
    expect(Math.abs(house.pitch - truthOf('CPR_0003.dng').pitch)).toBeLessThan(0.2);
    // Those left alone are pointed out, and can be shown alone.
    await page.select('[aria-label="Which frames"]', 'wanting a look');
    // The 12 mm lens is not undone: its verticals come out bent, and the frame says so.
    await expect.poll(() => cardOf('CPR_0014')).toMatch(/verticals are off by 0\.\d+°/);
    await expect.poll(async () => (await page.$$('.frame')).length).toBe(3);
    await page.select('[aria-label="Which frames"]', 'all');
    // The reading goes along to the job.
    await expect.poll(() => cardOf('SML_0130')).toMatch(/plumb 0\.[01]\d°/);
    for (const name of ['SML_0130.dng', 'CPR_0014.dng']) {
      const { roll, pitch } = await linesOf(name);
      // The 12 mm lens names no focal length: its tilt cannot come out in full, its roll does.
      expect(Math.abs(roll - truthOf(name).roll)).toBeLessThan(0.3);
      if (name === 'SML_0130.dng') expect(Math.abs(pitch - truthOf(name).pitch)).toBeLessThan(0.3);
    }
  });
});
