/** Frames that are trued up when they are added, and corrections carried over to others. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it, vi } from 'vitest';
import { isOfBracket } from '../../core/optics/bracket.ts';
import { DEMO_FRAMES } from '../../scenes/demo-frames.ts';
import { addFrame } from '../frames/add-frame.ts';
import { carrySteps } from '../set/carry-steps.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type FrameRow, frameById } from '../frames/frame-row.ts';
import { trueUpFrame } from '../set/true-up-frame.ts';
import { changeJob, validJobChange } from '../jobs/jobs.ts';
import { validRecipe } from '../recipes/validate.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const photograph = (name: string): Buffer => readFileSync(join(inject('photographs'), name));

async function added(name: string): Promise<FrameRow> {
  const { id } = await addFrame(test.app, test.jobId, name, bytesOf(photograph(name)));
  return until(async () => {
    const frame = await frameById(test.app, id);
    return frame?.measured && frame;
  });
}

beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.remove());

describe('frames of a job that trues up on adding', () => {
  it('come with their verticals set, or as shot with the reason', async () => {
    await changeJob(test.app, test.jobId, { true_up: 'verticals' });
    const front = await added('SML_0101.dng');
    const truth = DEMO_FRAMES[0].setup.angles;
    expect(Math.abs(front.recipe.lines!.roll! - truth.roll)).toBeLessThan(0.1);
    expect(Math.abs(front.recipe.lines!.pitch! - truth.pitch)).toBeLessThan(0.2);
    expect(front.lines_said).toMatchObject({
      ok: true,
      said: expect.stringMatching(/plumb lines \(±/)
    });
    const green = await added('CPR_0021.dng');
    expect(green.recipe.lines).toBeUndefined();
    expect(green.lines_said).toMatchObject({ ok: false, said: expect.stringMatching(/^Left as it is/) });
    // Looked at and changed by hand, it no longer asks for a look.
    await saveRecipe(test.app, green.id, green.version, { lines: { roll: 2.2 } });
    expect((await frameById(test.app, green.id))!.lines_said).toBeNull();
  });

  it('levels only, when that is what the job says', async () => {
    await changeJob(test.app, test.jobId, { true_up: 'level' });
    const house = await added('CPR_0003.dng');
    const { angles } = DEMO_FRAMES.find(({ file }) => file === 'CPR_0003.dng')!.setup;
    expect(Math.abs(house.recipe.lines!.roll! - angles.roll)).toBeLessThan(0.15);
    expect(house.recipe.lines!.pitch).toBe(0);
    expect(() => validJobChange({ true_up: 'everything' })).toThrow(
      /none, level, verticals, both, front|allowed/
    );
  });

  it('both: the roll is what plumb and level lines agree on', async () => {
    await changeJob(test.app, test.jobId, { true_up: 'none' });
    const stair = await added('SML_0130.dng');
    expect(stair.recipe).toEqual({ version: 3 });
    const said = await trueUpFrame(test.app, stair.id, 'both');
    expect(said.ok).toBe(true);
    const { roll, pitch, yaw } = (await frameById(test.app, stair.id))!.recipe.lines!;
    const truth = DEMO_FRAMES.find(({ file }) => file === 'SML_0130.dng')!.setup.angles;
    expect(Math.abs(roll! - truth.roll)).toBeLessThan(0.3);
    expect(Math.abs(pitch! - truth.pitch)).toBeLessThan(0.4);
    expect(yaw).toBe(0);
  });
});

describe('the lines of a frame', () => {
  it('are looked for once, and again where its lens is another', async () => {
    const house = await added('CPR_0003.dng');
    const run = vi.spyOn(test.app.pool, 'run');
    const looks = (): number => run.mock.calls.filter(([, options]) => options?.name === 'look').length;
    const trued = async (lens: object): Promise<FrameRow> => {
      const { version } = (await frameById(test.app, house.id))!;
      await saveRecipe(test.app, house.id, version, { lens });
      expect((await trueUpFrame(test.app, house.id)).ok).toBe(true);
      return (await frameById(test.app, house.id))!;
    };
    const { angles } = DEMO_FRAMES.find(({ file }) => file === 'CPR_0003.dng')!.setup;
    const off = ({ recipe: { lines } }: FrameRow): number => Math.abs(lines!.pitch! - angles.pitch);
    const own = await trued({});
    expect(looks()).toBe(0);
    expect(off(own)).toBeLessThan(0.15);
    // A focal length that is none of this lens makes another pitch of the same lines.
    expect(off(await trued({ focalLength: 60 }))).toBeGreaterThan(1);
    expect(looks()).toBe(1);
    expect((await trued({})).recipe.lines).toEqual(own.recipe.lines);
    expect(looks()).toBe(2);
    run.mockRestore();
  });
});

describe('a correction carried over', () => {
  it('reaches frames of the same shape with angles and marks, and refuses others', async () => {
    const { rows } = await test.app.db.query<{ id: string; name: string }>('select id, name from frames');
    const idOf = (name: string): string => rows.find((row) => row.name === name)!.id;
    const from = (await frameById(test.app, idOf('SML_0101.dng')))!;
    expect((await carrySteps(test.app, ['lines'], from.id, [idOf('CPR_0021.dng')])).frames).toBe(1);
    const to = (await frameById(test.app, idOf('CPR_0021.dng')))!;
    expect(to.recipe.lines).toEqual(from.recipe.lines);
    await expect(carrySteps(test.app, ['lines'], from.id, [idOf('SML_0130.dng')])).rejects.toThrow(
      /SML_0130.dng has another shape/
    );
    await expect(carrySteps(test.app, ['lines'], from.id, [])).rejects.toThrow(/at least one/);
  });

  it('is offered for exposures of one bracket', () => {
    const shot = (taken: string, exposure: number | null) => ({ taken, exposure });
    const first = shot('2026:05:14 10:12:31', -13);
    expect(isOfBracket(first, shot('2026:05:14 10:12:32', -12))).toBe(true);
    expect(isOfBracket(first, shot('2026:05:14 10:12:32', -13))).toBe(false);
    expect(isOfBracket(first, shot('2026:05:14 10:31:02', -12))).toBe(false);
    expect(isOfBracket(first, shot('2026:05:14 10:12:32', null))).toBe(false);
  });
});

describe('recipes with too much', () => {
  it('are refused with what to do', () => {
    const mark = { kind: 'plumb', a: [0, 0], b: [0, 0.3] };
    const marks = Array.from({ length: 3000 }, (_, i) => ({ ...mark, id: String(i) }));
    expect(() => validRecipe({ lines: { marks } })).toThrow(/marks.*500/);
    expect(() => validRecipe({ lines: { marks: [{ ...mark, id: 'a', weight: 9 }] } })).toThrow(/weight/);
    expect(() => validRecipe({ lines: { pitch: 95 } })).toThrow(/pitch/);
  });
});
