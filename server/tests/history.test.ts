/** States of a recipe are kept with it, in every order of changes; revisions are kept apart, and one is delivered. */
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { join } from 'node:path';
import { itemsOf, planDelivery, startDelivery } from '../deliveries/deliveries.ts';
import { deliveryFolder } from '../deliveries/delivery-folder.ts';
import { addDeliverable } from '../deliveries/deliverables.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById } from '../frames/frame-row.ts';
import { MOST_STATES, historyOf, soundChange } from '../recipes/history.ts';
import { changeRevision, keepRevision, removeRevision, revisionsOf } from '../recipes/revisions.ts';
import { takeBack } from '../recipes/take-back.ts';
import { validRecipe } from '../recipes/validate.ts';
import { changeRecipes, saveRecipe } from '../recipes/write-recipe.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let frame = '';
let made = 0;

async function newFrame(): Promise<string> {
  const background = { r: 10 + ++made, g: 120, b: 90 };
  const picture = await sharp({ create: { width: 300, height: 200, channels: 3, background } })
    .png()
    .toBuffer();
  const { id } = await addFrame(test.app, test.jobId, `plain-${made}.png`, bytesOf(picture));
  await until(async () => (await frameById(test.app, id))?.state === 'ready');
  await until(async () => (await frameById(test.app, id))?.measured);
  return id;
}
const exposed = (exposure: number): PartialRecipe => ({ tone: { exposure } });
const exposures = async (id: string): Promise<(number | undefined)[]> =>
  (await historyOf(test.app, id)).states.map(({ recipe }) => recipe.tone?.exposure);
async function save(
  id: string,
  recipe: PartialRecipe,
  history?: Parameters<typeof saveRecipe>[4]
): Promise<boolean> {
  const { version } = (await frameById(test.app, id))!;
  return (await saveRecipe(test.app, id, version, recipe, history))!.saved;
}

beforeAll(async () => {
  test = await openTestApp();
  frame = await newFrame();
});
afterAll(() => test.remove());

describe('the history of a recipe', () => {
  it('holds what it was before the first change, and each change after that, whoever made it', async () => {
    expect(await historyOf(test.app, frame)).toEqual({ first: 0, at: null, states: [] });
    await save(frame, exposed(1));
    expect(await exposures(frame)).toEqual([undefined, 1]);
    await changeRecipes(test.app, [frame], (recipe) => ({ ...recipe, tone: { exposure: 2 } }));
    const { at, first, states } = await historyOf(test.app, frame);
    expect([at, first, states.length]).toEqual([2, 0, 3]);
    expect((await frameById(test.app, frame))!.recipe.tone?.exposure).toBe(2);
    // What is saved as it stands is no step.
    await changeRecipes(test.app, [frame], (recipe) => ({ ...recipe }));
    expect(await exposures(frame)).toEqual([undefined, 1, 2]);
  });

  it('goes back without forgetting, and forgets when another way is taken', async () => {
    await save(frame, exposed(1), { history: { from: 3, states: [], at: 1 } });
    expect(await exposures(frame)).toEqual([undefined, 1, 2]);
    expect((await historyOf(test.app, frame)).at).toBe(1);
    // The server's own change comes after the state in hand.
    await changeRecipes(test.app, [frame], () => exposed(3));
    expect(await exposures(frame)).toEqual([undefined, 1, 3]);
    await save(frame, exposed(4), { history: { from: 2, states: [exposed(4)], at: 2 } });
    expect(await exposures(frame)).toEqual([undefined, 1, 4]);
  });

  it('is not changed by a save that is refused', async () => {
    const before = await historyOf(test.app, frame);
    const stale = await saveRecipe(test.app, frame, 0, exposed(5), {
      history: { from: 0, states: [exposed(5)], at: 0 }
    });
    expect(stale!.saved).toBe(false);
    expect(await historyOf(test.app, frame)).toEqual(before);
    // A place that there is not: neither recipe nor history are changed.
    const { version } = (await frameById(test.app, frame))!;
    await expect(
      saveRecipe(test.app, frame, version, exposed(6), { history: { from: 9, states: [], at: 40 } })
    ).rejects.toThrow(/Reload the page/);
    expect((await frameById(test.app, frame))!.version).toBe(version);
    expect(await historyOf(test.app, frame)).toEqual(before);
  });

  it('refuses what is no history, in words', () => {
    for (const bad of [
      null,
      {},
      { from: -1, states: [], at: 0 },
      { from: 0, states: 'x', at: 0 },
      { from: 0.5, states: [], at: 0 }
    ])
      expect(() => soundChange(bad, validRecipe)).toThrow(/not whole/);
    expect(() => soundChange({ from: 0, states: [{ tone: { exposure: 'x' } }], at: 0 }, validRecipe)).toThrow(
      /not valid/
    );
  });

  it('keeps the last states alone, by positions that go on', async () => {
    const id = await newFrame();
    const states = Array.from({ length: MOST_STATES + 1 }, (_, i) => exposed(i / 100));
    await save(id, states[MOST_STATES], { history: { from: 0, states, at: MOST_STATES } });
    await save(id, exposed(4.5));
    const { first, at, states: kept } = await historyOf(test.app, id);
    expect([first, at, kept.length]).toEqual([1, MOST_STATES + 1, MOST_STATES + 1]);
    expect(kept.at(-1)!.recipe.tone?.exposure).toBe(4.5);
  });

  it('is that of a list with a cursor, whatever is done', async () => {
    const id = await newFrame();
    await save(id, exposed(0));
    let model = (await exposures(id)) as unknown[];
    let cursor = 1;
    let value = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 1, maxLength: 6 }),
        async (acts) => {
          for (const act of acts) {
            value += 0.01;
            const next = Math.round(value * 100) / 100;
            if (act === 0) {
              model = [...model.slice(0, cursor + 1), next];
              cursor++;
              await changeRecipes(test.app, [id], () => exposed(next));
            } else if (act === 1 && cursor > 1) {
              cursor--;
              await save(id, exposed(model[cursor] as number), {
                history: { from: model.length, states: [], at: cursor }
              });
            } else {
              model = [...model.slice(0, cursor + 1), next];
              cursor++;
              await save(id, exposed(next), {
                history: { from: cursor, states: [exposed(next)], at: cursor }
              });
            }
          }
          expect(await exposures(id)).toEqual(model);
          expect((await historyOf(test.app, id)).at).toBe(cursor);
        }
      ),
      { numRuns: 12 }
    );
  });
});

describe('revisions', () => {
  it('take the letters in their order, are named, marked, and deleted', async () => {
    const id = await newFrame();
    const [a, b] = await Promise.all([
      keepRevision(test.app, id, exposed(1)),
      keepRevision(test.app, id, exposed(2))
    ]);
    expect([a.letter, b.letter].sort()).toEqual(['A', 'B']);
    await changeRevision(test.app, id, a.id, { name: '  dusk  ', forDelivery: true });
    await changeRevision(test.app, id, b.id, { forDelivery: true });
    const [first, second] = [a, b].map(({ letter }) => letter);
    const listed = await revisionsOf(test.app, id);
    expect(listed.find(({ letter }) => letter === first)).toMatchObject({
      name: 'dusk',
      for_delivery: true
    });
    expect(listed.find(({ letter }) => letter === second)).toMatchObject({ for_delivery: true });
    expect(await removeRevision(test.app, id, a.id)).toBe(true);
    expect((await keepRevision(test.app, id, exposed(3))).letter).toBe(first);
    // Another frame's are not to be had by it.
    expect(await changeRevision(test.app, frame, b.id, { name: 'x' })).toBe(false);
    expect(await removeRevision(test.app, frame, b.id)).toBe(false);
    for (let i = 2; i < 26; i++) await keepRevision(test.app, id, exposed(0.1));
    await expect(keepRevision(test.app, id, exposed(0.1))).rejects.toThrow(/up to 26/);
    // All are marked at once.
    const all = await revisionsOf(test.app, id);
    await Promise.all(all.map((each) => changeRevision(test.app, id, each.id, { forDelivery: true })));
    expect((await revisionsOf(test.app, id)).filter(({ for_delivery }) => for_delivery)).toHaveLength(26);
  });

  it('are delivered where one is marked, else the frame as it stands', async () => {
    const id = await newFrame();
    await save(id, exposed(0.5));
    const kept = await keepRevision(test.app, id, { ...exposed(2), crop: { ratio: '1:1', enabled: true } });
    const deliverable = await addDeliverable(test.app, {
      name: 'Probe',
      pattern: '{frame}-{ratio}',
      sizeKind: 'long',
      width: 100
    });
    const delivered = async (): Promise<{ exposure: number; file: string }> => {
      const delivery = await startDelivery(test.app, test.jobId, [[id, deliverable]]);
      const { rows } = await test.app.db.query<{ recipe: PartialRecipe; file: string }>(
        'select recipe, file from delivery_items where delivery_id = $1',
        [delivery]
      );
      return { exposure: rows[0].recipe.tone!.exposure!, file: rows[0].file };
    };
    expect((await delivered()).exposure).toBe(0.5);
    await changeRevision(test.app, id, kept.id, { forDelivery: true });
    expect(await delivered()).toMatchObject({ exposure: 2 });
    expect((await planDelivery(test.app, test.jobId, [[id, deliverable]])).items[0].file).toMatch(/1x1/);
    await changeRevision(test.app, id, kept.id, { forDelivery: false });
    expect((await delivered()).exposure).toBe(0.5);
  });

  it('are delivered beside each other where several are marked, each by its own recipe and name', async () => {
    const id = await newFrame();
    const colour = await keepRevision(test.app, id, exposed(1));
    const mono = await keepRevision(test.app, id, { colour: { mono: true }, tone: { exposure: 1 } }, 'dusk');
    for (const each of [colour, mono]) await changeRevision(test.app, id, each.id, { forDelivery: true });
    const stem = (await frameById(test.app, id))!.name.replace(/\.[^.]+$/, '');
    const filesBy = async (pattern: string): Promise<string[]> => {
      const own = { name: pattern, pattern, sizeKind: 'long', width: 100 } as const;
      const deliverable = await addDeliverable(test.app, own);
      return (await planDelivery(test.app, test.jobId, [[id, deliverable]])).items.map(({ file }) => file);
    };
    // The letter comes by itself where the pattern does not tell them apart.
    expect(await filesBy('{frame}')).toEqual([`${stem}_A.jpg`, `${stem}_B.jpg`]);
    expect(await filesBy('{frame}-{revision-name}')).toEqual([`${stem}-A.jpg`, `${stem}-dusk.jpg`]);
    expect(await filesBy('{revision} {frame}')).toEqual([`A-${stem}.jpg`, `B-${stem}.jpg`]);
    const deliverable = await addDeliverable(test.app, {
      name: 'Both',
      pattern: '{frame}',
      sizeKind: 'long',
      width: 120
    });
    const delivery = await startDelivery(test.app, test.jobId, [[id, deliverable]]);
    const chroma = async (file: string): Promise<number> => {
      const { channels } = await sharp(file).stats();
      return Math.abs(channels[0].mean - channels[2].mean);
    };
    await until(async () => (await itemsOf(test.app, delivery)).every(({ state }) => state === 'done'));
    const folder = await deliveryFolder(test.app, delivery);
    const placed = (await itemsOf(test.app, delivery)).map((item) => item.placed!);
    expect(placed).toEqual([`${stem}_A.jpg`, `${stem}_B.jpg`]);
    const [inColour, inGrey] = await Promise.all(placed.map((file) => chroma(join(folder, file))));
    expect(inColour).toBeGreaterThan(3);
    expect(inGrey).toBeLessThan(0.5);
    // One of them alone keeps the plain name.
    await changeRevision(test.app, id, colour.id, { forDelivery: false });
    expect(await filesBy('{frame} ')).toEqual([`${stem}.jpg`]);
    expect(await filesBy('{frame}-{revision}')).toEqual([`${stem}-B.jpg`]);
  });
});

describe('what was done to many frames', () => {
  it('is taken back together, but not where a frame was changed since, or was so before', async () => {
    const [first, second, third] = [await newFrame(), await newFrame(), await newFrame()];
    await save(first, exposed(0.5));
    await save(third, exposed(2));
    const { frames, changed } = await changeRecipes(test.app, [first, second, third], () => exposed(2));
    expect([frames, changed.map(({ id }) => id)]).toEqual([3, [first, second]]);
    await save(second, exposed(3));
    const name = (await frameById(test.app, second))!.name;
    // Frames of another job are not reached.
    expect(await takeBack(test.app, frame, changed)).toEqual({ back: 0, since: [] });
    expect(await takeBack(test.app, test.jobId, changed)).toEqual({ back: 1, since: [name] });
    const now = async (id: string) => (await frameById(test.app, id))!.recipe.tone?.exposure;
    expect([await now(first), await now(second), await now(third)]).toEqual([0.5, 3, 2]);
    // Redo on the bench brings it again.
    expect(await exposures(first)).toEqual([undefined, 0.5, 2]);
    expect((await historyOf(test.app, first)).at).toBe(1);
    expect(await takeBack(test.app, test.jobId, changed)).toMatchObject({ back: 0 });
  });
});
