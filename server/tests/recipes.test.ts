/** Recipes of every format that there was, and their one writer. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { effectiveAngles } from '../../core/render/plan.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById, framesOfJob } from '../frames/frame-row.ts';
import { deliverOne, itemsOf } from '../deliveries/deliveries.ts';
import { soundDeliverable } from '../deliveries/deliverables.ts';
import { carrySteps } from '../set/carry-steps.ts';
import { validRecipe } from '../recipes/validate.ts';
import { changeRecipes, saveRecipe } from '../recipes/write-recipe.ts';
import type { Notice } from '../notices/notices.ts';
import type { Report } from '../render/report.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let [first, second] = ['', ''];

/** As the first versions wrote it, in rows and in files beside photographs. */
const OLD = {
  version: 1,
  lens: { distortion: 90 },
  lines: { roll: -1.3, pitch: 9.5, yaw: 2, holdBack: 40 },
  crop: { ratio: '4:3' }
};

beforeAll(async () => {
  test = await openTestApp();
  for (const name of ['SML_0101.dng', 'CPR_0003.dng']) {
    const bytes = readFileSync(join(inject('photographs'), name));
    const { id } = await addFrame(test.app, test.jobId, name, bytesOf(bytes));
    if (first) second = id;
    else first = id;
  }
  await until(async () => (await framesOfJob(test.app, test.jobId)).every(({ measured }) => measured));
});
afterAll(() => test.remove());

describe('a recipe of an earlier format', () => {
  it('opens from its row with what it asked for, and renders as it did', async () => {
    await test.app.db.query('update frames set recipe = $2 where id = $1', [first, OLD]);
    const { recipe } = (await frameById(test.app, first))!;
    expect(effectiveAngles(completeRecipe(recipe))).toEqual({
      roll: -1.3 * 0.6,
      pitch: 9.5 * 0.6,
      yaw: 2 * 0.6
    });
    const id = await deliverOne(
      test.app,
      first,
      await soundDeliverable({ name: 'Old', sizeKind: 'long', width: 300 })
    );
    await until(async () => (await itemsOf(test.app, id))[0].state === 'done');
    const { rows } = await test.app.db.query<{ report: Report }>(
      'select report from delivery_items where delivery_id = $1',
      [id]
    );
    expect(rows[0].report.rotation.pitch).toBeCloseTo(5.7, 9);
    expect(rows[0].report.holdBack).toEqual({ roll: 40, pitch: 40, yaw: 40 });
    expect(rows[0].report.crop.ratio).toBe('4:3');
    expect(rows[0].report.steps).toEqual([
      { name: 'lens', state: 'by hand' },
      { name: 'lines', state: 'by hand' },
      { name: 'crop', state: 'by hand' },
      // Steps that came after that format.
      { name: 'tone', state: 'untouched' },
      { name: 'colour', state: 'untouched' },
      { name: 'areas', state: 'untouched' },
      { name: 'mend', state: 'untouched' },
      { name: 'finish', state: 'untouched' }
    ]);
  });

  it('is still made from an open delivery, and from a file; the format to come is refused in words', async () => {
    const id = await deliverOne(
      test.app,
      second,
      await soundDeliverable({ name: 'Open', sizeKind: 'long', width: 200 })
    );
    await test.app.db.query(`update delivery_items set recipe = $2 where delivery_id = $1`, [id, OLD]);
    await until(async () => (await itemsOf(test.app, id))[0].state === 'done');
    expect(validRecipe(OLD).lines).toMatchObject({ holdBackRoll: 40, holdBackPitch: 40, holdBackYaw: 40 });
    expect(validRecipe({ lines: { holdBack: 10, roll: 1 } }).lines).toEqual({
      holdBackRoll: 10,
      holdBackPitch: 10,
      holdBackYaw: 10,
      roll: 1
    });
    expect(() => validRecipe({ version: 4 })).toThrow(/made by a newer Line True/);
    expect(() => validRecipe({ version: 'x' })).toThrow(/whole number/);
    expect(() => validRecipe({ version: 2, lines: { holdBack: 10 } })).toThrow(/unknown entry "holdBack"/);
  });

  it('is written in the present format as soon as it changes', async () => {
    await test.app.db.query('update frames set recipe = $2 where id = $1', [first, OLD]);
    const frame = (await frameById(test.app, first))!;
    await saveRecipe(test.app, first, frame.version, frame.recipe);
    const { rows } = await test.app.db.query<{ recipe: object }>('select recipe from frames where id = $1', [
      first
    ]);
    expect(rows[0].recipe).toEqual({
      version: 3,
      rendition: 1,
      lens: { distortion: 90 },
      lines: { roll: -1.3, pitch: 9.5, yaw: 2, holdBackRoll: 40, holdBackPitch: 40, holdBackYaw: 40 },
      crop: { ratio: '4:3' }
    });
  });
});

describe('the writer of recipes', () => {
  it('loses none of many changes that come at once', async () => {
    const before = (await frameById(test.app, second))!;
    await saveRecipe(test.app, second, before.version, { lens: { bow: 0 } });
    await Promise.all(
      Array.from({ length: 8 }, () =>
        changeRecipes(test.app, [second], (recipe) => ({
          ...recipe,
          lens: { ...recipe.lens, bow: (recipe.lens?.bow ?? 0) + 1 }
        }))
      )
    );
    const after = (await frameById(test.app, second))!;
    expect(after.recipe.lens!.bow).toBe(8);
    expect(after.version).toBe(before.version + 9);
  });

  it('tells of each change, and drops what was said of lines that are no longer so', async () => {
    const heard: Notice[] = [];
    const deaf = test.app.notices.listen((notice) => notice && heard.push(notice));
    const said = { ok: true, said: 'Twelve lines agree.' };
    const frame = (await frameById(test.app, first))!;
    const saved = await saveRecipe(test.app, first, frame.version, frame.recipe, { said });
    expect((await frameById(test.app, first))!.lines_said).toEqual(said);
    await changeRecipes(test.app, [first], (recipe) => ({ ...recipe, crop: { ratio: '1:1' } }));
    expect((await frameById(test.app, first))!.lines_said).toEqual(said);
    await changeRecipes(test.app, [first], (recipe) => ({ ...recipe, lines: { roll: 1 } }));
    expect((await frameById(test.app, first))!.lines_said).toBeNull();
    // Others of the job may be measured meanwhile.
    const own = (): Notice[] => heard.filter(({ frame: id }) => id === first);
    await until(async () => own().length === 3);
    expect(own()[0]).toEqual({ job: test.jobId, frame: first });
    deaf();
    expect(saved!.saved).toBe(true);
  });

  it('carries any step over, each with what it leaves behind and takes along', async () => {
    const give = (await frameById(test.app, first))!;
    const curve = {
      id: 'own',
      points: [
        [0, 0],
        [0.5, 0]
      ] as [number, number][]
    };
    await saveRecipe(test.app, first, give.version, {
      lens: { bow: 2, curves: [curve], solvedFocal: 1.2 },
      lines: { roll: 3 },
      crop: { ratio: '16:9' }
    });
    const take = (await frameById(test.app, second))!;
    await saveRecipe(test.app, second, take.version, { lens: { wave: 1 }, crop: { ratio: '1:1' } });
    await carrySteps(test.app, ['lines'], first, [second]);
    expect((await frameById(test.app, second))!.recipe).toEqual({
      version: 3,
      lens: { wave: 1, solvedFocal: 1.2 },
      lines: { roll: 3 },
      crop: { ratio: '1:1' }
    });
    await carrySteps(test.app, ['lens'], first, [second]);
    expect((await frameById(test.app, second))!.recipe.lens).toEqual({ bow: 2, solvedFocal: 1.2 });
    await carrySteps(test.app, ['crop'], first, [second]);
    expect((await frameById(test.app, second))!.recipe.crop).toEqual({ ratio: '16:9' });
  });

  it('carries areas with the front where the other frame’s own lines have it', async () => {
    const places = { first: 0, second: 0.2 };
    const marked = (by: number) => ({
      marks: [
        { id: 'a', kind: 'plumb', a: [-0.3 + by, -0.3], b: [-0.3 + by, 0.2] },
        { id: 'b', kind: 'level', a: [-0.3 + by, -0.3], b: [0.3 + by, -0.3] }
      ]
    });
    const points = [
      [-0.3, -0.3],
      [0.3, -0.3],
      [0.3, 0.2],
      [-0.3, 0.2]
    ];
    const shape = {
      id: 's',
      parts: [{ id: 'p', kind: 'polygon', meets: 'add', feather: 0, points, front: true }]
    };
    const areas = { shapes: [shape], list: [{ id: 'a', shape: 's', settings: { tone: { exposure: 1 } } }] };
    for (const [id, name] of [
      [first, 'first'],
      [second, 'second']
    ] as const) {
      const { version } = (await frameById(test.app, id))!;
      const lines = marked(places[name]);
      await saveRecipe(test.app, id, version, {
        lens: { profile: 'none' },
        lines,
        ...(name === 'first' && { areas })
      } as never);
    }
    await carrySteps(test.app, ['areas'], first, [second]);
    const [carried] = (await frameById(test.app, second))!.recipe.areas!.shapes as never as (typeof shape)[];
    const xs = carried.parts[0].points.map(([x]) => x);
    expect(Math.min(...xs)).toBeCloseTo(-0.1, 2);
    expect(Math.max(...xs)).toBeCloseTo(0.5, 2);
  });
});
