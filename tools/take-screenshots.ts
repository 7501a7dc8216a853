/** Makes docs/screenshots from a running app with its demo jobs: npm run screenshots [-- ADDRESS]. */
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { Page } from 'puppeteer-core';
import { sensorToField } from '../core/math/frame-geometry.ts';
import type { Mark } from '../core/steps/lines/mark.ts';
import { sensorToUpright } from '../core/picture/geometry/projection.ts';
import { type Angles, rotationFromAngles } from '../core/math/rotation.ts';
import type { Vector3 } from '../core/math/vector3.ts';
import { projectPoint, setupLens } from '../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../scenes/demo-frames.ts';
import { ROOT } from '../server/paths.ts';
import { openBrowser } from './open-browser.ts';

const address = process.argv[2] ?? 'http://127.0.0.1:4173';
const browser = await openBrowser();
const page = await browser.newPage();

async function shoot(name: string): Promise<void> {
  await pause(1500);
  await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) as `${string}.png` });
}

async function json<T>(path: string): Promise<T> {
  return (await (await fetch(address + path)).json()) as T;
}

interface Listed {
  id: string;
  name: string;
  version: number;
}

async function setRecipe(frame: Listed, recipe: unknown): Promise<void> {
  // The bench may have saved meanwhile.
  const { version } = (await json<{ frame: Listed }>(`/api/frames/${frame.id}`)).frame;
  await fetch(`${address}/api/frames/${frame.id}/recipe`, {
    method: 'PUT',
    body: JSON.stringify({ version, recipe }),
    headers: { 'content-type': 'application/json' }
  });
}

async function openBench(of: Page, frame: Listed, step: string): Promise<void> {
  await of.goto(`${address}/frames/${frame.id}`, { waitUntil: 'networkidle2' });
  await of.waitForSelector('[data-testid=picture][data-drawn]');
  await of.keyboard.press(step as '1');
}

/** The building's two corners as someone with a steady hand would mark them. */
function cornerMarks(): Mark[] {
  const setup = setupAt(DEMO_FRAMES[0], 3000);
  const corners = DEMO_FRAMES[0].scene().edges.filter((edge) => edge.kind === 'plumb' && edge.b[1] === 8.2);
  return corners.map(({ a, b }, i) => ({
    id: `corner-${i}`,
    kind: 'plumb',
    a: sensorToField(projectPoint(a, setup)!, setup.size),
    b: sensorToField(projectPoint(b, setup)!, setup.size)
  }));
}

const jobs = await json<Listed[]>('/api/jobs');
const library = jobs.find((job) => job.name === 'Saltmarsh Library')!;
const house = jobs.find((job) => job.name.startsWith('14'))!;
const charts = jobs.find((job) => job.name.startsWith('Brindle'))!;
const frames = (await json<{ frames: Listed[] }>(`/api/jobs/${library.id}`)).frames;
const rooms = (await json<{ frames: Listed[] }>(`/api/jobs/${house.id}`)).frames;
const front = frames.find((frame) => frame.name === 'SML_0101.dng')!;
const room = frames.find((frame) => frame.name === 'SML_0121.dng')!;
const side = frames.find((frame) => frame.name === 'SML_0107.dng')!;
const dusk = rooms.find((frame) => frame.name === 'CPR_0027.dng')!;
const street = rooms.find((frame) => frame.name === 'CPR_0003.dng')!;
const binned = rooms.find((frame) => frame.name === 'CPR_0005.dng')!;

await setRecipe(front, {
  lines: {
    marks: cornerMarks(),
    roll: -1.3,
    pitch: 9.5
  },
  crop: { ratio: '4:3' }
});
await page.goto(address, { waitUntil: 'networkidle2' });
await shoot('jobs');
await page.goto(`${address}/jobs/${library.id}`, { waitUntil: 'networkidle2' });
await shoot('job');
await openBench(page, room, '1');
await shoot('bench-lens');
await browser.setCookie({ name: 'view', value: 'dim.black', domain: '127.0.0.1', path: '/' });
await openBench(page, room, '2');
const { x: sheetLeft, y: sheetTop } = (await (await page.$('[aria-label=Picture]'))!.boundingBox())!;
await page.mouse.move(sheetLeft + 420, sheetTop + 210);
await page.keyboard.press('f');
await page.keyboard.press('s');
await page.waitForSelector('[data-testid=picture][data-sharp=true]', { timeout: 30000 });
await pause(1500);
await shoot('bench-zoom');
await browser.setCookie({ name: 'view', value: 'light.grey', domain: '127.0.0.1', path: '/' });
await openBench(page, room, '1');
await page.keyboard.press('/');
await page.locator('[aria-label=Command]').fill('true');
await pause(400);
await shoot('commands');
await page.keyboard.press('Escape');
await setRecipe(room, {
  tone: {
    exposure: 0.2,
    recovery: 60,
    highlights: -60,
    shadows: 25,
    middle: 15,
    bands: [
      { stop: -7, change: 0.6 },
      { stop: -6, change: 0.5 },
      { stop: -2, change: -0.3 }
    ]
  }
});
await openBench(page, room, '4');
await page.locator('[data-page=bands]').click();
await page.waitForSelector('[data-testid=bands] [role=slider]');
await pause(800);
await shoot('bench-tone');
await setRecipe(dusk, {});
await setRecipe(dusk, { tone: { exposure: -0.4 } });
await setRecipe(dusk, { tone: { exposure: -0.4, shadows: 30 } });
await setRecipe(dusk, {
  tone: { exposure: -0.4, shadows: 30 },
  colour: {
    hues: [
      { at: 75, hue: -4, chroma: 15, light: -6 },
      { at: 258, hue: -6, chroma: 35, light: -18 }
    ]
  }
});
await openBench(page, dusk, '5');
await page.locator('[data-page=hues]').click();
await page.locator('[aria-label="Node at 258°"]').click();
await pause(1200);
await shoot('bench-hues');
await page.evaluate(() => localStorage.setItem('bench-room', '{"index":false}'));
await openBench(page, dusk, '5');
await page.locator('[data-page=looks]').click();
const revisions = await json<{ id: string }[]>(`/api/frames/${dusk.id}/revisions`);
for (const { id } of revisions)
  await fetch(`${address}/api/frames/${dusk.id}/revisions/${id}`, { method: 'DELETE' });
await page.keyboard.down('Shift');
await page.keyboard.press('y');
await page.keyboard.up('Shift');
await page.waitForSelector('[data-testid=revisions] canvas[data-drawn]');
await page.locator('[aria-label="Name of revision A"]').fill('dusk');
await page.keyboard.press('Tab');
await pause(1500);
await shoot('bench-history');
await setRecipe(dusk, {});
const press = async (label: string): Promise<void> =>
  (await page.waitForSelector(`::-p-xpath(//button[normalize-space()="${label}"])`))!.click();
await page.goto(`${address}/lenses`, { waitUntil: 'networkidle2' });
await page.waitForSelector('.plot svg.main-svg');
await shoot('catalogue');
await page.goto(`${address}/jobs/${charts.id}`, { waitUntil: 'networkidle2' });
await page.click('main input[type=checkbox]');
await press('Lens…');
await press('Measure from them…');
await page.locator('::-p-aria(Maker)').fill('Brindle Optical');
await page.locator('.names label:nth-child(2) input').fill('Brindle Optical 12 mm f/5.6');
await page.locator('.names label:last-child input').fill('12');
await press('Measure');
await page.waitForSelector('.found', { timeout: 90000 });
await shoot('measure-lens');
await setRecipe(side, {});
await openBench(page, side, '2');
await press('By itself');
await page.waitForFunction(() => /plumb lines \(±/.test(document.querySelector('.said')?.textContent ?? ''));
await shoot('bench-lines-found');
/** Where a place of the first scene lies on the screen, its frame trued up as its recipe says. */
async function placeOf(world: Vector3): Promise<[number, number]> {
  const setup = setupAt(DEMO_FRAMES[0], 3000);
  const { focal, model } = setupLens(setup);
  const { lines } = (await json<{ frame: { recipe: { lines: Angles } } }>(`/api/frames/${front.id}`)).frame
    .recipe;
  const rotation = rotationFromAngles(lines);
  const [u, v] = sensorToUpright(projectPoint(world, setup)!, { size: setup.size, focal, model, rotation })!;
  const [left, top, view] = await page.$eval('[data-testid=picture]', (canvas) => {
    const { left, top } = canvas.getBoundingClientRect();
    return [left, top, JSON.parse((canvas as HTMLElement).dataset.view!)] as const;
  });
  return [left + (u - view.left) / view.pixel, top + (v - view.top) / view.pixel];
}
/** Drags along an edge of the scene. */
async function draw(from: Vector3, to: Vector3): Promise<void> {
  await page.mouse.move(...(await placeOf(from)));
  await page.mouse.down();
  await page.mouse.move(...(await placeOf(to)), { steps: 5 });
  await page.mouse.up();
}
await setRecipe(front, {});
await openBench(page, front, '2');
await page.select('select[aria-label="What becomes true"]', 'front');
await press('By itself');
await page.waitForFunction(() => /plumb lines \(±/.test(document.querySelector('.said')?.textContent ?? ''));
await page.click('::-p-aria(Lengths[role="tab"])');
await pause(500);
await draw([-12.6, 1, 0], [-12.6, 8.2, 0]);
await page.locator('[aria-label="Known length 1"]').fill('7.2');
await page.keyboard.press('Tab');
await draw([-12.6, 4.6, 0], [12.6, 4.6, 0]);
await draw([-1.1, 0.55, 0], [-1.1, 3.65, 0]);
await pause(800);
await shoot('bench-lengths');
await setRecipe(street, {
  lines: { roll: 1.6, pitch: 7 },
  crop: { ratio: '4:3', rectangle: { x: 0.02, y: -0.06, width: 1.05, height: 0.7875 } }
});
await openBench(page, street, '3');
await page.waitForSelector('.pick canvas[data-drawn]');
await shoot('bench-crop');
const areaOf = (id: string, name: string, tone: object): object => ({
  id,
  name,
  shape: id,
  settings: { tone }
});
await setRecipe(side, {
  lines: { roll: 0.9, pitch: 11.5 },
  areas: {
    shapes: [
      { id: 'sky', radius: 12, parts: [{ id: 'p', kind: 'found', meets: 'add', what: 'sky' }] },
      {
        id: 'front',
        parts: [
          {
            id: 'p',
            kind: 'radial',
            meets: 'add',
            centre: [-0.13, 0.02],
            across: 0.3,
            down: 0.24,
            angle: 0,
            feather: 70,
            outside: false
          }
        ]
      }
    ],
    list: [areaOf('sky', 'sky', { exposure: -0.9 }), areaOf('front', 'corner', { exposure: 0.4, middle: 30 })]
  }
});
await openBench(page, side, '6');
await page.keyboard.press('.');
await page.waitForFunction(() => /%/.test(document.querySelector('[data-testid=cover]')?.textContent ?? ''));
await shoot('bench-areas');
await setRecipe(binned, {});
await openBench(page, binned, '7');
await press('Find dust');
await page.waitForFunction(() => document.body.textContent!.includes('specks found'));
await press('Cable');
await page.$eval('input[aria-label^="Size of the brush slider"]', (slider) => {
  (slider as HTMLInputElement).value = '5';
  slider.dispatchEvent(new Event('input', { bubbles: true }));
  slider.dispatchEvent(new Event('change', { bubbles: true }));
});
// Along the cable, in shares of the crop.
const CABLE = [
  [0.16, 0.107],
  [0.25, 0.112],
  [0.36, 0.117],
  [0.47, 0.121],
  [0.59, 0.124],
  [0.7, 0.1255],
  [0.83, 0.124],
  [0.998, 0.1205]
];
const { left, top, width, height } = await page.$eval('[data-testid=picture]', (picture) => {
  const crop = JSON.parse((picture as HTMLElement).dataset.crop!) as Record<
    'left' | 'top' | 'width' | 'height',
    number
  >;
  const sheet = document.querySelector('[aria-label=Picture]')!.getBoundingClientRect();
  return { ...crop, left: crop.left + sheet.left, top: crop.top + sheet.top };
});
const along = CABLE.map(([x, y]): [number, number] => [left + x * width, top + y * height]);
await page.mouse.move(...along[0]);
await page.mouse.down();
for (const place of along) await page.mouse.move(...place, { steps: 4 });
await page.mouse.up();
await page.waitForFunction(() =>
  document.querySelector('[data-testid=patches]')?.textContent?.includes('cable')
);
await press('Move');
await page.keyboard.press('.');
await page.mouse.move(left + 0.6 * width, top + 0.5 * height);
await pause(1500);
await shoot('bench-mend');
await setRecipe(front, {
  lines: { marks: cornerMarks(), roll: -1.3, pitch: 9.5 },
  crop: { ratio: '4:3' },
  tone: { exposure: 0.2, shadows: 25, contrast: 12 }
});
await openBench(page, front, '2');
await page.keyboard.press('w');
await page.waitForSelector('[data-testid=other-picture][data-drawn]');
await pause(1500);
await shoot('bench-compare');
await setRecipe(front, { finish: { edge: -35, sharpening: 60, noise: 50, noiseColour: 50 } });
await openBench(page, front, '8');
await press('Edge');
await shoot('bench-finish');
await page.goto(`${address}/jobs/${library.id}/deliver`, { waitUntil: 'networkidle2' });
for (const name of ['Listing 4x3', 'Banner 16x9']) await page.click(`[aria-label="All frames as ${name}"]`);
await (await page.waitForSelector(
  '::-p-xpath(//button[starts-with(normalize-space(), "Deliver ")][not(@disabled)])'
))!.click();
// An earlier delivery is shown until the new one has begun.
await page.waitForFunction(() =>
  / 0 of /.test(` ${document.querySelector('[data-testid=delivery-state]')?.textContent ?? ''}`)
);
await page.waitForFunction(
  () =>
    / ([1-9]\d*) of \1 done/.test(
      ` ${document.querySelector('[data-testid=delivery-state]')?.textContent ?? ''}`
    ),
  { timeout: 240000 }
);
await pause(1500);
await shoot('deliver');
await page.goto(`${address}/deliverables?job=${library.id}`, { waitUntil: 'networkidle2' });
await shoot('deliverables');
await browser.close();
