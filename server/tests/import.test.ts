import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { differenceCiede2000 } from 'culori';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { packRgba8 } from '../../core/picture/output/pack-pixels.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { cropView } from '../../core/render/plan.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import { renderTile } from '../../core/render/render-tile.ts';
import { allocatePlanes, givePlanesBack, placeOn } from '../../core/picture/tile/planes.ts';
import { STORED_16, fillPlanes } from '../../core/picture/tile/stored-planes.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { exportFrame } from '../render/export-frame.ts';
import { embeddedPicture } from '../decode/embedded-picture.ts';
import { addFrame } from '../frames/add-frame.ts';
import { earlyPicture } from '../frames/early-picture.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type FrameRow, frameById, framesOfJob } from '../frames/frame-row.ts';
import { TILE, fullTile } from '../frames/full-tiles.ts';
import { proxyPath } from '../frames/proxy.ts';
import { thumbnail } from '../set/thumbnail.ts';
import { jobById, listJobs } from '../jobs/jobs.ts';
import { incomingFolder, originalOf, originalPath, removeAbandoned } from '../originals/store-original.ts';
import { badFiles } from './bad-files.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const dng = (name = 'SML_0101.dng'): string => join(inject('photographs'), name);

async function add(name: string, bytes: Uint8Array): Promise<FrameRow> {
  const { id } = await addFrame(
    test.app,
    test.jobId,
    name,
    bytesOf(bytes.subarray(0, 1000), bytes.subarray(1000)),
    { bytes: bytes.length }
  );
  return until(async () => {
    const frame = await frameById(test.app, id);
    return frame && (frame.state === 'failed' || frame.measured) ? frame : null;
  });
}

const incoming = (): string[] => readdirSync(join(test.app.data, 'incoming'));

beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.remove());

describe('adding frames', () => {
  it('stores a raw file untouched and reads its facts', async () => {
    const bytes = readFileSync(dng());
    const frame = await add('SML_0101.dng', bytes);
    expect(frame.error).toBeNull();
    expect(frame.facts).toMatchObject({
      format: 'DNG',
      rendering: 'scene',
      size: { width: 1500, height: 1000 },
      make: 'Fenwright',
      model: 'F2',
      lens: 'Fenwright 24 mm f/2.8',
      focalLength: 24,
      aperture: 8,
      iso: 100
    });
    expect(frame.facts!.sensorHalfDiagonal).toBeCloseTo(21.633, 2);
    expect(frame.facts!.position!.latitude).toBeCloseTo(-41.5125, 4);
    expect(readFileSync(originalPath(test.app.data, frame.sha256)).equals(bytes)).toBe(true);
    expect(statSync(proxyPath(test.app.data, frame.sha256, {})).size).toBe(1500 * 1000 * 6);
    expect(incoming()).toEqual([]);
  });

  it('takes the same file twice as one original and one frame', async () => {
    const bytes = readFileSync(dng());
    const again = await addFrame(test.app, test.jobId, 'copy of it.dng', bytesOf(bytes), {
      bytes: bytes.length
    });
    expect(again.known).toBe(true);
    const originals = await test.app.db.query('select count(*)::int as n from originals');
    expect(originals.rows[0].n).toBe(1);
  });

  it('sets portrait frames upright', async () => {
    const frame = await add('SML_0130.dng', readFileSync(dng('SML_0130.dng')));
    expect(frame.facts!.size).toEqual({ width: 1000, height: 1500 });
    const small = await sharp(await thumbnail(test.app, frame)).metadata();
    expect(small.height).toBe(480);
    expect(small.width).toBeLessThan(330);
  });

  it('shows what a file brings along until it is prepared: upright, and the same picture', async () => {
    const grey = async (bytes: Uint8Array): Promise<number[]> => [
      ...(await sharp(bytes).greyscale().resize(24, 36, { fit: 'fill' }).raw().toBuffer())
    ];
    const bytes = readFileSync(dng('SML_0130.dng'));
    const frame = await add('SML_0130.dng', bytes);
    const own = (await until(() => earlyPicture(test.app, frame.sha256)))!;
    const { width, height } = await sharp(own).metadata();
    expect(height! / width!).toBeCloseTo(1.5, 1);
    const [early, ready] = [await grey(own), await grey(await thumbnail(test.app, frame))];
    const correlation = (a: number[], b: number[]): number => {
      const [ma, mb] = [a, b].map((each) => each.reduce((sum, value) => sum + value, 0) / each.length);
      const product = (x: number[], mx: number, y: number[], my: number): number =>
        x.reduce((sum, value, i) => sum + (value - mx) * (y[i] - my), 0);
      return product(a, ma, b, mb) / Math.sqrt(product(a, ma, a, ma) * product(b, mb, b, mb));
    };
    expect(correlation(early, ready)).toBeGreaterThan(0.9);
    expect(correlation([...early].reverse(), ready)).toBeLessThan(0.6);
    // Of finished pictures it is the picture itself; of damaged and other files there is none.
    const jpeg = await sharp(own).resize(900).jpeg().toBuffer();
    expect((await sharp((await embeddedPicture(jpeg, 'a.jpg'))!).metadata()).height).toBe(480);
    expect(await test.app.pool.picture(dng(), 'a.dng')).not.toBeNull();
    const damaged = join(test.app.data, 'damaged.dng');
    writeFileSync(damaged, bytes.subarray(0, 3000));
    expect(await test.app.pool.picture(damaged, 'damaged.dng')).toBeNull();
  });

  it('takes JPEG, PNG, TIFF of 8 and 16 bits, grey ones and CMYK', async () => {
    const base = sharp({
      create: { width: 300, height: 200, channels: 3, background: { r: 150, g: 120, b: 100 } }
    });
    const files: [string, Buffer][] = [
      ['plain.jpg', await base.clone().jpeg({ quality: 95 }).toBuffer()],
      ['plain.png', await base.clone().png().toBuffer()],
      ['plain.tif', await base.clone().tiff().toBuffer()],
      ['deep.tiff', await base.clone().toColourspace('rgb16').tiff().toBuffer()],
      ['cmyk.jpg', await base.clone().toColourspace('cmyk').jpeg().toBuffer()]
    ];
    for (const [name, bytes] of files) {
      const frame = await add(name, bytes);
      expect(frame.error, name).toBeNull();
      expect(frame.facts, name).toMatchObject({ rendering: 'display', size: { width: 300, height: 200 } });
      const { data } = await sharp(await thumbnail(test.app, frame))
        .raw()
        .toBuffer({ resolveWithObject: true });
      const tolerance = name === 'cmyk.jpg' ? 25 : 4;
      [150, 120, 100].forEach((value, c) =>
        expect(Math.abs(data[c + 3000] - value), name).toBeLessThan(tolerance)
      );
    }
  });

  it('takes a 16-bit grey TIFF as it is', async () => {
    const values = new Uint16Array(300 * 200).map((_, i) => (i % 300) * 218);
    const bytes = await sharp(values, { raw: { width: 300, height: 200, channels: 1 } })
      .toColourspace('grey16')
      .tiff()
      .toBuffer();
    const frame = await add('grey.tif', bytes);
    expect(frame.error).toBeNull();
    const { data } = await sharp(await thumbnail(test.app, frame))
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (const x of [30, 150, 270]) {
      expect(Math.abs(data[(100 * 300 + x) * 3] - (x * 218) / 257)).toBeLessThan(4);
      expect(Math.abs(data[(100 * 300 + x) * 3] - data[(100 * 300 + x) * 3 + 2])).toBeLessThan(3);
    }
  });

  it('serves full-size tiles that agree with the proxy', async () => {
    const frame = (await framesOfJob(test.app, test.jobId)).find((f) => f.name === 'SML_0101.dng')!;
    const tile = await (await fullTile(test.app, frame, 1, 1))!.read();
    expect(tile.length).toBe(512 * (1000 - 512) * 6);
    const proxy = readFileSync(proxyPath(test.app.data, frame.sha256, {}));
    const at = (512 + 40) * 1500 + 512 + 60;
    expect(tile.readUInt16LE((40 * 512 + 60) * 6)).toBe(proxy.readUInt16LE(at * 6));
    expect(await fullTile(test.app, frame, 9, 0)).toBeNull();
  });

  it('serves full-size tiles that look at 1:1 as the export does, within half a ΔE', async () => {
    const frame = (await framesOfJob(test.app, test.jobId)).find((f) => f.name === 'SML_0101.dng')!;
    const facts = frame.facts!;
    const { width, height } = facts.size;
    const planes = allocatePlanes(width, height);
    for (let row = 0; row * TILE < height; row++)
      for (let column = 0; column * TILE < width; column++) {
        const bytes = await (await fullTile(test.app, frame, column, row))!.read();
        const codes = new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2);
        const columns = Math.min(TILE, width - column * TILE);
        fillPlanes(codes, columns, planes, STORED_16, column * TILE, row * TILE);
      }
    const recipe = { lines: { roll: 1.2, pitch: 4 } };
    const choice = await choiceFor(test.app, facts);
    const { plan, stages } = renderInputs(completeRecipe(recipe), facts, choice);
    const view = cropView(plan.crop, plan.output);
    const bench = new Uint8ClampedArray(view.width * view.height * 4);
    renderTile(
      { source: placeOn(planes, facts.size), stages, view, meshError: 0.05 },
      packRgba8(bench, view.width)
    );
    const encoding = { format: 'png' as const, quality: 100, ppi: 300, keepPosition: false };
    const { bytes, size } = await exportFrame(
      {
        ...originalOf(test.app.data, frame),
        recipe,
        choose: () => choice,
        encoding,
        depth: 8,
        longEdge: null
      },
      test.app.pool
    );
    expect(size).toEqual({ width: view.width, height: view.height });
    const exported = await sharp(bytes).raw().toBuffer();
    const colour = (of: Uint8Array | Uint8ClampedArray, at: number) => ({
      mode: 'rgb' as const,
      r: of[at] / 255,
      g: of[at + 1] / 255,
      b: of[at + 2] / 255
    });
    const difference = differenceCiede2000();
    let [sum, count] = [0, 0];
    for (let i = 0; i < view.width * view.height; i += 11, count++)
      sum += difference(colour(bench, i * 4), colour(exported, i * 3));
    expect(sum / count).toBeLessThan(0.5);
    // They are pictures, and of the same thing.
    expect(Math.max(...exported.subarray(0, 30_000))).toBeGreaterThan(150);
    givePlanesBack(planes);
  });

  it('refuses each bad file with its reason, keeps nothing of it, and goes on', async () => {
    const before = await framesOfJob(test.app, test.jobId);
    for (const { what, name, bytes, message } of await badFiles(dng())) {
      let said = '';
      try {
        const frame = await add(name, bytes);
        said = frame.error ?? `state ${frame.state}`;
      } catch (error) {
        said = (error as Error).message;
      }
      expect(said, what).toMatch(message);
    }
    expect(incoming()).toEqual([]);
    const after = await framesOfJob(test.app, test.jobId);
    for (const frame of before) expect(after.find((f) => f.id === frame.id)).toEqual(frame);
  });

  it('refuses a file of 600 MB before it fills the disk', async () => {
    async function* endless(): AsyncGenerator<Uint8Array> {
      const chunk = new Uint8Array(8 * 1024 * 1024);
      chunk.set([0x49, 0x49, 42, 0]);
      for (let i = 0; i < 75; i++) yield chunk;
    }
    await expect(addFrame(test.app, test.jobId, 'endless.dng', endless())).rejects.toThrow(
      /larger than 512 MB/
    );
    expect(incoming()).toEqual([]);
  });

  it('keeps nothing of an import that breaks off', async () => {
    async function* broken(): AsyncGenerator<Uint8Array> {
      yield readFileSync(dng()).subarray(0, 100000);
      throw new Error('aborted');
    }
    await expect(addFrame(test.app, test.jobId, 'broken.dng', broken())).rejects.toThrow();
    const bytes = readFileSync(dng()).subarray(0, 100000);
    await expect(
      addFrame(test.app, test.jobId, 'short.dng', bytesOf(bytes), { bytes: 200000 })
    ).rejects.toThrow(/cut short/);
    expect(incoming()).toEqual([]);
  });

  it('clears away what a crash left of an import, but not what is still arriving', async () => {
    const [old, fresh] = ['old.part', 'fresh.part'].map((name) => join(test.app.data, 'incoming', name));
    writeFileSync(old, 'x');
    writeFileSync(fresh, 'x');
    utimesSync(old, new Date(0), new Date(0));
    await removeAbandoned(incomingFolder(test.app.data));
    expect(incoming()).toEqual(['fresh.part']);
    rmSync(fresh);
  });

  it.runIf(process.getuid?.() === 0)('says that the disk is full, and loses nothing', async () => {
    await test.remove();
    const disk = mkdtempSync(join(tmpdir(), 'small-disk-'));
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=2m', 'tmpfs', disk]);
    const small = await openTestApp(disk);
    try {
      const png = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#777' } })
        .png()
        .toBuffer();
      const kept = await addFrame(small.app, small.jobId, 'small.png', bytesOf(png), { bytes: png.length });
      await until(async () => (await frameById(small.app, kept.id))?.measured === true);
      const bytes = readFileSync(dng());
      await expect(
        addFrame(small.app, small.jobId, 'SML_0101.dng', bytesOf(bytes), { bytes: bytes.length })
      ).rejects.toThrow(/disk is full/);
      expect((await framesOfJob(small.app, small.jobId)).map((f) => [f.name, f.state])).toEqual([
        ['small.png', 'ready']
      ]);
      expect(readdirSync(join(disk, 'incoming'))).toEqual([]);
    } finally {
      await small.close();
      execFileSync('umount', [disk]);
      test = await openTestApp();
    }
  });
});

describe('recipes', () => {
  it('are saved over their version only, and a newer one is handed back', async () => {
    const frame = await add('SML_0101.dng', readFileSync(dng()));
    const first = await saveRecipe(test.app, frame.id, frame.version, { lens: { distortion: 80 } });
    expect(first).toEqual({ saved: true, version: 1 });
    const stale = await saveRecipe(test.app, frame.id, frame.version, { lens: { distortion: 10 } });
    expect(stale).toEqual({ saved: false, version: 1, recipe: { version: 3, lens: { distortion: 80 } } });
    expect((await frameById(test.app, frame.id))!.recipe).toEqual({ version: 3, lens: { distortion: 80 } });
  });
});

describe('jobs', () => {
  it('are listed with their frames counted', async () => {
    const [job] = await listJobs(test.app);
    expect(job).toMatchObject({ name: 'Test job', frames: 1, waiting: 0, failed: 0 });
    expect(job.cover).toMatchObject({ version: 1 });
    expect((await jobById(test.app, job.id))!.name).toBe('Test job');
  });
});
