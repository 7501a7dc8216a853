import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { addFrame } from '../frames/add-frame.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { importLook, listLooks, removeLook, renameLook, storedBytes } from '../looks/looks.ts';
import { exportFrame } from '../render/export-frame.ts';
import { type TestApp, bytesOf, openTestApp } from './test-app.ts';

let test: TestApp;
let png: Buffer;
let path = '';
beforeAll(async () => {
  test = await openTestApp();
  png = await sharp({ create: { width: 90, height: 60, channels: 3, background: { r: 200, g: 100, b: 40 } } })
    .png()
    .toBuffer();
  path = join(mkdtempSync(join(tmpdir(), 'line-true-looks-')), 'plain.png');
  writeFileSync(path, png);
});
afterAll(() => test?.remove());

/** Red and blue change places. */
const SWAPPED = `TITLE "Swapped"\nLUT_3D_SIZE 2\n${[0, 1]
  .flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${b} ${g} ${r}`)))
  .join('\n')}\n`;

const exported = async (look: string, lookAmount = 100): Promise<number[]> => {
  const { bytes } = await exportFrame(
    {
      path,
      name: 'plain.png',
      recipe: { colour: { look, lookAmount } },
      choose: () => NO_CHOICE,
      findStored: (path) => storedBytes(test.app, path),
      encoding: { format: 'png', ppi: 300, keepPosition: false } as never,
      depth: 8,
      longEdge: null
    },
    test.app.pool
  );
  return [...(await sharp(bytes).raw().toBuffer()).subarray(30 * 90 * 3 + 45 * 3).subarray(0, 3)];
};

describe('looks', () => {
  it('are our own and imported ones, each taken once, and are laid over what is exported', async () => {
    expect((await listLooks(test.app)).filter(({ shipped }) => shipped)).toHaveLength(3);
    const card = await importLook(test.app, { text: SWAPPED, name: 'swap.cube', space: 'srgb' });
    const again = await importLook(test.app, { text: SWAPPED, name: 'other.cube', space: 'srgb' });
    expect(again.id).toBe(card.id);
    expect((await listLooks(test.app)).filter(({ shipped }) => !shipped)).toEqual([
      { id: card.id, name: 'Swapped', kind: '3D', size: 2, space: 'srgb', shipped: false }
    ]);
    (await exported(card.id)).forEach((value, c) =>
      expect(Math.abs(value - [40, 100, 200][c])).toBeLessThanOrEqual(1)
    );
    (await exported(card.id, 50)).forEach((value, c) =>
      expect(Math.abs(value - [120, 100, 120][c])).toBeLessThanOrEqual(1)
    );
    expect((await exported('plaster'))[0]).toBeLessThan(190);
  });

  it('that are not known are said to be, and nothing is made', async () => {
    for (const id of ['nothing', '00000000-0000-4000-8000-000000000000'])
      await expect(exported(id)).rejects.toThrow(/look of this frame is not known here/);
    await expect(
      importLook(test.app, { text: 'LUT_3D_SIZE 2\n0 0 0', name: 'x', space: 'srgb' })
    ).rejects.toThrow('1 rows; its size asks for 8');
  });

  it('are renamed, and removed where no frame has them', async () => {
    const card = await importLook(test.app, { text: SWAPPED, name: 'swap.cube', space: 'srgb' });
    expect(await renameLook(test.app, card.id, 'Turned')).toBe(true);
    expect((await listLooks(test.app)).some(({ name }) => name === 'Turned')).toBe(true);
    const { id } = await addFrame(test.app, test.jobId, 'plain.png', bytesOf(png));
    const [{ version }] = await framesOfJob(test.app, test.jobId, [id]);
    await saveRecipe(test.app, id, version, { colour: { look: card.id } });
    await expect(removeLook(test.app, card.id)).rejects.toThrow('1 frame has this look (plain.png).');
    await saveRecipe(test.app, id, version + 1, {});
    expect(await removeLook(test.app, card.id)).toBe(true);
    expect(await removeLook(test.app, card.id)).toBe(false);
    expect(await removeLook(test.app, 'plaster')).toBe(false);
  });
});
