/** Jobs that travel: archived and taken in, by the command line and the interface; recipes dropped; frames handed over. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { HandOver } from '../../server/hand-over/hand-overs.ts';
import type { FrameRow } from '../../server/frames/frame-row.ts';
import { type BenchPage, benchPage } from './bench-page.ts';
import { frameAt, jobWithFrames } from './job-with-frames.ts';
import { runProgram } from './run-program.ts';
import { type SharedApp, openSharedApp } from './shared-app.ts';

let app: SharedApp;
let page: Page;
let bench: BenchPage;
let jobId = '';
let id = '';
const folder = mkdtempSync(join(tmpdir(), 'line-true-travel-'));
const NAME = 'CPR_0003.dng';

const api = async <T>(path: string, init?: RequestInit): Promise<T> =>
  (await fetch(`${app.address}/api${path}`, init)).json() as never;
const framesOf = async (job: string): Promise<FrameRow[]> =>
  (await api<{ frames: FrameRow[] }>(`/jobs/${job}`)).frames;
const cli = (...args: string[]): Promise<string> => runProgram('line-true', ...args, '--at', app.address);
const until = async <T>(find: () => Promise<T | undefined | null | false>): Promise<T> => {
  for (let tries = 0; tries < 400; tries++) {
    const found = await find();
    if (found) return found;
    await new Promise((done) => setTimeout(done, 150));
  }
  throw new Error('It did not happen in time.');
};
const put = async (selector: string, ...paths: string[]): Promise<void> => {
  const input = (await page.$(selector)) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(...paths);
};

beforeAll(async () => {
  app = await openSharedApp();
  page = app.page;
  bench = benchPage(page);
  const made = await jobWithFrames(page, app.address, 'Travelling', [NAME]);
  jobId = made.jobId;
  id = made.ids[NAME];
  const { version } = await frameAt<{ version: number }>(app.address, id);
  await api(`/frames/${id}/recipe`, {
    method: 'PUT',
    body: JSON.stringify({ version, recipe: { lines: { roll: 1.25 }, tone: { exposure: 0.5 } } }),
    headers: { 'content-type': 'application/json' }
  });
});
afterAll(() => app?.close());

describe('a job archive', () => {
  const path = join(folder, 'travelling.zip');

  it('is written and taken in by the command line', async () => {
    expect(await cli('archive', 'Travelling', '--out', path)).toContain(path);
    expect(await cli('take-in', path)).toBe('Travelling: 1 frame taken in.\n');
    const twice = (await api<{ id: string; name: string }[]>('/jobs')).filter(
      ({ name }) => name === 'Travelling'
    );
    expect(twice).toHaveLength(2);
    const [frame] = await framesOf(twice.find((job) => job.id !== jobId)!.id);
    expect(frame).toMatchObject({ name: NAME, recipe: { lines: { roll: 1.25 }, tone: { exposure: 0.5 } } });
    // Of two jobs of one name none is guessed.
    await expect(cli('archive', 'Travelling', '--out', join(folder, 'other.zip'))).rejects.toThrow(
      /Name one by its id/
    );
    await expect(cli('archive', 'Nowhere', '--out', join(folder, 'other.zip'))).rejects.toThrow(
      /There is no job "Nowhere"/
    );
    const cut = join(folder, 'cut.zip');
    writeFileSync(cut, readFileSync(path).subarray(0, 5000));
    await expect(cli('take-in', cut)).rejects.toThrow(/cut short/);
    await expect(cli('take-in', join(folder, 'none.zip'))).rejects.toThrow(/There is no file/);
    await expect(runProgram('line-true', 'take-in', path, '--at', 'http://127.0.0.1:1')).rejects.toThrow(
      /Start it with bin\/start|connection/
    );
  });

  it('is taken in on the page of the jobs, which opens the new job; what is none is said to be', async () => {
    await page.goto(app.address);
    const cut = join(folder, 'no-archive.zip');
    writeFileSync(cut, 'nothing');
    await page.waitForSelector('[data-testid=archive]');
    await page.waitForNetworkIdle({ concurrency: 2 });
    await put('[data-testid=archive]', cut);
    await page.waitForSelector('::-p-xpath(//*[@role="alert"][contains(., "no job archive")])');
    await put('[data-testid=archive]', path);
    await page.waitForFunction(() => location.pathname.startsWith('/jobs/'), { timeout: 30_000 });
    const own = page.url().split('/').pop()!;
    expect(own).not.toBe(jobId);
    await until(async () => (await framesOf(own))[0]?.state === 'ready');
    const response = await page.evaluate(async (job) => {
      const answer = await fetch(`/api/jobs/${job}/archive`);
      return [answer.headers.get('content-type'), (await answer.arrayBuffer()).byteLength];
    }, own);
    expect(response[0]).toBe('application/zip');
    expect(response[1]).toBeGreaterThan(1e6);
  });
});

describe('recipes beside originals', () => {
  it('are dropped with them, and become theirs; one without its photograph says so', async () => {
    const recipe = join(folder, 'SML_0101.json');
    writeFileSync(recipe, JSON.stringify({ tone: { exposure: -0.75 } }));
    const stray = join(folder, 'NONE_1.json');
    writeFileSync(stray, '{}');
    await page.goto(`${app.address}/jobs/${jobId}`);
    await page.waitForSelector('.frame[data-state=ready] img');
    await put('[data-testid=files]', recipe, stray, join(inject('photographs'), 'SML_0101.dng'));
    await page.waitForSelector('::-p-xpath(//li[contains(., "SML_0101.json")][@data-state="taken"])');
    const frame = await until(async () =>
      (await framesOf(jobId)).find(({ name }) => name === 'SML_0101.dng')
    );
    expect(frame.recipe).toMatchObject({ tone: { exposure: -0.75 } });
    await page.waitForSelector(
      '::-p-xpath(//li[contains(., "NONE_1.json")][contains(., "No photograph of this job has its name")])'
    );
  });
});

describe('a frame that is handed over', () => {
  const handed = (): Promise<{ folder: string; rows: HandOver[] }> => api(`/jobs/${jobId}/hand-overs`);

  it('comes back by itself once another program has changed it', async () => {
    await page.goto(`${app.address}/jobs/${jobId}`);
    await page.locator(`[aria-label="Select ${NAME}"]`).click();
    await bench.press('More…');
    await page.locator('::-p-xpath(//button[normalize-space()="Hand over…"])').click();
    await bench.press('Hand over 1');
    const row = await until(async () => (await handed()).rows.find(({ state }) => state === 'out'));
    await page.waitForSelector('::-p-xpath(//dialog[@open]//li[contains(., "not changed yet")])');
    await runProgram('outside-editor', join((await handed()).folder, row.file!));
    await page.waitForSelector('::-p-xpath(//dialog[@open]//li[contains(., "came back")])', {
      timeout: 30_000
    });
    await page.keyboard.press('Escape');
    await page.waitForSelector(
      `::-p-xpath(//li[contains(@class, "frame")][contains(., "changed outside, of ${NAME}")])`,
      {
        timeout: 30_000
      }
    );
  });

  it('is said to be gone where its file is, until nobody waits for it', async () => {
    await bench.open(`${app.address}/frames/${id}`);
    await page.keyboard.down('Shift');
    await page.keyboard.press('o');
    await page.keyboard.up('Shift');
    await bench.press('Hand over 1');
    const row = await until(async () =>
      (await handed()).rows.find(({ state, returned_id }) => state === 'out' && !returned_id)
    );
    rmSync(join((await handed()).folder, row.file!));
    await page.waitForSelector(
      '::-p-xpath(//dialog[@open]//li[contains(., "no longer in the hand-over folder")])',
      { timeout: 30_000 }
    );
    await page
      .locator(
        '::-p-xpath(//dialog[@open]//li[contains(., "no longer")]//button[normalize-space()="Wait no longer"])'
      )
      .click();
    await until(async () => (await handed()).rows.every(({ error }) => error === null));
  });
});
