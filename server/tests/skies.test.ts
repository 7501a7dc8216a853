import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { addFrame } from '../frames/add-frame.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { storedBytes } from '../looks/looks.ts';
import { findAmong, readRecipeFile, recipeFile } from '../recipes/recipe-file.ts';
import { validRecipe } from '../recipes/validate.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { exportFrame } from '../render/export-frame.ts';
import type { FindStored } from '../render/frame-resources.ts';
import { importSky, listSkies, ownSkyFile, removeSky } from '../skies/skies.ts';
import { type TestApp, bytesOf, openTestApp } from './test-app.ts';

const flat = (width: number, height: number, background: { r: number; g: number; b: number }) =>
  sharp({ create: { width, height, channels: 3, background } });

let test: TestApp;
let photograph: Buffer;
let path = '';
let red: Buffer;
beforeAll(async () => {
  test = await openTestApp();
  // Blue above, brown below.
  photograph = await sharp({
    create: { width: 480, height: 320, channels: 3, background: { r: 110, g: 160, b: 230 } }
  })
    .composite([{ input: await flat(480, 120, { r: 90, g: 60, b: 40 }).png().toBuffer(), left: 0, top: 200 }])
    .png()
    .toBuffer();
  path = join(mkdtempSync(join(tmpdir(), 'line-true-skies-')), 'field.png');
  writeFileSync(path, photograph);
  red = await flat(800, 500, { r: 200, g: 80, b: 60 }).png().toBuffer();
});
afterAll(() => test?.remove());

const under = (picture: string, more: object = {}): PartialRecipe =>
  ({
    areas: {
      shapes: [{ id: 's', parts: [{ id: 'f', kind: 'found', meets: 'add', what: 'sky' }] }],
      list: [{ id: 'a', shape: 's', sky: { picture, match: 0, ...more } }]
    }
  }) as unknown as PartialRecipe;

async function exported(
  recipe: PartialRecipe,
  findStored: FindStored
): Promise<(x: number, y: number) => number[]> {
  const { bytes } = await exportFrame(
    {
      path,
      name: 'field.png',
      recipe,
      choose: () => NO_CHOICE,
      findStored,
      encoding: { format: 'png', ppi: 300, keepPosition: false } as never,
      depth: 8,
      longEdge: null
    },
    test.app.pool
  );
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
  return (x, y) => [...data.subarray((y * info.width + x) * info.channels).subarray(0, 3)];
}
const isNear = (colour: number[], wanted: number[], most = 3): void =>
  colour.forEach((value, c) => expect(Math.abs(value - wanted[c])).toBeLessThanOrEqual(most));

describe('skies', () => {
  it('are three that ship and those of one’s own pictures, each taken once', async () => {
    expect((await listSkies(test.app)).map(({ shipped }) => shipped)).toEqual([true, true, true]);
    const card = await importSky(test.app, red, 'Evening at the quay.png');
    expect(card.name).toBe('Evening at the quay');
    expect((await importSky(test.app, red, 'again.png')).id).toBe(card.id);
    expect(await listSkies(test.app)).toHaveLength(4);
  });

  it('stand behind what was before the old one, and nowhere else', async () => {
    const { id } = await importSky(test.app, red, 'red.png');
    const at = await exported(under(id), (path) => storedBytes(test.app, path));
    for (const [x, y] of [
      [20, 10],
      [240, 100],
      [460, 180]
    ])
      isNear(at(x, y), [200, 80, 60]);
    for (const y of [206, 300]) isNear(at(240, y), [90, 60, 40]);
  });

  it('that ship are known without a database', async () => {
    const at = await exported(under('high-summer'), findAmong(new Map(), new Map()));
    const [r, , b] = at(240, 20);
    expect(b).toBeGreaterThan(1.3 * r);
    isNear(at(240, 300), [90, 60, 40]);
  });

  it('go along in a recipe that is written out', async () => {
    const { id } = await importSky(test.app, red, 'red.png');
    const file = await recipeFile(
      under(id),
      (path) => storedBytes(test.app, path),
      (sky) => ownSkyFile(test.app, sky)
    );
    const { recipe, looks, skies } = readRecipeFile(JSON.parse(JSON.stringify(file)));
    const at = await exported(recipe, findAmong(looks, skies));
    isNear(at(240, 100), [200, 80, 60]);
    expect(() => readRecipeFile({ ...file, skies: { [id]: 7 } })).toThrow(/not whole/);
    const damaged = findAmong(new Map(), new Map([[id, Buffer.from('no picture')]]));
    await expect(exported(recipe, damaged)).rejects.toThrow(/cannot be read/);
  });

  it('that are gone are said to be so, and nothing is exported', async () => {
    for (const gone of ['00000000-0000-4000-8000-000000000000', '../../etc/passwd', 'nowhere'])
      await expect(exported(under(gone), (path) => storedBytes(test.app, path))).rejects.toThrow(
        /not known here/
      );
  });

  it('are not removed while a frame shows them', async () => {
    const { id } = await importSky(test.app, red, 'red.png');
    const frame = await addFrame(test.app, test.jobId, 'field.png', bytesOf(photograph));
    const [{ version }] = await framesOfJob(test.app, test.jobId);
    await saveRecipe(test.app, frame.id, version, under(id));
    await expect(removeSky(test.app, id)).rejects.toThrow(/1 frame shows this sky \(field\.png\)/);
    await saveRecipe(test.app, frame.id, version + 1, under('first-light'));
    expect(await removeSky(test.app, id)).toBe(true);
    expect(await removeSky(test.app, id)).toBe(false);
    expect(await removeSky(test.app, 'first-light')).toBe(false);
  });

  it('of more than four kinds are too many for a frame', () => {
    const [shape] = (under('x') as unknown as { areas: { shapes: object[] } }).areas.shapes;
    const showing = (skies: number): object => ({
      areas: {
        shapes: [shape],
        list: Array.from({ length: 10 }, (_, i) => ({
          id: `a${i}`,
          shape: 's',
          sky: { picture: `sky-${i % skies}` }
        }))
      }
    });
    expect(() => validRecipe(showing(4))).not.toThrow();
    expect(() => validRecipe(showing(5))).toThrow(/5 different skies: a frame has 4 at most/);
  });

  it('of no use are refused in words', async () => {
    const count = (await listSkies(test.app)).length;
    const jpeg = await flat(900, 600, { r: 9, g: 9, b: 200 }).jpeg().toBuffer();
    for (const [bytes, words] of [
      [Buffer.from('a sky'), /cannot be read/],
      [Buffer.alloc(0), /cannot be read/],
      [jpeg.subarray(0, jpeg.length - 400), /cannot be read/],
      [await flat(390, 900, { r: 1, g: 2, b: 3 }).png().toBuffer(), /390 x 900 pixels: a sky needs 400/],
      [await flat(600, 600, { r: 1, g: 2, b: 3 }).gif().toBuffer(), /JPEG, PNG or TIFF/]
    ] as const)
      await expect(importSky(test.app, bytes, 'bad')).rejects.toThrow(words);
    expect(await listSkies(test.app)).toHaveLength(count);
  });
});
