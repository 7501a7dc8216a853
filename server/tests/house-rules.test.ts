/** House settings that a job lays over its frames by itself: when they are added, and when their room is named. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { HouseRule } from '../../core/recipe/house-rules.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { addFrame } from '../frames/add-frame.ts';
import { changeFrames, frameById, framesOfJob } from '../frames/frame-row.ts';
import { changeJob, jobById, validJobChange } from '../jobs/jobs.ts';
import { keepHouseSettings, removeHouseSettings } from '../recipes/house-settings.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { layHouseRules, ofNaming } from '../set/house-by-rules.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let ids: Record<string, string>;
let crisp = '';

beforeAll(async () => {
  test = await openTestApp();
  crisp = await keepHouseSettings(test.app, {
    name: 'Crisp',
    folder: '',
    steps: { finish: { sharpening: 35 } }
  });
  const warm = await keepHouseSettings(test.app, {
    name: 'Warm',
    folder: '',
    steps: { colour: { warmth: 12 } }
  });
  const gone = await keepHouseSettings(test.app, {
    name: 'Gone',
    folder: '',
    steps: { tone: { contrast: 9 } }
  });
  await removeHouseSettings(test.app, gone);
  const any: HouseRule = { set: crisp, camera: '', lens: '', room: '', isoFrom: null, isoTo: null };
  const rules = [
    { ...any, lens: '24 mm f/2.8' },
    { ...any, set: warm, room: 'stair' },
    { ...any, set: gone }
  ];
  await changeJob(test.app, test.jobId, validJobChange({ house_rules: rules, true_up: 'verticals' }));
  for (const name of ['CPR_0003.dng', 'SML_0130.dng'])
    await addFrame(test.app, test.jobId, name, bytesOf(readFileSync(join(inject('photographs'), name))));
  await until(async () => (await framesOfJob(test.app, test.jobId)).every(({ measured }) => measured), 120);
  ids = Object.fromEntries((await framesOfJob(test.app, test.jobId)).map(({ name, id }) => [name, id]));
});
afterAll(() => test.remove());

const recipeOf = async (name: string) => completeRecipe((await frameById(test.app, ids[name]))!.recipe);

describe('the rules of a job', () => {
  it('lay a set over what they hold for as it is added, which is trued up as well', async () => {
    const front = await recipeOf('CPR_0003.dng');
    expect(front.finish.sharpening).toBe(35);
    expect(Math.abs(front.lines.pitch)).toBeGreaterThan(1);
    // Another lens; and one that names a room waits.
    const stair = await recipeOf('SML_0130.dng');
    expect(stair.finish.sharpening).toBe(0);
    expect(stair.colour.warmth).toBe(0);
  });

  it('that name a room hold once it is named, and leave what someone did', async () => {
    const all = Object.values(ids);
    const { version } = (await frameById(test.app, ids['CPR_0003.dng']))!;
    await saveRecipe(test.app, ids['CPR_0003.dng'], version, { colour: { tint: 5 } });
    await changeFrames(test.app, test.jobId, all, { room: 'Stair hall' });
    const { changed } = await layHouseRules(test.app, test.jobId, all, ofNaming);
    expect(changed.map(({ id }) => id)).toEqual([ids['SML_0130.dng']]);
    expect((await recipeOf('SML_0130.dng')).colour.warmth).toBe(12);
    expect((await recipeOf('CPR_0003.dng')).colour).toMatchObject({ warmth: 0, tint: 5 });
    // A second time there is nothing left to do.
    expect((await layHouseRules(test.app, test.jobId, all, ofNaming)).changed).toEqual([]);
  });

  it('are kept with it, and refused in words where they are none', async () => {
    expect((await jobById(test.app, test.jobId))!.house_rules).toHaveLength(3);
    const [rule] = (await jobById(test.app, test.jobId))!.house_rules;
    expect(() => validJobChange({ house_rules: [{ ...rule, isoFrom: 'many' }] })).toThrow();
    expect(() => validJobChange({ house_rules: [{ set: crisp }] })).toThrow();
  });
});
