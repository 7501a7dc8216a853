/** A lens straightened from a job's frames: a profile of the catalogue that they have then; and what is refused, in words. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { setupLens } from '../../scenes/camera/capture.ts';
import { bowLeft } from '../../scenes/camera/straight-net.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById } from '../frames/frame-row.ts';
import { profileById } from '../lenses/catalogue.ts';
import { type StraightenRequest, straightenLens } from '../lenses/straighten-lens.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const ids: Record<string, string> = {};
const NAMES = [
  'SML_0101.dng',
  'CPR_0003.dng',
  'CPR_0021.dng',
  'SML_0130.dng',
  'CPR_0014.dng',
  'BRN_0001.dng'
];
const asked = (names: string[], more: Partial<StraightenRequest> = {}): StraightenRequest => ({
  frames: names.map((name) => ids[name]),
  maker: 'Fenwright',
  lens: 'Fenwright 24 mm, by its edges',
  focalLength: null,
  save: false,
  ...more
});

beforeAll(async () => {
  test = await openTestApp();
  for (const name of NAMES) {
    const bytes = readFileSync(join(inject('photographs'), name));
    ids[name] = (await addFrame(test.app, test.jobId, name, bytesOf(bytes))).id;
  }
  for (const name of NAMES)
    await until(async () => (await frameById(test.app, ids[name]))?.measured === true);
});
afterAll(() => test.remove());

describe('a lens straightened by the edges of frames', () => {
  it('is near to the truth, stored, and given to those that counted', async () => {
    const names = ['SML_0101.dng', 'CPR_0003.dng', 'CPR_0021.dng'];
    const looked = await straightenLens(test.app, asked(names));
    expect(looked).toMatchObject({ saved: false, given: 0 });
    expect(await profileById(test.app, looked.profile.id)).toBeNull();
    const made = await straightenLens(test.app, asked(names, { save: true }));
    const frame = DEMO_FRAMES.find(({ file }) => file === 'SML_0101.dng')!;
    const { model } = setupLens(setupAt(frame, 6000));
    const size = { width: 6000, height: 4000 };
    const [{ focalLength, terms, centre }] = made.profile.distortion;
    expect(focalLength).toBe(24);
    expect(bowLeft(model, {}, size)).toBeGreaterThan(5);
    expect(bowLeft(model, { terms, centre }, size)).toBeLessThan(1);
    expect(made.findings[0]).toMatch(/^At 24 mm: bows of [\d.]+ px are down to [\d.]+ px, from \d+ edges/);
    expect(made.frames.map(({ name }) => name)).toEqual(names);
    const counted = made.frames.filter(({ ok }) => ok);
    expect(made.given).toBe(counted.length);
    expect(counted.length).toBeGreaterThanOrEqual(2);
    for (const { id, said } of counted) {
      expect(said).toMatch(/^[\d.]+ px → [\d.]+ px, \d+ of \d+ edges$/);
      expect((await frameById(test.app, id))!.recipe.lens!.profile).toBe(made.profile.id);
    }
    expect(await profileById(test.app, made.profile.id)).not.toBeNull();
  });

  it.each<[string, string[], Partial<StraightenRequest>, RegExp]>([
    ['one frame', ['SML_0101.dng'], {}, /two frames or more/],
    ['the same frame twice', ['SML_0101.dng', 'SML_0101.dng'], {}, /two frames or more/],
    ['two lenses', ['SML_0101.dng', 'SML_0130.dng'], {}, /taken with 2 lenses: .*24 mm.*16-35/],
    ['no focal length', ['CPR_0014.dng', 'BRN_0001.dng'], {}, /does not say its focal length/]
  ])('is refused in words: %s', async (_, names, more, words) => {
    await expect(straightenLens(test.app, asked(names, more))).rejects.toThrow(words);
  });

  it('takes a focal length that is told, and refuses more frames than it takes', async () => {
    const made = await straightenLens(test.app, asked(['CPR_0014.dng', 'BRN_0001.dng'], { focalLength: 12 }));
    expect(made.profile.distortion[0].focalLength).toBe(12);
    const many = { ...asked([]), frames: Array.from({ length: 200 }, (_, i) => `frame-${i}`) };
    await expect(straightenLens(test.app, many)).rejects.toThrow(/200 frames are more than it takes/);
  });
});
