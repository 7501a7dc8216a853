/** Frames matched to one of their job, through the database and its workers. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById, framesOfJob } from '../frames/frame-row.ts';
import { takeBack } from '../recipes/take-back.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { matchFrame } from '../set/match-frame.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const ids: Record<string, string> = {};
const FILES = { 'like.dng': 'SML_0101.dng', 'same.dng': 'SML_0101.dng', 'stair.dng': 'SML_0130.dng' };

beforeAll(async () => {
  test = await openTestApp();
  for (const [name, file] of Object.entries(FILES)) {
    // What is added at its end changes no picture; the same file twice would be one frame.
    const bytes = Buffer.concat([readFileSync(join(inject('photographs'), file)), Buffer.from(name)]);
    ids[name] = (await addFrame(test.app, test.jobId, name, bytesOf(bytes))).id;
  }
  await until(async () => (await framesOfJob(test.app, test.jobId)).every(({ measured }) => measured), 120);
});
afterAll(() => test.remove());

const frameOf = async (name: string) => (await frameById(test.app, ids[name]))!;

describe('matching to a frame', () => {
  it('gives its exposure and white to one that shows the same, keeps the rest, and is taken back', async () => {
    const like = await frameOf('like.dng');
    const liked = { tone: { exposure: -0.65, contrast: 30 }, colour: { kelvin: 4300, kelvinTint: 6 } };
    await saveRecipe(test.app, like.id, like.version, liked as never);
    const own = await frameOf('same.dng');
    await saveRecipe(test.app, own.id, own.version, {
      tone: { exposure: 1, shadows: 20 },
      crop: { ratio: '1:1' }
    });
    const before = (await frameOf('same.dng')).recipe;
    const { look, said, version } = await matchFrame(test.app, ids['same.dng'], ids['like.dng']);
    expect(look).toBeNull();
    expect(said).toMatch(/^−1\.6\d EV, 4\d\d\d K$/);
    const { tone, colour, crop } = completeRecipe((await frameOf('same.dng')).recipe);
    expect(Math.abs(tone.exposure - -0.65)).toBeLessThan(0.03);
    expect(Math.abs(colour.kelvin! - 4300)).toBeLessThan(60);
    expect(Math.abs(colour.kelvinTint - 6)).toBeLessThan(1.5);
    expect([tone.contrast, tone.shadows, crop.ratio]).toEqual([0, 20, '1:1']);
    const { back } = await takeBack(test.app, test.jobId, [{ id: ids['same.dng'], version: version! }]);
    expect(back).toBe(1);
    expect((await frameOf('same.dng')).recipe).toEqual(before);
  });

  it('says so of a frame of another place, and leaves it as it is', async () => {
    const before = await frameOf('stair.dng');
    const { look, version } = await matchFrame(test.app, ids['stair.dng'], ids['like.dng']);
    expect(look).toContain('too little of what like.dng shows');
    expect(version).toBeUndefined();
    expect((await frameOf('stair.dng')).version).toBe(before.version);
  });
});
