/** A border about exported files: its size, its colours in the file's own space, and the picture in it as it is without. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import type { OutputSpace } from '../../core/colour/rgb-spaces.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { DEMO_FRAMES } from '../../scenes/demo-frames.ts';
import { takeFrame } from '../../scenes/take-frame.ts';
import { exportFrame, openFrame, renderPicture } from '../render/export-frame.ts';
import { createPool } from '../render/pool.ts';

const pool = createPool();
afterAll(() => pool.destroy());
const frame = DEMO_FRAMES.find(({ file }) => file === 'SML_0101.dng')!;
const path = join(mkdtempSync(join(tmpdir(), 'line-true-border-')), frame.file);
writeFileSync(path, takeFrame(frame, 600));

const opened = (recipe: PartialRecipe) => ({ path, name: frame.file, recipe, choose: () => NO_CHOICE });

async function exported(
  recipe: PartialRecipe,
  { longEdge = null, space = 'srgb' }: { longEdge?: number | null; space?: OutputSpace } = {}
) {
  const { bytes } = await exportFrame(
    {
      ...opened(recipe),
      encoding: { format: 'png', quality: 90, ppi: 300, keepPosition: false, space },
      depth: 8,
      longEdge,
      reported: false
    },
    pool
  );
  const { data, info } = await sharp(bytes, { ignoreIcc: true })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number): number[] => [
    ...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3)
  ];
  return { width: info.width, height: info.height, at };
}

const BORDER = {
  border: 10,
  borderColour: '#f0e6d2',
  borderLine: 5,
  borderLineAt: 50,
  borderLineColour: '#102030'
};

describe('a border about a file', () => {
  it('lies about the picture, which is as it is without', async () => {
    const plain = await exported({});
    const whole = await exported({ finish: BORDER });
    const about = Math.round(0.1 * Math.min(plain.width, plain.height));
    expect([whole.width, whole.height]).toEqual([plain.width + 2 * about, plain.height + 2 * about]);
    expect(whole.at(0, 0)).toEqual([0xf0, 0xe6, 0xd2]);
    expect(whole.at(whole.width - 1, whole.height - 1)).toEqual([0xf0, 0xe6, 0xd2]);
    for (let y = 0; y < plain.height; y += 7)
      for (let x = 0; x < plain.width; x += 5) expect(whole.at(x + about, y + about)).toEqual(plain.at(x, y));
    // The line is crossed once on each side.
    const row = Array.from({ length: about }, (_, x) => whole.at(x, Math.round(whole.height / 2)).join());
    const ink = row.map((codes, i) => [codes, i] as const).filter(([codes]) => codes === '16,32,48');
    expect(ink).toHaveLength(Math.max(1, Math.round(0.005 * plain.height)));
    expect(Math.abs(ink[0][1] - about / 2)).toBeLessThan(3);
  });

  it('counts in a limit of size, and in a paper', async () => {
    const small = await exported({ finish: { ...BORDER, borderPaper: '1:1' } }, { longEdge: 240 });
    expect([small.width, small.height]).toEqual([240, 240]);
    expect(small.at(120, 2)).toEqual([0xf0, 0xe6, 0xd2]);
    expect(small.at(120, 120)).not.toEqual([0xf0, 0xe6, 0xd2]);
    const off = await exported({ finish: { ...BORDER, enabled: false } });
    expect(off.width).toBe((await exported({})).width);
  });

  it('has its colour in the space of the file', async () => {
    const wide = await exported({ finish: { ...BORDER, borderColour: '#ff0000' } }, { space: 'rec2020' });
    // ITU-R BT.2087: sRGB's red has these shares of Rec. 2020's colours.
    const encode = (light: number): number =>
      light < 0.018054 ? 4.5 * light : 1.0993 * light ** 0.45 - 0.0993;
    [0.6274, 0.0691, 0.0164].forEach((light, c) =>
      expect(Math.abs(wide.at(1, 1)[c] - 255 * encode(light))).toBeLessThan(1.5)
    );
  });

  it('keeps the ratio that a file is asked in', async () => {
    const open = await openFrame(opened({ finish: BORDER }), pool);
    try {
      const { size } = await renderPicture(
        open,
        {
          encoding: { format: 'jpeg', quality: 90, ppi: 72, keepPosition: false },
          depth: 8,
          ratio: '1:1',
          sizeFor: ({ width, height }) => ({ width: Math.round(width / 2), height: Math.round(height / 2) })
        },
        pool
      );
      expect(Math.abs(size.width - size.height)).toBeLessThanOrEqual(1);
    } finally {
      await open.close();
    }
  });
});
