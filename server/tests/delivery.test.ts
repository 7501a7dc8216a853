/** Deliveries: what is made, what it says of itself, and that nothing is lost on the way. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  statSync,
  writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter, differenceCiede2000 } from 'culori';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { RGB_SPACES, SPACES } from '../../core/colour/rgb-spaces.ts';
import {
  type Deliverable,
  FORMATS,
  completeDeliverable
} from '../../core/picture/output/deliverable-schema.ts';
import { fitBytes } from '../../core/picture/output/fit-bytes.ts';
import { seededRandom } from '../../core/math/random.ts';
import { type Pick, actOnDelivery, itemsOf, planDelivery, startDelivery } from '../deliveries/deliveries.ts';
import {
  addDeliverable,
  importDeliverables,
  listDeliverables,
  soundDeliverable
} from '../deliveries/deliverables.ts';
import { folderName, pathInFolder, placeFile } from '../deliveries/delivery-folder.ts';
import { covered } from '../deliveries/estimate.ts';
import { deliveryReport, deliveryZip } from '../deliveries/delivery-files.ts';
import { deliveryById } from '../deliveries/deliveries.ts';
import { finishedItems, manifestCsv } from '../deliveries/manifest.ts';
import { reportPdf } from '../deliveries/report-pdf.ts';
import { nameItems } from '../deliveries/name-items.ts';
import { addFrame } from '../frames/add-frame.ts';
import { applyWatermark } from '../render/watermark.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { changeFrames, frameById } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
const frames: Record<string, string> = {};
let folder = '';
const NAMES = ['SML_0101.dng', 'CPR_0003.dng'];

const deliverable = (settings: Partial<Deliverable> & { name: string }): Deliverable =>
  completeDeliverable(settings);
const exif = (path: string): Record<string, unknown> =>
  (
    JSON.parse(execFileSync('exiftool', ['-j', '-n', '-G1', path]).toString()) as Record<string, unknown>[]
  )[0];

/** Waits for the end of a delivery. */
const ended = (id: string) =>
  until(async () => {
    const items = await itemsOf(test.app, id);
    return items.every(({ state }) => !['queued', 'running'].includes(state)) && items;
  }, 120);
async function deliver(picks: Pick[]) {
  const id = await startDelivery(test.app, test.jobId, picks);
  return { id, items: await ended(id) };
}
async function streamed(stream: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  for await (const part of stream) parts.push(part);
  return Buffer.concat(parts);
}

beforeAll(async () => {
  test = await openTestApp();
  for (const name of NAMES) {
    const bytes = readFileSync(join(inject('photographs'), name));
    frames[name] = (await addFrame(test.app, test.jobId, name, bytesOf(bytes))).id;
    await until(async () => (await frameById(test.app, frames[name]))?.measured === true);
  }
  await saveRecipe(test.app, frames['SML_0101.dng'], 0, { lines: { roll: -1.3, pitch: 9.5 } });
  folder = join(test.app.deliveries, folderName((await jobById(test.app, test.jobId))!));
});
afterAll(() => test.remove());

describe('a delivery', () => {
  it('makes every picture once, in its ratio, size and limit, with manifest, report and ZIP', async () => {
    const listing = await addDeliverable(
      test.app,
      deliverable({ name: 'Web', ratio: '4:3', sizeKind: 'long', width: 900, limit: 90, quality: 95 })
    );
    const feed = await addDeliverable(
      test.app,
      deliverable({ name: 'Feed', ratio: '4:5', sizeKind: 'exact', width: 400, height: 500, format: 'webp' })
    );
    const picks: Pick[] = Object.values(frames).flatMap(
      (frame) =>
        [
          [frame, listing],
          [frame, feed]
        ] as Pick[]
    );
    const plan = await planDelivery(test.app, test.jobId, picks);
    expect(plan.items.map(({ file }) => file)).toContain('Test-job-SML_0101-Web.jpg');
    const { id, items } = await deliver(picks);
    expect(items.map(({ state }) => state)).toEqual(['done', 'done', 'done', 'done']);
    for (const item of items) {
      const bytes = readFileSync(join(folder, item.placed!));
      expect(createHash('sha256').update(bytes).digest('hex')).toBe(item.sha256);
      const { width, height } = await sharp(bytes).metadata();
      expect([width, height]).toEqual(item.deliverable === 'Web' ? [900, 675] : [400, 500]);
      if (item.deliverable === 'Web') {
        expect(bytes.length).toBeLessThanOrEqual(90_000);
        expect(item.encodes).toBeLessThanOrEqual(6);
      }
    }
    expect(readdirSync(folder).sort()).toEqual(items.map(({ placed }) => placed).sort());

    const delivery = (await deliveryById(test.app, id))!;
    const zipped = await streamed(await deliveryZip(test.app, delivery));
    const files = unzipSync(zipped);
    expect(Object.keys(files).sort()).toEqual(
      [...items.map(({ placed }) => placed!), 'manifest.csv', 'manifest.json', 'report.pdf'].sort()
    );
    const manifest = JSON.parse(Buffer.from(files['manifest.json']).toString()) as {
      files: { file: string; sha256: string; readings: { cover: number } }[];
    };
    for (const { file, sha256, readings } of manifest.files) {
      expect(createHash('sha256').update(files[file]).digest('hex')).toBe(sha256);
      expect(readings.cover).toBe(100);
    }
    expect(Buffer.from(files['manifest.csv']).toString().split('\r\n')).toHaveLength(6);
    const pdf = join(mkdtempSync(join(tmpdir(), 'line-true-pdf-')), 'report.pdf');
    writeFileSync(pdf, await deliveryReport(test.app, delivery));
    const text = execFileSync('pdftotext', ['-layout', pdf, '-']).toString();
    expect(text).toMatch(/Test job/);
    expect(text).toMatch(/SML_0101\.dng/);
    expect(text).toMatch(/Fenwright 24 mm/);
    // Nothing is marked on either frame: what was found is read, the one turned true by hand, the other as it was taken.
    const plumb = [...text.matchAll(/Plumb +([\d.]+)° ±[\d.]+ found/g)].map(([, figure]) => Number(figure));
    expect(plumb[0]).toBeLessThan(0.3);
    expect(plumb[1]).toBeGreaterThan(1);
    expect(text).toMatch(/Straight +[\d.]+ px ±[\d.]+ found/);
    // Wherever the lines are broken.
    const words = text.replace(/\s+/g, ' ');
    expect(words).toMatch(/Not measured: .*neutral: no place was picked as grey/);
    expect(words).toContain('Nothing mended or taken out.');
    expect(text).toMatch(/roll -1\.30°, pitch 9\.50°/);
    // Pages are filled: three frames under the head, four on each page that follows.
    const [entry] = await finishedItems(test.app, id);
    const many = Array.from({ length: 8 }, (_, i) => ({ ...entry, frame: `FRAME_${i}` }));
    const head = { job: 'Test job', client: 'A client', site: 'A site', date: '2026-06-01' };
    writeFileSync(pdf, await reportPdf(head, many, (file) => join(folder, file)));
    const pages = execFileSync('pdftotext', ['-layout', pdf, '-']).toString().split('\f');
    expect(pages.map((page) => page.match(/FRAME_\d/g)?.length ?? 0)).toEqual([3, 4, 1, 0]);
    // The same again is the same to the byte, under names of its own.
    const again = await deliver(picks);
    expect(again.items.map(({ sha256 }) => sha256)).toEqual(items.map(({ sha256 }) => sha256));
    expect(again.items[0].placed).toBe('Test-job-SML_0101-Web-2.jpg');
    const replaced = unzipSync(
      await streamed(await deliveryZip(test.app, (await deliveryById(test.app, again.id))!))
    );
    expect(Object.keys(replaced)).toContain('Test-job-SML_0101-Web-2.jpg');
  });

  it('is estimated by what the latest ones took on this machine', async () => {
    const picks = Object.values(frames).flatMap((frame) =>
      ['Listing 4x3', 'Banner 16x9'].map((name): [string, string] => [frame, name])
    );
    const rows = await listDeliverables(test.app);
    const chosen = picks.map(([frame, name]): Pick => [
      frame,
      rows.find(({ document }) => document.name === name)!.id
    ]);
    const { id } = await deliver(chosen);
    await test.app.db.query('delete from deliveries where id <> $1', [id]);
    // As if every picture had taken a minute, one after the other.
    await test.app.db.query(
      `update delivery_items set started_at = created + position * interval '1 minute',
         finished_at = created + (position + 1) * interval '1 minute'
       from (select now() as created) as moment where state = 'done'`
    );
    const { seconds, bytes } = await planDelivery(test.app, test.jobId, chosen);
    expect(seconds).toBeGreaterThan(0.6 * 60 * chosen.length);
    expect(seconds).toBeLessThan(1.6 * 60 * chosen.length);
    expect(bytes).toBeGreaterThan(1e5);
    // Pauses are no work.
    expect(
      covered([
        [0, 2],
        [1, 3],
        [10, 11]
      ])
    ).toBe(4);
  });

  it('writes profile, resolution, rights and texts as they were asked for, and no place unless asked', async () => {
    const texts = {
      title: '{job}, {room}',
      caption: 'Frame {number} & <more> “quoted”',
      creator: 'Imre Calloway',
      copyright: '© 2026 Imre Calloway',
      keywords: 'brick, front ,library'
    };
    await changeFrames(test.app, test.jobId, [frames['SML_0101.dng']], { room: 'West front' });
    const made = { jpeg: 'display-p3', tiff: 'oprgb', png: 'rec2020', webp: 'srgb', avif: 'oprgb' } as const;
    for (const format of FORMATS) {
      const id = await addDeliverable(
        test.app,
        deliverable({
          name: `All ${format}`,
          format,
          sizeKind: 'long',
          width: 300,
          ppi: 240,
          space: made[format],
          metadata: format === 'webp' ? 'rights' : 'all',
          ...texts
        })
      );
      const { items } = await deliver([[frames['SML_0101.dng'], id]]);
      const tags = exif(join(folder, items[0].placed!));
      expect(tags['XMP-dc:Title'], format).toBe('Test job, West front');
      expect(tags['XMP-dc:Description']).toBe('Frame 0101 & <more> “quoted”');
      expect(tags['XMP-dc:Subject']).toEqual(['brick', 'front', 'library']);
      expect(tags['XMP-dc:Rights']).toBe('© 2026 Imre Calloway');
      expect(tags['XMP-dc:Creator']).toBe('Imre Calloway');
      expect(JSON.stringify(tags)).not.toMatch(/GPS(Lat|Long)/);
      expect(tags['ICC_Profile:ProfileDescription'], format).toBe(RGB_SPACES[made[format]].name);
      if (format === 'jpeg' || format === 'png') expect(tags['IFD0:Model']).toBe('F2');
      if (format === 'webp') expect(JSON.stringify(tags)).not.toMatch(/Fenwright|FNumber/);
      if (format === 'jpeg') expect(tags['IFD0:XResolution'] ?? tags['JFIF:XResolution']).toBeCloseTo(240, 1);
    }
    const bare = await addDeliverable(
      test.app,
      deliverable({ name: 'Bare', sizeKind: 'long', width: 300, metadata: 'none', ...texts })
    );
    const placed = await addDeliverable(
      test.app,
      deliverable({ name: 'Placed', sizeKind: 'long', width: 300, metadata: 'all', keepPosition: true })
    );
    const { items } = await deliver([
      [frames['SML_0101.dng'], bare],
      [frames['SML_0101.dng'], placed]
    ]);
    expect(JSON.stringify(exif(join(folder, items[0].placed!)))).not.toMatch(/Calloway|Fenwright|XMP/);
    expect(exif(join(folder, items[1].placed!))['GPS:GPSLatitude']).toBeCloseTo(41.5125, 3);
  });

  it('says what was mended, in words and as the IPTC has it, and refuses what it is told to refuse', async () => {
    const id = frames['SML_0101.dng'];
    const spot = { id: 'a', kind: 'heal', points: [0, 0], size: 10, source: [0.05, 0] };
    const before = (await frameById(test.app, id))!;
    const put = async (...patches: object[]): Promise<void> => {
      const { version } = (await frameById(test.app, id))!;
      await saveRecipe(test.app, id, version, { ...before.recipe, mend: { patches } } as never);
    };
    const common = { sizeKind: 'long', width: 200 } as const;
    const told = await addDeliverable(
      test.app,
      deliverable({ name: 'Told', caption: 'The front.', disclosure: 'caption', ...common })
    );
    const strict = await addDeliverable(test.app, deliverable({ name: 'Strict', onlyDust: true, ...common }));
    const silent = await addDeliverable(
      test.app,
      deliverable({ name: 'Silent', disclosure: 'none', title: 'T', ...common })
    );
    await put({ ...spot, dust: true });
    const dusty = await deliver([
      [id, told],
      [id, strict],
      [id, silent]
    ]);
    const tags = exif(join(folder, dusty.items[0].placed!));
    expect(tags['XMP-dc:Description']).toBe('The front. Mended: one speck of dust.');
    expect(String(tags['XMP-iptcExt:DigitalSourceType'])).toMatch(/digitalCapture$/);
    expect(dusty.items[1].state).toBe('done');
    expect(JSON.stringify(exif(join(folder, dusty.items[2].placed!)))).not.toContain('DigitalSource');
    await put({ ...spot, dust: true }, { ...spot, id: 'b', name: 'bin' });
    await expect(deliver([[id, strict]])).rejects.toThrow('taken out: bin');
    const mended = await deliver([[id, told]]);
    const more = exif(join(folder, mended.items[0].placed!));
    expect(String(more['XMP-iptcExt:DigitalSourceType'])).toMatch(/humanEdits$/);
    expect(more['XMP-dc:Description']).toBe('The front. Mended: one speck of dust; taken out: bin.');
    const entries = await finishedItems(test.app, mended.id);
    expect(manifestCsv(entries)).toContain('mended: one speck of dust; taken out: bin');
    expect(entries[0].report.mended).toMatchObject({ beyondDust: true, takenOut: ['bin'] });
    const { version } = (await frameById(test.app, id))!;
    await saveRecipe(test.app, id, version, before.recipe);
  });

  it('shows the same colours in every space and depth, by an independent reckoning and by an independent reader', async () => {
    const common = { sizeKind: 'long', width: 420, format: 'tiff', sharpening: 'none' } as const;
    const kinds = SPACES.flatMap((space) => ([8, 16] as const).map((depth) => ({ space, depth })));
    const ids = await Promise.all(
      kinds.map((kind) =>
        addDeliverable(test.app, deliverable({ name: `${kind.space} ${kind.depth}`, ...common, ...kind }))
      )
    );
    const { items } = await deliver(ids.map((id) => [frames['CPR_0003.dng'], id] as Pick));
    const pictures = await Promise.all(
      kinds.map(async ({ space, depth }, i) => {
        const path = join(folder, items[i].placed!);
        // LibTIFF's own reader: depth, colours and the profile's length.
        const said = execFileSync('tiffinfo', [path], { stdio: ['ignore', 'pipe', 'ignore'] }).toString();
        expect(said).toMatch(new RegExp(`Bits/Sample: ${depth}`));
        expect(said).toMatch(/ICC Profile: <present>/);
        const raw = sharp(path, { ignoreIcc: true }).raw({ depth: depth === 16 ? 'ushort' : 'uchar' });
        const data = await (depth === 16 ? raw.toColourspace('rgb16') : raw).toBuffer();
        const values = depth === 16 ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data;
        // The colours as a reader sees them that knows nothing but the profile (8 bits: it reads deep files as P3).
        const read = await sharp(path).toColourspace('srgb').raw({ depth: 'uchar' }).toBuffer();
        return { space, depth, values, read };
      })
    );
    const difference = differenceCiede2000();
    const toLab = converter('lab65');
    const at = (mode: 'rgb' | 'p3' | 'a98' | 'rec2020', from: ArrayLike<number>, i: number, top: number) =>
      toLab({ mode, r: from[i] / top, g: from[i + 1] / top, b: from[i + 2] / top });
    const modes = { srgb: 'rgb', 'display-p3': 'p3', oprgb: 'a98', rec2020: 'rec2020' } as const;
    const [plain, deep] = pictures;
    const rounded: Record<string, number[]> = {};
    let checked = 0;
    for (let i = 0; i < plain.values.length; i += 3 * 97) {
      const inside = [0, 1, 2].map((c) => plain.values[i + c]).every((value) => value >= 4 && value <= 251);
      // A colour at the border of sRGB was clipped there, and is not in a wider space.
      if (!inside) continue;
      checked++;
      const wanted = at('rgb', deep.values, i, 65535);
      for (const { space, depth, values, read } of pictures) {
        const found = difference(wanted, at(modes[space], values, i, depth === 16 ? 65535 : 255));
        if (depth === 16) {
          expect(found, space).toBeLessThan(1);
          continue;
        }
        // Steps of 8 bits are coarse in the darkest colours, and fall otherwise in every space.
        (rounded[space] ??= []).push(found);
        (rounded[`${space}, read`] ??= []).push(difference(wanted, at('rgb', read, i, 255)));
      }
    }
    expect(checked).toBeGreaterThan(300);
    for (const [name, found] of Object.entries(rounded)) {
      found.sort((x, y) => x - y);
      // They are dithered besides.
      expect(found[Math.floor(found.length * 0.95)], name).toBeLessThan(1.4);
      expect(found.reduce((sum, x) => sum + x, 0) / found.length, name).toBeLessThan(0.65);
    }
  });
});

describe('a watermark', () => {
  it('is drawn where, as wide and as strong as was asked, in the font that ships with the app', async () => {
    const size = { width: 400, height: 300 };
    for (const depth of [8, 16]) {
      const grey = depth === 8 ? 100 : 100 * 257;
      const length = size.width * size.height * 3;
      const pixels = depth === 8 ? new Uint8Array(length).fill(grey) : new Uint16Array(length).fill(grey);
      await applyWatermark(pixels, size, {
        text: '© Ζωή Łódź',
        png: null,
        place: 'bottom right',
        size: 50,
        opacity: 60
      });
      const changed = [...pixels.keys()].filter((i) => i % 3 === 0 && pixels[i] !== grey).map((i) => i / 3);
      const columns = changed.map((i) => i % size.width);
      const rows = changed.map((i) => Math.floor(i / size.width));
      expect(Math.min(...columns)).toBeGreaterThan(400 - 9 - 200 - 1);
      expect(Math.max(...columns) - Math.min(...columns)).toBeGreaterThan(180);
      expect(Math.max(...columns)).toBeLessThan(400 - 9);
      expect(Math.max(...rows)).toBeLessThan(300 - 9);
      expect(Math.min(...rows)).toBeGreaterThan(200);
      // White letters at 60 %, and a rim darker than the ground.
      const scale = depth === 8 ? 1 : 257;
      expect(Math.max(...changed.map((i) => pixels[i * 3])) / scale).toBeCloseTo(100 + 0.6 * 155, -0.5);
      expect(Math.min(...changed.map((i) => pixels[i * 3])) / scale).toBeLessThan(95);
    }
  });
});

describe('limits of size', () => {
  it('hold for 200 random pictures, in at most six encodes, near the limit when the steps of quality allow', async () => {
    const random = seededRandom(515);
    let near = 0;
    let told = 0;
    for (let n = 0; n < 200; n++) {
      const [width, height] = [100 + Math.floor(random() * 160), 80 + Math.floor(random() * 120)];
      const [f, g, swing, noise] = [random() * 0.4, random() * 0.4, random() * 110, random() * 50];
      const pixels = new Uint8Array(width * height * 3);
      for (let i = 0; i < width * height; i++) {
        const [x, y] = [i % width, Math.floor(i / width)];
        const value = 128 + swing * Math.sin(x * f) * Math.cos(y * g) + (random() - 0.5) * noise;
        for (let c = 0; c < 3; c++)
          pixels[i * 3 + c] = Math.max(0, Math.min(255, value + c * 9 * (((x >> 4) + (y >> 4)) % 2)));
      }
      const format = (['jpeg', 'webp'] as const)[n % 2];
      const encode = (quality: number): Promise<Buffer> =>
        sharp(pixels, { raw: { width, height, channels: 3 } })
          [format]({ quality })
          .toBuffer();
      const limit = Math.round((await encode(95)).length * (0.08 + random()));
      const result = await fitBytes(encode, limit, 95);
      expect(result.encodes).toBeLessThanOrEqual(6);
      if (!result.ok) expect(result.smallest).toBeGreaterThan(limit);
      else {
        expect(result.encoded.length).toBeLessThanOrEqual(limit);
        if (result.quality === 95) continue;
        told++;
        if (result.encoded.length >= 0.95 * limit || (await encode(result.quality + 1)).length > limit)
          near++;
      }
    }
    expect(told).toBeGreaterThan(100);
    expect(near / told).toBeGreaterThan(0.95);
  });
});

describe('what goes wrong', () => {
  it('is said for each picture, and the others are made; retry makes what was cancelled', async () => {
    const tiny = await addDeliverable(
      test.app,
      deliverable({ name: 'Tiny', sizeKind: 'long', width: 1200, limit: 5 })
    );
    const fine = await addDeliverable(test.app, deliverable({ name: 'Fine', sizeKind: 'long', width: 200 }));
    const picks: Pick[] = [
      [frames['SML_0101.dng'], tiny],
      [frames['SML_0101.dng'], fine]
    ];
    const { items } = await deliver(picks);
    expect(items[0]).toMatchObject({
      state: 'failed',
      error: expect.stringMatching(/cannot be made smaller than \d+ kB/)
    });
    expect(items[1].state).toBe('done');

    const id = await startDelivery(test.app, test.jobId, picks);
    await actOnDelivery(test.app, id, 'cancel');
    for (const { state } of await ended(id)) expect(['cancelled', 'done']).toContain(state);
    await actOnDelivery(test.app, id, 'retry');
    await until(async () => (await itemsOf(test.app, id))[1].state === 'done');
    expect((await itemsOf(test.app, id))[0].state).toMatch(/failed|running|queued/);
  });

  it.runIf(process.getuid?.() === 0)(
    'says that the disk is full, and makes the picture once there is room',
    async () => {
      const large = await addDeliverable(
        test.app,
        deliverable({ name: 'Large', format: 'tiff', sizeKind: 'full' })
      );
      const small = await addDeliverable(
        test.app,
        deliverable({ name: 'Small', sizeKind: 'long', width: 200 })
      );
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=300k', 'tmpfs', folder]);
      let id: string;
      try {
        const first = await deliver([
          [frames['SML_0101.dng'], large],
          [frames['SML_0101.dng'], small]
        ]);
        ({ id } = first);
        expect(first.items[0]).toMatchObject({
          state: 'failed',
          error: expect.stringMatching(/disk is full/)
        });
        expect(first.items[1].state).toBe('done');
        expect(readdirSync(folder)).toEqual([first.items[1].placed]);
      } finally {
        execFileSync('umount', [folder]);
      }
      await actOnDelivery(test.app, id, 'retry');
      const [made] = await ended(id);
      expect(made.state).toBe('done');
      expect(statSync(join(folder, made.placed!)).size).toBe(made.bytes);
    }
  );

  it('rests while paused, and goes on', async () => {
    const [{ id: shipped }] = await listDeliverables(test.app);
    const id = await startDelivery(
      test.app,
      test.jobId,
      Object.values(frames).map((frame): Pick => [frame, shipped])
    );
    await actOnDelivery(test.app, id, 'pause');
    await new Promise((resolve) => setTimeout(resolve, 4000));
    const resting = await itemsOf(test.app, id);
    expect(resting.some(({ state }) => state === 'queued')).toBe(true);
    expect(resting.some(({ state }) => state === 'running')).toBe(false);
    await actOnDelivery(test.app, id, 'resume');
    expect((await ended(id)).every(({ state }) => state === 'done')).toBe(true);
  });

  it('refuses names that are the same, unknown tokens, no pictures for watermarks, and a wrong file as a whole', async () => {
    const same = await addDeliverable(test.app, deliverable({ name: 'Same', pattern: '{job}' }));
    await expect(
      startDelivery(
        test.app,
        test.jobId,
        Object.values(frames).map((frame): Pick => [frame, same])
      )
    ).rejects.toThrow(/would both be named Test-job.jpg. Add \{frame\}/);
    await expect(soundDeliverable({ name: 'x', pattern: '{place}' })).rejects.toThrow(/uses \{place\}/);
    const watermark = {
      text: '',
      png: Buffer.from('no picture').toString('base64'),
      place: 'middle',
      size: 20,
      opacity: 50
    };
    await expect(soundDeliverable({ name: 'x', watermark })).rejects.toThrow(/no picture that can be read/);
    const strange = { ...watermark, png: null, text: 'Zoë 漢' };
    await expect(soundDeliverable({ name: 'x', watermark: strange })).rejects.toThrow(/has no “漢”/);
    const before = (await listDeliverables(test.app)).length;
    await expect(
      importDeliverables(test.app, [{ name: 'good' }, { name: 'bad', quality: 300 }])
    ).rejects.toThrow(/quality/);
    expect((await listDeliverables(test.app)).length).toBe(before);
    await expect(startDelivery(test.app, test.jobId, [])).rejects.toThrow(/Tick at least one/);
    const frame = { id: 'a', name: 'A.dng', room: '../x\u0000', taken: null, ratio: '4:3' };
    const [item] = nameItems({ name: 'Job', client: '', site: '' }, [
      { frame, deliverable: deliverable({ name: 'd', pattern: '{room}/{frame}' }) }
    ]);
    expect(item.file).toBe('x-A.jpg');
  });

  it('never writes outside the folder, and does with files that exist what was asked', async () => {
    expect(() => pathInFolder('/a/b', '../c.jpg')).toThrow(/outside/);
    const place = mkdtempSync(join(tmpdir(), 'line-true-place-'));
    writeFileSync(join(place, 'a.jpg'), '');
    expect(await placeFile(place, 'a.jpg', 'number')).toBe('a-2.jpg');
    expect(await placeFile(place, 'a.jpg', 'number', new Set(['a-2.jpg']))).toBe('a-3.jpg');
    expect(await placeFile(place, 'a.jpg', 'skip')).toBeNull();
    expect(await placeFile(place, 'a.jpg', 'replace')).toBe('a.jpg');
    mkdirSync(join(place, 'x'));
    expect(existsSync(join(place, 'x'))).toBe(true);
  });

  it('takes 5,000 pictures into the queue, and lets go of them', async () => {
    const documents = Array.from({ length: 2500 }, (_, i) => deliverable({ name: `Many ${i}` }));
    await test.app.db.query(
      'insert into deliverables (document) select value from jsonb_array_elements($1::jsonb)',
      [JSON.stringify(documents)]
    );
    const many = (await listDeliverables(test.app)).filter(({ document }) =>
      document.name.startsWith('Many ')
    );
    const picks = many.flatMap(({ id }) => Object.values(frames).map((frame): Pick => [frame, id]));
    expect(picks).toHaveLength(5000);
    const id = await startDelivery(test.app, test.jobId, picks);
    await actOnDelivery(test.app, id, 'cancel');
    const items = await ended(id);
    expect(items).toHaveLength(5000);
    await test.app.db.query(`delete from deliverables where document->>'name' like 'Many %'`);
  });

  it('finishes with every file once and whole after the server stopped in the middle', async () => {
    const rows = await listDeliverables(test.app);
    const ids = rows
      .filter(({ document }) => ['Web', 'Feed', 'Fine'].includes(document.name))
      .map(({ id }) => id);
    await test.app.db.query(
      `update deliverables set document = document || '{"pattern": "{frame}-{deliverable}-restart"}'`
    );
    const picks = Object.values(frames).flatMap((frame) => ids.map((id): Pick => [frame, id]));
    const id = await startDelivery(test.app, test.jobId, picks);
    await until(async () => (await itemsOf(test.app, id)).some(({ state }) => state === 'done'));
    await test.close();
    test.app = await test.reopen();
    const items = await ended(id);
    expect(items.map(({ state }) => state)).toEqual(picks.map(() => 'done'));
    const files = readdirSync(folder).filter((file) => file.includes('restart'));
    expect(files.sort()).toEqual(items.map(({ placed }) => placed!).sort());
    expect(files.filter((file) => /-2\.|part/.test(file))).toEqual([]);
    for (const item of items)
      expect(
        createHash('sha256')
          .update(readFileSync(join(folder, item.placed!)))
          .digest('hex')
      ).toBe(item.sha256);
  });
});
