/** Frames handed over to another program: what lies in the folder, what comes back, and what is said when it does not. */
import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync
} from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { completeDeliverable } from '../../core/picture/output/deliverable-schema.ts';
import { itemsOf, startDelivery } from '../deliveries/deliveries.ts';
import { addDeliverable } from '../deliveries/deliverables.ts';
import { finishedItems, manifestCsv } from '../deliveries/manifest.ts';
import { addFrame } from '../frames/add-frame.ts';
import { type FrameRow, changeFrames, frameById, framesOfJob } from '../frames/frame-row.ts';
import { removeFrames } from '../jobs/remove-job.ts';
import { noteOf } from '../hand-over/hand-over-folder.ts';
import {
  type HandOver,
  forgetHandOver,
  handOver,
  handOversOfJob,
  validHandOver
} from '../hand-over/hand-overs.ts';
import { takeBackFile } from '../hand-over/take-back-file.ts';
import { partnersOf } from '../hand-over/partners.ts';
import { watchHandOvers } from '../hand-over/watch-hand-overs.ts';
import { ROOT } from '../paths.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let frameId = '';
let stop: () => Promise<void>;
const SETTINGS = { space: 'rec2020', depth: 16, sizeKind: 'full', width: 2048 } as const;
let brighter = 0.1;
/** Changes a file, each time otherwise: the same picture twice would be one frame. */
const editor = (path: string, ...options: string[]): void => {
  brighter += 0.05;
  execFileSync(join(ROOT, 'bin/outside-editor'), [path, '--brighter', brighter.toFixed(2), ...options]);
};
const handed = async (id: string): Promise<HandOver> =>
  (await handOversOfJob(test.app, test.jobId)).rows.find((row) => row.id === id)!;
const pathOf = async ({ file }: HandOver): Promise<string> =>
  join((await handOversOfJob(test.app, test.jobId)).folder, file!);
const ready = (id: string): Promise<FrameRow> =>
  until(async () => {
    const frame = await frameById(test.app, id);
    return frame?.state === 'ready' && frame.measured && frame;
  });
async function handedOver(
  settings: object = SETTINGS,
  of = frameId
): Promise<{ row: HandOver; path: string }> {
  const [id] = await handOver(test.app, test.jobId, [of], settings as typeof SETTINGS);
  const row = await until(async () => {
    const found = await handed(id);
    return found.state !== 'queued' && found;
  });
  return { row, path: await pathOf(row) };
}
const back = (row: HandOver): Promise<FrameRow> =>
  until(async () => (await handed(row.id)).returned_id).then(ready);
const errorOf = (row: HandOver): Promise<string> => until(async () => (await handed(row.id)).error);
const meanOf = async (path: string): Promise<number> => {
  // Read anew: what was read of a path before is kept by the library.
  const { channels } = await sharp(readFileSync(path)).toColourspace('srgb').stats();
  return channels[1].mean;
};

beforeAll(async () => {
  test = await openTestApp();
  const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
  frameId = (await addFrame(test.app, test.jobId, 'SML_0101.dng', bytesOf(bytes))).id;
  const { version } = await ready(frameId);
  await saveRecipe(test.app, frameId, version, { tone: { exposure: 0.3 }, lines: { roll: 1.5 } });
  await changeFrames(test.app, test.jobId, [frameId], { room: 'Hall' });
  stop = watchHandOvers(test.app);
});
afterAll(async () => {
  await stop();
  await test.remove();
});

it('writes a 16-bit TIFF with its profile, and a note of where it came from', async () => {
  const { row, path } = await handedOver();
  expect(row).toMatchObject({ state: 'out', error: null, frame: 'SML_0101.dng' });
  const { depth, format, width, height, icc } = await sharp(readFileSync(path)).metadata();
  expect({ depth, format, width, height }).toEqual({
    depth: 'ushort',
    format: 'tiff',
    width: row.width,
    height: row.height
  });
  expect(icc).toBeDefined();
  const note = JSON.parse(readFileSync(noteOf(path), 'utf8'));
  expect(note).toMatchObject({
    format: 'line-true-hand-over',
    frame: 'SML_0101.dng',
    room: 'Hall',
    job: 'Test job'
  });
  expect(note.report.rotation.roll).toBeCloseTo(1.5, 5);
  const small = await handedOver({ ...SETTINGS, space: 'srgb', depth: 8, sizeKind: 'long', width: 600 });
  expect(await sharp(small.path).metadata()).toMatchObject({ depth: 'uchar', width: 600 });
  // Neither took the other's name.
  expect(small.path).not.toBe(path);
});

it('takes a changed file back beside its frame, with a recipe of its own that corrects no lens again', async () => {
  const { row, path } = await handedOver();
  const before = await meanOf(path);
  editor(path, '--brighter', '0.7');
  const frame = await back(row);
  expect(frame.outside).toMatchObject({ of: 'SML_0101.dng', was: null });
  expect(frame).toMatchObject({ room: 'Hall', job_id: test.jobId });
  // Each is known as the other's, to be compared with.
  expect(await partnersOf(test.app, frameId)).toEqual([{ id: frame.id, name: frame.name, is: 'back' }]);
  expect(await partnersOf(test.app, frame.id)).toEqual([{ id: frameId, name: 'SML_0101.dng', is: 'handed' }]);
  expect(frame.recipe).toMatchObject({ lens: { profile: 'none' } });
  expect(frame.recipe.tone).toBeUndefined();
  expect(frame.facts!.size).toEqual({ width: row.width, height: row.height });
  // Handed on as it is, it is what the other program saved.
  const again = await handedOver(SETTINGS, frame.id);
  const [saved, handedOn] = await Promise.all(
    [path, again.path].map((each) =>
      sharp(readFileSync(each), { ignoreIcc: true })
        .toColourspace('rgb16')
        .raw({ depth: 'ushort' })
        .toBuffer()
    )
  );
  expect((await meanOf(path)) / before).toBeGreaterThan(1.1);
  const [a, b] = [saved, handedOn].map(
    (each) => new Uint16Array(each.buffer, each.byteOffset, each.length / 2)
  );
  let worst = 0;
  for (let i = 0; i < a.length; i++) worst = Math.max(worst, Math.abs(a[i] - b[i]));
  // 16 codes of 65535: a sixteenth of one of 8 bits.
  expect(worst).toBeLessThan(16);
});

it('lets the same frame follow when the file is saved again, with its own recipe kept', async () => {
  const { row, path } = await handedOver();
  editor(path);
  const first = await back(row);
  await saveRecipe(test.app, first.id, first.version, { ...first.recipe, tone: { contrast: 10 } });
  editor(path);
  const second = await until(async () => {
    const frame = await frameById(test.app, first.id);
    return frame?.sha256 !== first.sha256 && frame?.state === 'ready' && frame;
  });
  expect(second.recipe.tone).toMatchObject({ contrast: 10 });
  expect(second.version).toBeGreaterThan(first.version);
  // What the frame stood on before is no longer kept.
  const { rowCount } = await test.app.db.query('select from originals where sha256 = $1', [first.sha256]);
  expect(rowCount).toBe(0);
});

it('says in report, manifest and frame that it was changed outside', async () => {
  const { row, path } = await handedOver();
  editor(path, '--crop');
  const frame = await back(row);
  expect(frame.outside!.was).toEqual({ width: row.width, height: row.height });
  const wanted = completeDeliverable({ name: 'Small', sizeKind: 'long', width: 300 });
  const id = await addDeliverable(test.app, wanted);
  const delivery = await startDelivery(test.app, test.jobId, [[frame.id, id]]);
  await until(async () => (await itemsOf(test.app, delivery)).every(({ state }) => state === 'done'));
  const entries = await finishedItems(test.app, delivery);
  expect(entries[0].report.outside).toMatch(
    /^Changed in another program: SML_0101.dng .* Its size was changed/
  );
  expect(manifestCsv(entries)).toContain('Changed in another program');
  const strict = await addDeliverable(test.app, { ...wanted, name: 'Strict', onlyDust: true });
  await expect(startDelivery(test.app, test.jobId, [[frame.id, strict]])).rejects.toThrow('another program');
  // The frame that it is of was not.
  const own = await startDelivery(test.app, test.jobId, [[frameId, strict]]);
  await until(async () => (await itemsOf(test.app, own)).every(({ state }) => state === 'done'));
  expect((await finishedItems(test.app, own))[0].report.outside).toBeNull();
});

it('says what is wrong with a file that is cut short or no picture, and takes it back once it is whole', async () => {
  const { row, path } = await handedOver();
  const whole = `${path}.kept`;
  copyFileSync(path, whole);
  const frames = (await framesOfJob(test.app, test.jobId)).length;
  editor(path, '--cut-short');
  expect(await errorOf(row)).toMatch(/damaged or cut short/);
  writeFileSync(path, 'no picture at all');
  expect(
    await until(
      async () =>
        (await handed(row.id)).error?.includes('cut short') === false && (await handed(row.id)).error
    )
  ).toMatch(/./);
  truncateSync(path, 0);
  await until(async () => /empty|cut short|not/.test((await handed(row.id)).error ?? ''));
  expect((await handed(row.id)).returned_id).toBeNull();
  expect(await framesOfJob(test.app, test.jobId)).toHaveLength(frames);
  renameSync(whole, path);
  // As it was handed over: nothing is to be taken back, and nothing is wrong.
  await until(async () => (await handed(row.id)).error === null);
  expect((await handed(row.id)).returned_id).toBeNull();
  editor(path);
  expect((await back(row)).state).toBe('ready');
});

it('says that a file is gone, whether Line True is running or not, and hears of changes made meanwhile', async () => {
  const { row, path } = await handedOver();
  const other = await handedOver();
  renameSync(path, `${path}.away`);
  expect(await errorOf(row)).toMatch(/no longer in the hand-over folder/);
  renameSync(`${path}.away`, path);
  await until(async () => (await handed(row.id)).error === null);
  await stop();
  rmSync(path);
  editor(other.path);
  stop = watchHandOvers(test.app);
  expect(await errorOf(row)).toMatch(/no longer in the hand-over folder/);
  expect((await back(other.row)).outside!.of).toBe('SML_0101.dng');
});

it('comes to one frame where two take the same change, and to none where it is forgotten', async () => {
  const { row, path } = await handedOver();
  await stop();
  editor(path);
  await Promise.all([takeBackFile(test.app, row.file!), takeBackFile(test.app, row.file!)]);
  const frame = await back(row);
  const same = (await framesOfJob(test.app, test.jobId)).filter(({ sha256 }) => sha256 === frame.sha256);
  expect(same).toHaveLength(1);
  expect(await forgetHandOver(test.app, row.id)).toBe(true);
  editor(path);
  await takeBackFile(test.app, row.file!);
  expect((await frameById(test.app, frame.id))!.sha256).toBe(frame.sha256);
  expect(existsSync(path)).toBe(true);
  stop = watchHandOvers(test.app);
});

it('keeps what came back when the frame that it is of is removed', async () => {
  const bytes = readFileSync(join(inject('photographs'), 'CPR_0003.dng'));
  const { id } = await addFrame(test.app, test.jobId, 'CPR_0003.dng', bytesOf(bytes));
  await ready(id);
  const { row, path } = await handedOver(SETTINGS, id);
  editor(path);
  const frame = await back(row);
  await removeFrames(test.app, test.jobId, [id]);
  editor(path);
  await takeBackFile(test.app, row.file!);
  expect(await frameById(test.app, frame.id)).toMatchObject({
    outside: { of: 'CPR_0003.dng' },
    sha256: frame.sha256
  });
});

it('refuses settings that are none', () => {
  const ids = [frameId];
  expect(() => validHandOver({ ids, settings: { ...SETTINGS, depth: 12 } })).toThrow();
  expect(() => validHandOver({ ids, settings: { ...SETTINGS, space: 'mine' } })).toThrow();
  expect(() => validHandOver({ ids: ['../../etc'], settings: SETTINGS })).toThrow();
});
