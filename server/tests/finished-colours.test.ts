/** Finished pictures with profiles of their own: their colours arrive, and leave again in every space that holds them. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter, differenceCiede2000 } from 'culori';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OutputSpace } from '../../core/colour/rgb-spaces.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { iccProfile } from '../../core/picture/output/icc-profile.ts';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { matrixProfile } from '../decode/icc-matrix.ts';
import { proxyPath } from '../frames/proxy.ts';
import { originalOf } from '../originals/store-original.ts';
import { exportFrame } from '../render/export-frame.ts';
import { type Pool, createPool } from '../render/pool.ts';
import { tiffContainer } from '../render/tiff-container.ts';

type Rgb = [number, number, number];
const SIDE = 16;
/** Strong colours and greys, as they are encoded. */
const PATCHES: Rgb[] = [
  [0.95, 0.1, 0.1],
  [0.1, 0.9, 0.15],
  [0.15, 0.1, 0.9],
  [0.9, 0.8, 0.1],
  [0.1, 0.8, 0.85],
  [0.7, 0.2, 0.75],
  [0.02, 0.3, 0.05],
  [0.5, 0.5, 0.5],
  [0.98, 0.98, 0.98],
  [0.2, 0.22, 0.21]
];
const size = { width: SIDE * PATCHES.length, height: 64 };

let pool: Pool;
let folder = '';
beforeAll(() => {
  pool = createPool(2);
  folder = mkdtempSync(join(tmpdir(), 'line-true-finished-'));
});
afterAll(async () => {
  await pool.destroy();
  rmSync(folder, { recursive: true });
});

const chart = (): Uint16Array =>
  Uint16Array.from({ length: size.width * size.height * 3 }, (_, i) =>
    Math.round(65535 * PATCHES[Math.floor(((i / 3) % size.width) / SIDE)][i % 3])
  );
const COLUMNS = {
  /** Primaries under D50 as profiles of these spaces publish them: red, green, blue, each X, Y, Z. */
  rec2020: [0.67348, 0.27904, -0.00194, 0.16567, 0.67534, 0.02998, 0.12505, 0.04561, 0.79686],
  oprgb: [0.60974, 0.31111, 0.01947, 0.20528, 0.62567, 0.06087, 0.14919, 0.06322, 0.74457]
};

/** curveType of numbers of 16 bits. */
function curv(values: readonly number[]): Buffer {
  const out = Buffer.alloc(12 + values.length * 2 + (values.length % 2) * 2);
  out.write('curv', 0);
  out.writeUInt32BE(values.length, 8);
  values.forEach((value, i) => out.writeUInt16BE(value, 12 + i * 2));
  return out;
}

/** A profile of version 2 with a matrix and one curve (ICC.1:2001-04). */
function profileOf(columns: readonly number[], curve: Buffer, extra: string[] = []): Buffer {
  const xyz = [0, 1, 2].map((c) => {
    const out = Buffer.alloc(20);
    out.write('XYZ ', 0);
    [0, 1, 2].forEach((i) => out.writeInt32BE(Math.round(columns[c * 3 + i] * 65536), 8 + i * 4));
    return out;
  });
  const tags: [string, Buffer][] = [
    ['rXYZ', xyz[0]],
    ['gXYZ', xyz[1]],
    ['bXYZ', xyz[2]],
    ...['rTRC', 'gTRC', 'bTRC', ...extra].map((name): [string, Buffer] => [name, curve])
  ];
  const head = Buffer.alloc(132 + 12 * tags.length);
  head.writeUInt32BE(0x02400000, 8);
  head.write('mntrRGB XYZ ', 12);
  head.write('acsp', 36);
  [0.9642, 1, 0.8249].forEach((value, i) => head.writeInt32BE(Math.round(value * 65536), 68 + i * 4));
  head.writeUInt32BE(tags.length, 128);
  let at = head.length;
  tags.forEach(([name, bytes], i) => {
    head.write(name, 132 + i * 12);
    head.writeUInt32BE(at, 136 + i * 12);
    head.writeUInt32BE(bytes.length, 140 + i * 12);
    at += bytes.length;
  });
  head.writeUInt32BE(at, 0);
  return Buffer.concat([head, ...tags.map(([, bytes]) => bytes)]);
}

/** BT.2020-2's curve, from encoded to linear, as a table. */
const bt2020 = curv(
  Array.from({ length: 4096 }, (_, i) => {
    const v = i / 4095;
    const linear =
      v < 4.5 * 0.018053968510807 ? v / 4.5 : ((v + 0.09929682680944) / 1.09929682680944) ** (1 / 0.45);
    return Math.round(linear * 65535);
  })
);

const PROFILES: Record<
  string,
  { icc: Uint8Array; space: OutputSpace; mode: 'p3' | 'rec2020' | 'a98' | 'rgb' }
> = {
  'formulas, as Line True writes them': { icc: iccProfile('display-p3'), space: 'display-p3', mode: 'p3' },
  'a table of 4,096': { icc: profileOf(COLUMNS.rec2020, bt2020), space: 'rec2020', mode: 'rec2020' },
  'one gamma': { icc: profileOf(COLUMNS.oprgb, curv([0x0233])), space: 'oprgb', mode: 'a98' },
  'the usual one': { icc: iccProfile('srgb'), space: 'srgb', mode: 'rgb' }
};

const difference = differenceCiede2000();

/** The chart as it is delivered in a space, by its patches. */
async function delivered(bytes: Uint8Array, space: OutputSpace): Promise<Rgb[]> {
  const path = join(folder, 'chart.tif');
  writeFileSync(path, bytes);
  const { bytes: out } = await exportFrame(
    {
      path,
      name: 'chart.tif',
      recipe: { lens: { enabled: false } },
      choose: () => NO_CHOICE,
      encoding: { format: 'tiff', quality: 90, ppi: 300, keepPosition: false, space },
      depth: 16,
      longEdge: null
    },
    pool
  );
  const raw = await sharp(out, { ignoreIcc: true })
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer();
  const codes = new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
  return PATCHES.map((_, i) => {
    const at = (32 * size.width + i * SIDE + SIDE / 2) * 3;
    return [0, 1, 2].map((c) => codes[at + c] / 65535) as Rgb;
  });
}

describe('a finished picture with a profile', () => {
  for (const [name, { icc, space, mode }] of Object.entries(PROFILES))
    it(`leaves in its own space as it came: ${name}`, async () => {
      const out = await delivered(tiffContainer(chart(), size, icc, 300), space);
      PATCHES.forEach(([r, g, b], i) => {
        const [sr, sg, sb] = out[i];
        expect(difference({ mode, r, g, b }, { mode, r: sr, g: sg, b: sb }), `${i}`).toBeLessThan(0.5);
      });
    });

  it('keeps colours that are of both spaces, when it leaves in another', async () => {
    const out = await delivered(tiffContainer(chart(), size, iccProfile('display-p3'), 300), 'srgb');
    const toRgb = converter('rgb');
    let within = 0;
    PATCHES.forEach(([r, g, b], i) => {
      const truth = toRgb({ mode: 'p3', r, g, b });
      const values = [truth.r, truth.g, truth.b];
      if (values.some((value) => value < 0.01 || value > 0.99)) return;
      within++;
      const [sr, sg, sb] = out[i];
      expect(difference(truth, { mode: 'rgb', r: sr, g: sg, b: sb })).toBeLessThan(0.5);
    });
    expect(within).toBeGreaterThanOrEqual(4);
  });

  it('is read as before where its frame was added before', async () => {
    const file = Buffer.from(tiffContainer(chart(), size, iccProfile('display-p3'), 300));
    const [own, before] = await Promise.all([
      decodeFile(file, 'chart.tif'),
      decodeFile(file, 'chart.tif', { asSrgb: true })
    ]);
    expect(own.facts.ownColours).toBe(true);
    expect(before.facts.ownColours).toBeUndefined();
    expect(before.facts.toWorking).not.toEqual(own.facts.toWorking);
    const plain = await decodeFile(file.subarray(0, file.length), 'chart.tif', { asSrgb: true });
    expect(plain.facts.toWorking).toEqual(before.facts.toWorking);
  });

  it('of 8 bits is read code by code, whatever its format', async () => {
    const codes = Buffer.from(Array.from({ length: 256 * 16 * 3 }, (_, i) => Math.floor(i / 3) % 256));
    const image = sharp(codes, { raw: { width: 256, height: 16, channels: 3 } });
    for (const [name, bytes] of [
      ['a.png', await image.png().toBuffer()],
      ['a.tif', await image.tiff({ compression: 'lzw' }).toBuffer()],
      ['grey.png', await image.clone().greyscale().png().toBuffer()]
    ] as const) {
      const decoded = await decodeFile(bytes, name);
      if (decoded.kind !== 'codes') throw new Error('A finished picture has codes.');
      for (let code = 0; code < 256; code++) expect(decoded.data[code * 3 + 1], name).toBe(code * 257);
    }
  });

  it('keeps what was made of its pixels apart from what a frame that was added before has', () => {
    const frame = { sha256: 'ab'.repeat(32), name: 'chart.tif' };
    const facts = { rendering: 'display' } as FrameFacts;
    expect(originalOf('/data', { ...frame, facts }).asSrgb).toBe(true);
    expect(originalOf('/data', { ...frame, facts: { ...facts, ownColours: true } }).asSrgb).toBe(false);
    expect(originalOf('/data', { ...frame, facts: { ...facts, rendering: 'scene' } }).asSrgb).toBe(false);
    expect(originalOf('/data', { ...frame, facts: null }).asSrgb).toBe(false);
    const [before, now] = [facts, { ownColours: true }].map((of) => proxyPath('/data', frame.sha256, of));
    expect(before).not.toBe(now);
  });

  it('goes by what else it says where its profile is of another kind, or damaged', () => {
    const good = profileOf(COLUMNS.oprgb, curv([0x0233]));
    expect(matrixProfile(good)).not.toBeNull();
    expect(matrixProfile(profileOf(COLUMNS.oprgb, curv([0x0233]), ['A2B0']))).toBeNull();
    expect(
      matrixProfile(
        profileOf(
          COLUMNS.oprgb.map((value) => value * 0.5),
          curv([0x0233])
        )
      )
    ).toBeNull();
    for (let length = 0; length < good.length; length += 7) matrixProfile(good.subarray(0, length));
    expect(matrixProfile(good.subarray(0, 200))).toBeNull();
    const grey = Buffer.from(good);
    grey.write('GRAY', 16);
    expect(matrixProfile(grey)).toBeNull();
    const endless = profileOf(COLUMNS.oprgb, curv([0x0233]));
    endless.writeUInt32BE(0xffffffff, endless.indexOf('curv') + 8);
    expect(matrixProfile(endless)).toBeNull();
  });
});
