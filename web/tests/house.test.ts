/** House settings through the real interface: kept from a frame, seen by pointing, laid over it and over others, in and out. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import type { HouseRow } from '../../server/recipes/house-settings.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';
import { type SheetHand, sheetHand } from './sheet-hand.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let hand: SheetHand;
let ids: Record<string, string>;
let jobId = '';
const [NAME, OTHER] = ['CPR_0003.dng', 'CPR_0021.dng'];

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  hand = sheetHand(page, bench);
  ({ ids, jobId } = await jobWithFrames(page, app.address, 'House', [NAME, OTHER]));
  await bench.open(`${app.address}/frames/${ids[NAME]}`);
});
afterAll(() => app?.close());

const recipe = async (name: string): Promise<PartialRecipe> =>
  (await frameAt<{ recipe: PartialRecipe }>(app.address, ids[name])).recipe;
const sets = async (): Promise<HouseRow[]> =>
  (await fetch(`${app.address}/api/house-settings`)).json() as never;
const picture = (name: string): Promise<ElementHandle> =>
  page.waitForSelector(
    `::-p-xpath(//*[@data-testid="house-settings"]//button[contains(., "${name}")])`
  ) as never;

/** Takes back what the newest toast says: earlier ones may still be there. */
const undoLast = (text: string): Promise<void> =>
  page
    .locator(
      `::-p-xpath((//*[contains(., "${text}")]/descendant-or-self::*/button[normalize-space()="Undo"])[last()])`
    )
    .click();

describe('house settings on the bench', () => {
  it('are kept from a frame, in a folder, with the steps that are said', async () => {
    await hand.key('4');
    await hand.set('Exposure', -1);
    await hand.set('Shadows', 50);
    await bench.saved();
    await bench.press('House');
    await bench.press('Keep as…');
    await page.locator('[aria-label="Name of the set"]').fill('Dusk');
    await page.locator('[aria-label="Folder of the set"]').fill('Fronts');
    await bench.press('Keep');
    await picture('Dusk');
    const [set] = (await sets()).filter(({ name }) => name === 'Dusk');
    expect(set.folder).toBe('Fronts');
    expect(Object.keys(set.steps)).toContain('tone');
    expect(Object.keys(set.steps)).not.toContain('crop');
    expect(set.steps.tone).toMatchObject({ exposure: -1, shadows: 50 });
    expect(await bench.text('[data-testid=house-holds]')).toContain('Tone');
    await page.keyboard.press('Escape');
  });

  it('are seen on the frame while one is pointed at, and laid over it part of the way', async () => {
    await hand.set('Exposure', 1);
    await hand.set('Shadows', 0);
    await bench.saved();
    await bench.settled();
    const light = await hand.lightAt(0.7, 0.15);
    await bench.press('House');
    await (await picture('Dusk')).hover();
    await expect.poll(() => hand.lightAt(0.7, 0.15)).toBeLessThan(0.8 * light);
    await page.mouse.move(900, 700);
    await expect.poll(() => hand.lightAt(0.7, 0.15)).toBeGreaterThan(0.95 * light);
    expect((await recipe(NAME)).tone?.exposure).toBe(1);
    await hand.set('Amount', 50);
    await (await picture('Dusk')).click();
    await bench.saved();
    await expect.poll(async () => (await recipe(NAME)).tone?.shadows).toBe(25);
    expect((await recipe(NAME)).tone?.exposure ?? 0).toBe(0);
    await page.keyboard.press('Escape');
    await hand.key('y');
    expect(await bench.text('[data-testid=steps]')).toContain('Shadows');
    await page.keyboard.press('Escape');
  });

  it('refuse a file that names a step that there is none of, in words, and take in one that is sound', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'line-true-house-'));
    const file = (name: string, steps: object): string => {
      const path = join(folder, `${name}.json`);
      writeFileSync(
        path,
        JSON.stringify({ format: 'line-true-house-settings', version: 1, sets: [{ name, steps }] })
      );
      return path;
    };
    await bench.press('House');
    const input = (await page.waitForSelector(
      '[aria-label="House settings"] input[type=file]'
    )) as ElementHandle<HTMLInputElement>;
    const said = '[role=dialog][aria-label="House settings"] [role=status]';
    await input.uploadFile(file('Glazed', { glaze: {} }) as never);
    await expect.poll(() => bench.text(said)).toContain('no step “glaze”');
    await input.uploadFile(file('Stone', { colour: { warmth: 20 } }) as never);
    await picture('Stone');
    expect(await bench.text(said)).toBe('1 taken in.');
    await page.keyboard.press('Escape');
  });

  it('open and shut by keys too, and are gone at once: what fades takes presses that are lost', async () => {
    const panel = '[role=dialog][aria-label="House settings"]';
    const shown = (): Promise<boolean> => page.$(panel).then((found) => found !== null);
    await bench.press('House');
    await page.waitForSelector(`${panel} input[type=file]`);
    const left = await page.evaluate(async (panel) => {
      document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
      await new Promise((drawn) => requestAnimationFrame(drawn));
      return document.querySelectorAll(panel).length;
    }, panel);
    expect(left).toBe(0);
    await new Promise((done) => setTimeout(done, 300));
    await page.keyboard.press('Enter');
    await expect.poll(shown).toBe(true);
    await page.keyboard.press('Enter');
    await expect.poll(shown).toBe(false);
    // Chromium tells of what was shut a moment later, as of something that is open by then: no hand is as quick.
    await new Promise((done) => setTimeout(done, 300));
    await page.keyboard.press('Enter');
    await expect.poll(shown).toBe(true);
    // Its button shuts it also while something in it has the focus.
    await page.focus(`${panel} [aria-label=Folder]`);
    await bench.press('House');
    await expect.poll(shown).toBe(false);
    await new Promise((done) => setTimeout(done, 300));
    expect(await shown()).toBe(false);
  });

  it('carry steps over to other frames without a set', async () => {
    await hand.set('Exposure', 0.5);
    await bench.saved();
    await page.keyboard.down('Shift');
    await hand.key('d');
    await page.keyboard.up('Shift');
    await page
      .locator(`::-p-xpath(//*[@aria-label="Frames to carry over to"]//label[contains(., "${OTHER}")])`)
      .click();
    await bench.press('Carry over to 1');
    await expect.poll(async () => (await recipe(OTHER)).tone?.exposure).toBe(0.5);
    expect((await recipe(OTHER)).lines?.pitch ?? 0).toBe(0);
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await bench.press('Undo');
    // A page with something unsaved asks before it is left.
    await bench.saved();
  });

  it('carry a group of settings over by itself: what else the step holds stays', async () => {
    await hand.set('Exposure', 0.5);
    await bench.saved();
    const { version, recipe: own } = await frameAt<{ version: number; recipe: PartialRecipe }>(
      app.address,
      ids[OTHER]
    );
    await fetch(`${app.address}/api/frames/${ids[OTHER]}/recipe`, {
      method: 'PUT',
      body: JSON.stringify({ version, recipe: { ...own, tone: { ...own.tone, haze: 12, exposure: 0 } } }),
      headers: { 'content-type': 'application/json' }
    });
    await page.keyboard.down('Shift');
    await hand.key('d');
    await page.keyboard.up('Shift');
    const tick = (group: string, text: string): Promise<void> =>
      page.locator(`::-p-xpath(//*[@aria-label="${group}"]//label[normalize-space()="${text}"])`).click();
    // All of Tone is offered, as it was changed; then its light alone.
    await tick('Steps to carry over', 'Tone');
    await tick('Steps to carry over', 'Light');
    await page
      .locator(`::-p-xpath(//*[@aria-label="Frames to carry over to"]//label[contains(., "${OTHER}")])`)
      .click();
    await bench.press('Carry over to 1');
    await expect.poll(async () => (await recipe(OTHER)).tone?.exposure).toBe(0.5);
    expect((await recipe(OTHER)).tone?.haze).toBe(12);
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await undoLast('Carried over to 1 frame');
    await bench.saved();
  });
});

describe('house settings in a job', () => {
  it('are laid over the selected frames, and taken back', async () => {
    await page.goto(`${app.address}/jobs/${jobId}`, { waitUntil: 'networkidle2' });
    await page.locator('::-p-xpath(//label[contains(., "Select all")])').click();
    await bench.press('More…');
    await bench.press('House settings…');
    await page.locator('::-p-xpath(//*[@aria-label="House settings"]//label[contains(., "Stone")])').click();
    await bench.press('Lay over 2 frames');
    await expect.poll(async () => (await recipe(OTHER)).colour?.warmth).toBe(20);
    expect((await recipe(NAME)).colour?.warmth).toBe(20);
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await bench.press('Undo');
    await expect.poll(async () => (await recipe(OTHER)).colour?.warmth ?? 0).toBe(0);
  });

  it('are one thing of many that prepare frames in one go; what wants a look is listed, with why', async () => {
    await bench.press('Prepare…');
    await page.waitForFunction(
      () => document.querySelectorAll('select[aria-label="House settings"] option').length > 1
    );
    const [{ id }] = (await sets()).filter(({ name }) => name === 'Stone');
    await page.select('select[aria-label="House settings"]', id);
    await page.select(
      'select[aria-label="Crop to"]',
      await page.$eval(
        'select[aria-label="Crop to"] option:last-child',
        (each) => (each as HTMLOptionElement).value
      )
    );
    await bench.press('Prepare 2');
    await page.waitForSelector('[data-testid=in-turn-looks]', { timeout: 90_000 });
    const looks = await bench.text('[data-testid=in-turn-looks]');
    expect(looks).toContain(OTHER);
    expect(looks).not.toContain(NAME);
    expect(looks.length).toBeGreaterThan(OTHER.length + 10);
    const made = await recipe(NAME);
    expect(Math.abs(made.lines?.pitch ?? 0)).toBeGreaterThan(1);
    expect(made.colour?.warmth).toBe(20);
    expect(made.tone).toBeDefined();
    await bench.press('Done');
  });

  it('are matched to one of them, unless they show too little of it', async () => {
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await bench.press('More…');
    await bench.press('Match to a frame…');
    await page.waitForSelector('[aria-label="Frame to be like"]');
    await page
      .locator(`::-p-xpath(//*[@aria-label="Frame to be like"]//label[contains(., "${NAME}")])`)
      .click();
    // It is not matched to itself.
    await bench.press('Match 1');
    await page.waitForSelector('[data-testid=in-turn-looks]', { timeout: 40_000 });
    const looks = await bench.text('[data-testid=in-turn-looks]');
    expect(looks).toContain(OTHER);
    expect(looks).toContain('too little');
    expect(looks).not.toContain(`${NAME} It`);
    await bench.press('Done');
  });

  it('are laid over frames by themselves where a rule of the job holds', async () => {
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await fetch(`${app.address}/api/house-settings`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Crisp', folder: '', steps: { finish: { sharpening: 35 } } })
    });
    const [{ id }] = (await sets()).filter(({ name }) => name === 'Crisp');
    await bench.press('House…');
    await bench.press('Add a rule');
    await page.waitForSelector(`[aria-label="Set of rule 1"] option[value="${id}"]`);
    await page.select('[aria-label="Set of rule 1"]', id);
    await page.locator('[aria-label="Room of rule 1"]').fill('green, hall');
    await page.locator('[aria-label="ISO to which rule 1 holds"]').fill('400');
    await bench.press('Keep');
    // How many there are is said.
    await page.waitForSelector('::-p-xpath(//button[normalize-space()="House (1)…"])');
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    const before = await recipe(NAME);
    await bench.press('Room…');
    await page.locator('::-p-xpath(//form//input[@placeholder="Kitchen"])').fill('Village green');
    await bench.press('Name them');
    await expect.poll(async () => (await recipe(NAME)).finish?.sharpening).toBe(35);
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await undoLast('laid over 2 of them');
    await expect.poll(async () => completeRecipe(await recipe(NAME))).toEqual(completeRecipe(before));
  });

  it('are copied to another job, or moved there and back', async () => {
    const post = await fetch(`${app.address}/api/jobs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Elsewhere' })
    });
    const { id: elsewhere } = (await post.json()) as { id: string };
    const namesOf = async (job: string): Promise<string[]> => {
      const { frames } = (await (await fetch(`${app.address}/api/jobs/${job}`)).json()) as never as {
        frames: { name: string }[];
      };
      return frames.map(({ name }) => name);
    };
    const send = async (how: 'Copy' | 'Move'): Promise<void> => {
      await page.waitForFunction(() => !document.querySelector('dialog[open]'));
      await bench.press('More…');
      await bench.press('Move or copy…');
      await page.waitForSelector(`option[value="${elsewhere}"]`);
      await page.select('[aria-label="Job to send to"]', elsewhere);
      await bench.press(how);
    };
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    // Both are selected from before.
    const selectedAre = (count: number): Promise<unknown> =>
      page.waitForSelector(`::-p-xpath(//label[contains(., "${count} selected")])`);
    await selectedAre(2);
    await page.$eval(`[aria-label="Select ${OTHER}"]`, (e) => (e as HTMLElement).click());
    await selectedAre(1);
    await send('Copy');
    await expect.poll(() => namesOf(elsewhere)).toEqual([NAME]);
    expect(await namesOf(jobId)).toEqual([NAME, OTHER]);
    // The one that is there stays here.
    await page.$eval(`[aria-label="Select ${OTHER}"]`, (e) => (e as HTMLElement).click());
    await selectedAre(2);
    await send('Move');
    await expect.poll(() => namesOf(jobId)).toEqual([NAME]);
    expect(await namesOf(elsewhere)).toEqual([NAME, OTHER]);
    await page.waitForFunction(() => !document.querySelector('dialog[open]'));
    await undoLast('moved to Elsewhere');
    await expect.poll(() => namesOf(jobId)).toEqual([NAME, OTHER]);
  });
});
