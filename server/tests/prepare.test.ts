/** A set prepared in one go: true against the camera's own attitude, toned and balanced, and what is left for a look said. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { effectiveAngles } from '../../core/render/plan.ts';
import { sensorToUpright } from '../../core/picture/geometry/projection.ts';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import { LENSES } from '../../scenes/camera/lenses.ts';
import { projectPoint } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { takeFrame } from '../../scenes/take-frame.ts';
import { chooseFrom } from '../cli/choose-profile.ts';
import { addFrame } from '../frames/add-frame.ts';
import { type FrameRow, frameById, framesOfJob } from '../frames/frame-row.ts';
import { type Preparing, prepareFrame } from '../set/prepare-frame.ts';
import { takeBack } from '../recipes/take-back.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const ids: Record<string, string> = {};
const NAMES = ['SML_0101.dng', 'CPR_0003.dng', 'CPR_0014.dng', 'BRN_0007_flat.dng'];
const ALL: Preparing = {
  straighten: true,
  trueUp: 'verticals',
  ratio: '4:3',
  auto: ['tone', 'colour'],
  house: { finish: { sharpening: 40 }, tone: { contrast: 22 } },
  dust: true
};

/** Taken so large that its colour edges are seen. */
const large = (name: string): Buffer =>
  Buffer.from(
    takeFrame(
      DEMO_FRAMES.find(({ file }) => file === name)!,
      2880
    )
  );

beforeAll(async () => {
  test = await openTestApp();
  for (const name of NAMES) {
    const bytes = name === 'CPR_0014.dng' ? large(name) : readFileSync(join(inject('photographs'), name));
    ids[name] = (await addFrame(test.app, test.jobId, name, bytesOf(bytes))).id;
  }
  await until(async () => (await framesOfJob(test.app, test.jobId)).every(({ measured }) => measured), 120);
});
afterAll(() => test.remove());

const recipeOf = async (name: string) => completeRecipe((await frameById(test.app, ids[name]))!.recipe);

/** Root mean square of the angles, in degrees, that upright edges of the scene have in a frame as its recipe corrects it. */
function plumbLeft({ name, facts, recipe }: FrameRow): number {
  const frame = DEMO_FRAMES.find(({ file }) => file === name)!;
  const setup = setupAt(frame, Math.max(facts!.size.width, facts!.size.height));
  const { plan } = renderInputs(completeRecipe(recipe), facts!, chooseFrom(facts!, shippedProfiles));
  const angles = frame
    .scene()
    .edges.filter(({ kind }) => kind === 'plumb')
    .flatMap(({ a, b }) => {
      const ends = [a, b].map((end) => projectPoint(end, setup));
      const shown = ends.some(
        (at) => at && at[0] > 0 && at[1] > 0 && at[0] < setup.size.width && at[1] < setup.size.height
      );
      const [p, q] = ends.map((at) => shown && at && sensorToUpright(at, plan.projection));
      return p && q ? [(Math.atan((q[0] - p[0]) / (q[1] - p[1])) * 180) / Math.PI] : [];
    });
  expect(angles.length).toBeGreaterThan(5);
  return Math.sqrt(angles.reduce((sum, angle) => sum + angle ** 2, 0) / angles.length);
}

describe('preparing', () => {
  it.each(['SML_0101.dng', 'CPR_0003.dng'])(
    'makes %s true, toned and cropped, and is taken back as one',
    async (name) => {
      const before = await recipeOf(name);
      const { said, look, version } = await prepareFrame(test.app, ids[name], ALL);
      expect(look).toBeNull();
      expect(said.join(' ')).toMatch(/Tone: \d.*Colour: set for/);
      const after = await recipeOf(name);
      const { angles: truth } = DEMO_FRAMES.find(({ file }) => file === name)!.setup;
      const angles = effectiveAngles(after);
      for (const angle of ['roll', 'pitch'] as const)
        expect(Math.abs(angles[angle] - truth[angle]), angle).toBeLessThan(0.15);
      expect(plumbLeft((await frameById(test.app, ids[name]))!)).toBeLessThan(0.05);
      expect(after.crop.ratio).toBe('4:3');
      expect(after.finish.sharpening).toBe(40);
      expect(after.tone.contrast).toBe(22);
      // What the set leaves as it is was set by itself.
      expect(after.tone).not.toEqual({ ...before.tone, contrast: 22 });
      expect(after.colour.kelvin).not.toBe(before.colour.kelvin);
      const { back } = await takeBack(test.app, test.jobId, [{ id: ids[name], version: version! }]);
      expect(back).toBe(1);
      expect(await recipeOf(name)).toEqual(before);
    }
  );

  it('straightens a lens that no profile is known of before it looks for plumb lines', async () => {
    const name = 'CPR_0014.dng';
    const off = async (): Promise<number> => plumbLeft((await frameById(test.app, ids[name]))!);
    const left = await prepareFrame(test.app, ids[name], { ...ALL, straighten: false });
    // By bent lines it would be made worse than it was.
    const bent = await off();
    await takeBack(test.app, test.jobId, [{ id: ids[name], version: left.version! }]);
    const { said, look } = await prepareFrame(test.app, ids[name], ALL);
    expect(look).toBeNull();
    expect(said[0]).toMatch(/^Straightened: Bows of/);
    const { solved, measured } = (await recipeOf(name)).lens;
    expect(solved).not.toBeNull();
    // Its colour edges as well: red and blue as large as the demo camera's glass makes them, half way out and in the corners.
    expect(said[1]).toMatch(/^Colour edges of 0\.[4-9]\d px are down to 0\.[0-2]\d px/);
    const [truth] = LENSES.manual.profile.lateral!;
    const { size } = (await frameById(test.app, ids[name]))!.facts!;
    for (const colour of ['red', 'blue'] as const)
      for (const r of [0.5, 0.95]) {
        const at = (terms: readonly number[]): number =>
          (terms.reduce((sum, term, i) => sum + term * r ** (i + 1), 0) *
            Math.hypot(size.width, size.height)) /
          2;
        expect(Math.abs(at(measured![colour]) - at(truth[colour])), `${colour} ${r}`).toBeLessThan(0.2);
      }
    expect(await off()).toBeLessThan(0.15);
    expect(bent).toBeGreaterThan(0.3);
    // What someone said of the lens stays.
    const { version } = (await frameById(test.app, ids[name]))!;
    await saveRecipe(test.app, ids[name], version, { lens: { profile: 'none' } });
    await prepareFrame(test.app, ids[name], { ...ALL, trueUp: null, auto: [], dust: false, house: null });
    expect((await recipeOf(name)).lens).toMatchObject({ profile: 'none', solved: null });
  });

  it('leaves a crop that someone made, and does only what was asked', async () => {
    const name = 'CPR_0003.dng';
    const { version } = (await frameById(test.app, ids[name]))!;
    await saveRecipe(test.app, ids[name], version, { crop: { ratio: '1:1' }, lines: { roll: 2 } });
    const { said } = await prepareFrame(test.app, ids[name], {
      ...ALL,
      trueUp: null,
      auto: ['tone'],
      house: null,
      dust: false
    });
    expect(said).toHaveLength(1);
    const after = await recipeOf(name);
    expect(after.crop.ratio).toBe('1:1');
    expect(after.lines.roll).toBe(2);
    expect(after.colour).toEqual(completeRecipe().colour);
  });

  it('says why a frame without lines wants a look, and does the rest', async () => {
    const { look } = await prepareFrame(test.app, ids['BRN_0007_flat.dng'], { ...ALL, dust: false });
    expect(look).toMatch(/\w{3,}/);
    expect((await recipeOf('BRN_0007_flat.dng')).finish.sharpening).toBe(40);
    await expect(prepareFrame(test.app, crypto.randomUUID(), ALL)).rejects.toThrow(/not ready/);
  });
});
