/** House settings: kept, laid over frames of a job, taken back, written out and taken in. */
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addFrame } from '../frames/add-frame.ts';
import { frameById } from '../frames/frame-row.ts';
import {
  applyHouseSettings,
  houseFile,
  importHouseSettings,
  keepHouseSettings,
  listHouseSettings,
  moveHouseSettings,
  removeHouseSettings
} from '../recipes/house-settings.ts';
import { takeBack } from '../recipes/take-back.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const frames: string[] = [];

beforeAll(async () => {
  test = await openTestApp();
  for (let i = 0; i < 3; i++) {
    const picture = await sharp({
      create: { width: 300, height: 200, channels: 3, background: { r: 40 * i + 20, g: 120, b: 90 } }
    })
      .png()
      .toBuffer();
    const { id } = await addFrame(test.app, test.jobId, `plain-${i}.png`, bytesOf(picture));
    await until(async () => (await frameById(test.app, id))?.measured);
    frames.push(id);
  }
});
afterAll(() => test.remove());

const recipeOf = async (id: string) => (await frameById(test.app, id))!.recipe;

describe('house settings', () => {
  it('are laid over chosen frames of a job, part of the way if asked, and taken back', async () => {
    const { version } = (await frameById(test.app, frames[1]))!;
    await saveRecipe(test.app, frames[1], version, { tone: { exposure: -1 }, crop: { ratio: '4:5' } });
    const set = await keepHouseSettings(test.app, {
      name: ' Rooms, light ',
      folder: 'Agency',
      steps: { tone: { exposure: 1, shadows: 40 }, finish: { sharpening: 30 } }
    });
    const { changed } = await applyHouseSettings(test.app, test.jobId, {
      set,
      frames: [frames[0], frames[1], crypto.randomUUID()],
      amount: 50
    });
    expect(changed).toHaveLength(2);
    expect((await recipeOf(frames[0])).tone).toMatchObject({ exposure: 0.5, shadows: 20 });
    expect(await recipeOf(frames[1])).toMatchObject({
      tone: { shadows: 20 },
      crop: { ratio: '4:5' },
      finish: { sharpening: 15 }
    });
    expect((await recipeOf(frames[1])).tone?.exposure ?? 0).toBe(0);
    expect((await recipeOf(frames[2])).tone).toBeUndefined();
    await takeBack(test.app, test.jobId, changed);
    expect((await recipeOf(frames[1])).tone).toEqual({ exposure: -1 });
    expect(await listHouseSettings(test.app)).toMatchObject([{ name: 'Rooms, light', folder: 'Agency' }]);
  });

  it('are written out and taken in whole, by another installation as by this', async () => {
    const file = await houseFile(test.app, null);
    const before = await listHouseSettings(test.app);
    expect(await importHouseSettings(test.app, JSON.parse(JSON.stringify(file)))).toBe(before.length);
    const after = await listHouseSettings(test.app);
    expect(after).toHaveLength(2 * before.length);
    expect(after[0].steps).toEqual(after[1].steps);
    expect(await removeHouseSettings(test.app, after[1].id)).toBe(true);
    expect(await moveHouseSettings(test.app, after[0].id, { folder: '' })).toBe(true);
    expect((await listHouseSettings(test.app))[0]).toMatchObject({ name: 'Rooms, light', folder: '' });
    expect(await removeHouseSettings(test.app, crypto.randomUUID())).toBe(false);
  });

  it('that name steps or settings that there are none of are refused in words, and none of their file is taken', async () => {
    const count = (await listHouseSettings(test.app)).length;
    const sound = { name: 'Sound', steps: { tone: { exposure: 1 } } };
    const file = (...sets: unknown[]) => ({ format: 'line-true-house-settings', version: 1, sets });
    for (const [bad, words] of [
      [file(sound, { name: 'Glazed', steps: { glaze: {} } }), /“Glazed”.*no step “glaze”.*lens, lines/],
      [file(sound, { name: 'Far', steps: { tone: { exposure: 99 } } }), /exposure/],
      [file(sound, { name: '', steps: { tone: {} } }), /name/],
      [file(sound, { name: 'Empty', steps: {} }), /steps/],
      [file(), /no file of house settings/],
      [[1, 2], /no file of house settings/],
      [null, /no file of house settings/]
    ] as const)
      await expect(importHouseSettings(test.app, bad)).rejects.toThrow(words);
    expect(await listHouseSettings(test.app)).toHaveLength(count);
    await expect(
      applyHouseSettings(test.app, test.jobId, { set: crypto.randomUUID(), frames, amount: 100 })
    ).rejects.toThrow(/no longer exist/);
    await expect(
      applyHouseSettings(test.app, test.jobId, {
        set: (await listHouseSettings(test.app))[0].id,
        frames: [],
        amount: 100
      })
    ).rejects.toThrow(/at least one frame/);
  });
});
