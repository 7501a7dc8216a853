/** Job archives: taken in by an empty installation every picture is the same again, and what is no sound archive leaves nothing. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import { completeDeliverable } from '../../core/picture/output/deliverable-schema.ts';
import { jobArchive } from '../archive/write-archive.ts';
import { recipesZip, takeRecipe } from '../archive/recipe-beside.ts';
import { receiveArchive, takeInArchive } from '../archive/take-in.ts';
import { itemsOf, startDelivery } from '../deliveries/deliveries.ts';
import { addDeliverable } from '../deliveries/deliverables.ts';
import { addFrame } from '../frames/add-frame.ts';
import { type FrameRow, changeFrames, frameById, framesOfJob, orderFrames } from '../frames/frame-row.ts';
import { changeJob, jobById, listJobs } from '../jobs/jobs.ts';
import { writeProfiles } from '../lenses/catalogue.ts';
import { choiceFor, rememberChoice } from '../lenses/lens-choice.ts';
import { importLook, listLooks } from '../looks/looks.ts';
import { originalPath } from '../originals/store-original.ts';
import { ROOT } from '../paths.ts';
import { keepHouseSettings, listHouseSettings } from '../recipes/house-settings.ts';
import { stateBefore } from '../recipes/history.ts';
import { changeRevision, keepRevision, revisionsOf } from '../recipes/revisions.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { importSky, listSkies } from '../skies/skies.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

const folder = mkdtempSync(join(tmpdir(), 'line-true-archive-'));
const archivePath = join(folder, 'job.zip');
let files: Record<string, Uint8Array>;
/** What was delivered from the installation that made the archive: file names and their SHA-256. */
let delivered: string[];
let before: FrameRow[];

const ready = async ({ app }: TestApp, jobId: string): Promise<FrameRow[]> =>
  until(async () => {
    const frames = await framesOfJob(app, jobId);
    return frames.every(({ state, measured }) => state === 'ready' && measured) && frames;
  }, 120);
async function delivery({ app }: TestApp, jobId: string): Promise<string[]> {
  const wanted = [
    completeDeliverable({
      name: 'Web',
      sizeKind: 'long',
      width: 900,
      pattern: '{job}-{frame}-web',
      metadata: 'all'
    }),
    completeDeliverable({
      name: 'Print',
      format: 'tiff',
      depth: 16,
      space: 'rec2020',
      pattern: '{frame}-{room}'
    })
  ];
  const ids: string[] = [];
  for (const one of wanted) ids.push(await addDeliverable(app, one));
  const frames = await framesOfJob(app, jobId);
  const id = await startDelivery(
    app,
    jobId,
    frames.flatMap((frame) => ids.map((each): [string, string] => [frame.id, each]))
  );
  const items = await until(async () => {
    const all = await itemsOf(app, id);
    return all.every(({ state }) => !['queued', 'running'].includes(state)) && all;
  }, 180);
  expect(items.map(({ error }) => error)).toEqual(items.map(() => null));
  return items.map(({ placed, sha256 }) => `${placed} ${sha256}`).sort();
}
/** A look whose values are no round figures. */
const LOOK = `TITLE "Warm"\nLUT_3D_SIZE 2\n${Array.from({ length: 8 }, (_, i) => `${(i & 1) * 0.987654321} ${((i >> 1) & 1) * 0.9123456789} ${((i >> 2) & 1) / 3 + 1e-7}`).join('\n')}\n`;

/** The upper half shows another sky. */
const ANOTHER_SKY = (picture: string): object => ({
  shapes: [{ id: 's', parts: [{ id: 'f', kind: 'found', meets: 'add', what: 'sky' }] }],
  list: [{ id: 'a', shape: 's', sky: { picture, match: 0 } }]
});

const archived = async (test: TestApp, jobId: string, path: string): Promise<string> => {
  const { stream, name } = await jobArchive(test.app, jobId);
  await pipeline(stream, createWriteStream(path));
  return name;
};

beforeAll(async () => {
  const test = await openTestApp();
  const { app, jobId } = test;
  try {
    const ids: Record<string, string> = {};
    for (const name of ['SML_0101.dng', 'CPR_0003.dng', 'SML_0130.dng']) {
      const bytes = readFileSync(join(inject('photographs'), name));
      ids[name] = (await addFrame(app, jobId, name, bytesOf(bytes))).id;
    }
    await ready(test, jobId);
    const look = await importLook(app, { text: LOOK, name: 'warm.cube', space: 'srgb' });
    const picture = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#7fa0d0' } })
      .jpeg()
      .toBuffer();
    const sky = await importSky(app, picture, 'Evening.jpg');
    const profile = {
      ...shippedProfiles[0],
      id: 'own-measured',
      lens: 'Own measured',
      distortion: [{ ...shippedProfiles[0].distortion[0] }]
    };
    await writeProfiles(app.db, [profile], 'measured');
    const cooper = (await frameById(app, ids['CPR_0003.dng']))!;
    // By itself this frame has a profile that was chosen by hand here, and is chosen by nothing elsewhere.
    await rememberChoice(app, cooper.facts!, 'own-measured');
    const change = async (name: string, recipe: object): Promise<void> => {
      const { version } = (await frameById(app, ids[name]))!;
      await saveRecipe(app, ids[name], version, recipe);
    };
    await change('SML_0101.dng', {
      lines: { roll: 1.2, pitch: -3 },
      colour: { look: look.id, lookAmount: 70 },
      tone: { exposure: 0.4 }
    });
    await change('CPR_0003.dng', { tone: { shadows: 20 } });
    await change('SML_0130.dng', {
      lens: { profile: 'own-measured' },
      crop: { ratio: '4:3' },
      areas: ANOTHER_SKY(sky.id)
    });
    const kept = await keepRevision(
      app,
      ids['SML_0101.dng'],
      { tone: { exposure: -0.5 }, colour: { look: look.id } },
      'Dark'
    );
    await keepRevision(app, ids['SML_0101.dng'], {}, 'Plain');
    await changeRevision(app, ids['SML_0101.dng'], kept.id, { forDelivery: true });
    await changeFrames(app, jobId, [ids['SML_0130.dng']], { room: 'Reading room', choice: 'chosen' });
    const set = await keepHouseSettings(app, {
      name: 'Warm rooms',
      folder: 'Own',
      steps: { colour: { look: look.id } }
    });
    await changeJob(app, jobId, {
      client: 'Orla Venn',
      due: '2031-05-04',
      true_up: 'both',
      ratios: ['4:5', 'original'],
      house_rules: [{ set, camera: '', lens: '', room: 'kitchen', isoFrom: null, isoTo: null }]
    });
    await orderFrames(app, jobId, [ids['SML_0130.dng'], ids['CPR_0003.dng'], ids['SML_0101.dng']]);
    delivered = await delivery(test, jobId);
    before = await framesOfJob(app, jobId);
    expect(await archived(test, jobId, archivePath)).toBe('Test job.line-true.zip');
    files = unzipSync(readFileSync(archivePath));
    const again = join(folder, 'again.zip');
    await archived(test, jobId, again);
    expect(readFileSync(again).equals(readFileSync(archivePath))).toBe(true);
  } finally {
    await test.remove();
  }
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('an archive', () => {
  it('holds the originals with their recipes beside them, and is checked by a common tool', () => {
    const unpacked = join(folder, 'unpacked');
    for (const [name, content] of Object.entries(files)) {
      mkdirSync(join(unpacked, name, '..'), { recursive: true });
      writeFileSync(join(unpacked, name), content);
    }
    expect(
      execFileSync('sha256sum', ['-c', '--strict', 'SHA256SUMS'], { cwd: unpacked }).toString()
    ).not.toMatch(/FAILED/);
    expect(readdirSync(join(unpacked, 'originals')).sort()).toEqual(
      ['CPR_0003', 'SML_0101', 'SML_0130'].flatMap((stem) => [`${stem}.dng`, `${stem}.json`])
    );
    for (const name of ['SML_0101.dng', 'CPR_0003.dng'])
      expect(
        readFileSync(join(unpacked, 'originals', name)).equals(
          readFileSync(join(inject('photographs'), name))
        )
      ).toBe(true);
    const recipe = JSON.parse(readFileSync(join(unpacked, 'originals/SML_0101.json'), 'utf8'));
    expect(recipe).toMatchObject({ lines: { roll: 1.2 }, tone: { exposure: 0.4 } });
    expect(Object.keys(recipe.looks)).toEqual([recipe.colour.look]);
  });

  it('is delivered from by the command line as it lies there', () => {
    const out = join(folder, 'out');
    const wanted = join(folder, 'wanted.json');
    writeFileSync(
      wanted,
      JSON.stringify([{ name: 'Web', sizeKind: 'long', width: 300, pattern: '{frame}' }])
    );
    const lenses = join(folder, 'unpacked/lenses');
    const profiles = readdirSync(lenses).flatMap((name) => ['--profile', join(lenses, name)]);
    execFileSync(join(ROOT, 'bin/line-true'), [
      'deliver',
      join(folder, 'unpacked/originals'),
      '--deliverables',
      wanted,
      '--out',
      out,
      ...profiles
    ]);
    expect(readdirSync(out).filter((name) => name.endsWith('.jpg'))).toHaveLength(3);
  });
});

describe('an empty installation', () => {
  let test: TestApp;
  beforeAll(async () => {
    test = await openTestApp();
  });
  afterAll(() => test.remove());

  it('takes it in, and delivers every picture again, the same byte for byte', async () => {
    const { app } = test;
    const taken = await receiveArchive(app, createReadStream(archivePath), null);
    expect(taken).toMatchObject({ name: 'Test job', frames: 3 });
    const frames = await ready(test, taken.id);
    expect(await jobById(app, taken.id)).toMatchObject({
      name: 'Test job',
      client: 'Orla Venn',
      due: '2031-05-04',
      true_up: 'both',
      ratios: ['4:5', 'original']
    });
    const told = ({ name, room, choice, recipe, sha256 }: FrameRow): object => ({
      name,
      room,
      choice,
      sha256,
      tone: recipe.tone,
      lines: recipe.lines,
      crop: recipe.crop
    });
    expect(frames.map(({ name }) => name)).toEqual(['SML_0130.dng', 'CPR_0003.dng', 'SML_0101.dng']);
    expect(frames.map(told)).toEqual(before.map(told));
    expect((await listSkies(app)).filter(({ shipped }) => !shipped)).toMatchObject([{ name: 'Evening' }]);
    expect(await delivery(test, taken.id)).toEqual(delivered);
    const [first] = frames.filter(({ name }) => name === 'SML_0101.dng');
    expect(
      (await revisionsOf(app, first.id)).map(({ letter, name, for_delivery }) => [letter, name, for_delivery])
    ).toEqual([
      ['A', 'Dark', true],
      ['B', 'Plain', false]
    ]);
    // What the choice of another installation gave it is named now.
    const cooper = frames.find(({ name }) => name === 'CPR_0003.dng')!;
    expect(cooper.recipe.lens).toEqual({ profile: 'own-measured' });
    const { house_rules } = (await jobById(app, taken.id))!;
    expect(house_rules).toMatchObject([{ room: 'kitchen' }]);
    expect((await listHouseSettings(app)).find(({ id }) => id === house_rules[0].set)).toMatchObject({
      name: 'Warm rooms'
    });
  });

  it('takes it in once more beside what is there: nothing that both share is kept twice', async () => {
    const { app } = test;
    const [looks, sets] = [await listLooks(app), await listHouseSettings(app)];
    const { id } = await takeInArchive(app, archivePath);
    await ready(test, id);
    expect(await listLooks(app)).toEqual(looks);
    expect(await listHouseSettings(app)).toEqual(sets);
    const { rows } = await app.db.query<{ n: number }>('select count(*)::int as n from originals');
    expect(rows[0].n).toBe(3);
    const { rows: profiles } = await app.db.query(
      `select 1 from lens_profiles where id like 'own-measured%'`
    );
    expect(profiles).toHaveLength(1);
  });

  it('keeps another profile of the same name, and gives the frames theirs', async () => {
    const { app } = test;
    const other = { ...shippedProfiles[0], id: 'own-measured', lens: 'Something else' };
    await writeProfiles(app.db, [other], 'measured');
    const { id } = await takeInArchive(app, archivePath);
    const frames = await ready(test, id);
    const { recipe, facts } = frames.find(({ name }) => name === 'SML_0130.dng')!;
    expect(recipe.lens!.profile).not.toBe('own-measured');
    const { known } = await choiceFor(app, facts!, recipe.lens!.profile);
    expect(known.find((profile) => profile.id === recipe.lens!.profile)!.lens).toBe('Own measured');
    expect(await delivery(test, id)).toHaveLength(6);
  });
});

describe('what is no sound archive', () => {
  let test: TestApp;
  beforeAll(async () => {
    test = await openTestApp();
  });
  afterAll(() => test.remove());
  const sumsOf = (of: Record<string, Uint8Array>): Uint8Array =>
    strToU8(
      Object.entries(of)
        .filter(([name]) => name !== 'SHA256SUMS')
        .map(([name, content]) => `${createHash('sha256').update(content).digest('hex')}  ${name}\n`)
        .join('')
    );
  const packed = (of: Record<string, Uint8Array>): Uint8Array => zipSync(of, { level: 0 });
  const changed = (name: string, content: Uint8Array | null, sums = true): Record<string, Uint8Array> => {
    const all = { ...files };
    if (content) all[name] = content;
    else delete all[name];
    return sums ? { ...all, SHA256SUMS: sumsOf(all) } : all;
  };
  const job = (change: (contents: Record<string, never>) => void): Uint8Array => {
    const contents = JSON.parse(Buffer.from(files['job.json']).toString());
    change(contents);
    return packed(changed('job.json', strToU8(JSON.stringify(contents))));
  };
  const flipped = (name: string): Uint8Array => {
    const content = Uint8Array.from(files[name]);
    content[content.length >> 1] ^= 1;
    return content;
  };
  const CASES: [string, () => Uint8Array, RegExp][] = [
    ['is no ZIP', () => strToU8('not a zip at all'), /no job archive, or it is cut short/],
    ['is empty', () => new Uint8Array(0), /no job archive, or it is cut short/],
    ['is cut short', () => readFileSync(archivePath).subarray(0, 300_000), /cut short/],
    ['holds another ZIP', () => packed({ 'a.txt': strToU8('a') }), /lacks SHA256SUMS/],
    [
      'has an original that was changed',
      () => packed(changed('originals/SML_0101.dng', flipped('originals/SML_0101.dng'), false)),
      /SML_0101.dng of this archive is not what was put in/
    ],
    [
      'has an original whose sum was changed too',
      () => packed(changed('originals/SML_0101.dng', flipped('originals/SML_0101.dng'))),
      /SML_0101.dng of this archive is not what was put in/
    ],
    [
      'has a recipe that was changed',
      () => packed(changed('originals/SML_0130.json', strToU8('{}'), false)),
      /SML_0130.json of this archive is not what was put in/
    ],
    [
      'lacks an original',
      () => packed(changed('originals/CPR_0003.dng', null, false)),
      /lacks originals\/CPR_0003.dng/
    ],
    ['leads out of itself', () => packed({ ...files, '../../evil.sh': strToU8('x') }), /leads out of it/],
    ['leads to the root', () => packed({ ...files, '/etc/evil': strToU8('x') }), /leads out of it/],
    [
      'is a bomb',
      () => zipSync({ ...files, 'originals/SML_0101.dng': new Uint8Array(400 << 20) }, { level: 9 }),
      /20 times its size/
    ],
    [
      'has a bomb as its list',
      () => zipSync({ 'job.json': strToU8('{}'), SHA256SUMS: new Uint8Array(15 << 20) }, { level: 9 }),
      /SHA256SUMS of this archive is not whole/
    ],
    [
      'names an original outside',
      () =>
        job(
          (contents) =>
            ((contents as unknown as { frames: { file: string }[] }).frames[0].file = '../../../etc/passwd')
        ),
      /says nothing of/
    ],
    [
      'names one original twice',
      () => job((contents: { frames?: unknown[] }) => contents.frames!.push(contents.frames![0])),
      /twice/
    ],
    [
      'holds a recipe with a setting that there is not',
      () => packed(changed('originals/SML_0101.json', strToU8('{"tone":{"sparkle":3}}'))),
      /SML_0101.json of this archive cannot be used/
    ],
    [
      'holds house settings with a step that there is not',
      () =>
        job(
          (contents: { house_settings?: { steps: object }[] }) =>
            (contents.house_settings![0].steps = { polish: {} })
        ),
      /polish/
    ],
    [
      'has a name that is no text',
      () => job((contents: { job?: { name: string } }) => (contents.job!.name = 'a\0b')),
      /not JSON, or holds/
    ],
    [
      'is of a version to come',
      () => job((contents: { version?: number }) => (contents.version = 2)),
      /not valid/
    ],
    [
      'holds a lens that corrects nothing',
      () =>
        packed(
          changed(
            Object.keys(files).find((name) => name.startsWith('lenses/'))!,
            strToU8('{}')
          )
        ),
      /of this archive cannot be used/
    ]
  ];
  it.each(CASES)('%s: it is refused, and nothing of it stays', async (_, make, message) => {
    const { app } = test;
    const bytes = make();
    await expect(receiveArchive(app, bytesOf(bytes), bytes.length)).rejects.toThrow(message);
    expect(await listJobs(app)).toHaveLength(1);
    for (const table of ['frames', 'originals', 'looks', 'house_settings'])
      expect((await app.db.query(`select from ${table}`)).rowCount).toBe(0);
    expect(readdirSync(join(app.data, 'incoming'))).toEqual([]);
    for (const { sha256 } of before) expect(existsSync(originalPath(app.data, sha256))).toBe(false);
  });

  it('arrives shorter than was said: it is refused', async () => {
    const bytes = readFileSync(archivePath);
    await expect(receiveArchive(test.app, bytesOf(bytes), bytes.length + 1)).rejects.toThrow('cut short');
  });

  it('fails in the end, and gives back the space of what was kept', async () => {
    const { app } = test;
    await app.db.query('alter table jobs add constraint full_up check (name <> $$Test job$$) not valid');
    await expect(takeInArchive(app, archivePath)).rejects.toThrow();
    await app.db.query('alter table jobs drop constraint full_up');
    await app.db.query('alter table frames add constraint full_up check (room <> $$Reading room$$)');
    await expect(takeInArchive(app, archivePath)).rejects.toThrow();
    await app.db.query('alter table frames drop constraint full_up');
    for (const { sha256 } of before) expect(existsSync(originalPath(app.data, sha256))).toBe(false);
    expect(await listJobs(app)).toHaveLength(1);
  });
});

it('has recipes that a frame takes, with their looks and skies, as one step of its history', async () => {
  const test = await openTestApp();
  try {
    const { app, jobId } = test;
    const bytes = readFileSync(join(inject('photographs'), 'SML_0130.dng'));
    const { id } = await addFrame(app, jobId, 'SML_0130.dng', bytesOf(bytes));
    const own = (name: string): object => JSON.parse(Buffer.from(files[`originals/${name}.json`]).toString());
    expect(await takeRecipe(app, id, own('SML_0101'))).toHaveLength(1);
    await ready(test, jobId);
    // What is done to new frames is not done to one that has its recipe.
    expect((await frameById(app, id))!.recipe).toMatchObject({
      lines: { roll: 1.2 },
      tone: { exposure: 0.4 }
    });
    expect((await listLooks(app)).filter(({ shipped }) => !shipped)).toMatchObject([{ name: 'Warm' }]);
    await takeRecipe(app, id, { ...own('SML_0130'), lens: { profile: 'none' } });
    expect((await listSkies(app)).filter(({ shipped }) => !shipped)).toHaveLength(1);
    expect((await stateBefore(app, id))!.recipe).toMatchObject({ lines: { roll: 1.2 } });
    await expect(takeRecipe(app, id, { tone: { sparkle: 1 } })).rejects.toThrow('sparkle');
    await expect(takeRecipe(app, id, { skies: { x: 'AAAA' } })).rejects.toThrow('no sky');
    const parts: Buffer[] = [];
    for await (const part of await recipesZip(app, jobId)) parts.push(part as Buffer);
    const written = unzipSync(Buffer.concat(parts));
    expect(Object.keys(written)).toEqual(['SML_0130.json']);
    expect(JSON.parse(Buffer.from(written['SML_0130.json']).toString())).toMatchObject({
      crop: { ratio: '4:3' }
    });
  } finally {
    await test.remove();
  }
});

it('says before it begins that an original is gone, and breaks off where one is damaged', async () => {
  const test = await openTestApp();
  try {
    const { app, jobId } = test;
    const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
    const { id } = await addFrame(app, jobId, 'SML_0101.dng', bytesOf(bytes));
    await ready(test, jobId);
    const { sha256 } = (await frameById(app, id))!;
    const path = originalPath(app.data, sha256);
    const damaged = Buffer.from(bytes);
    damaged[damaged.length >> 1] ^= 1;
    writeFileSync(path, damaged);
    await expect(archived(test, jobId, join(folder, 'damaged.zip'))).rejects.toThrow(
      'no longer what was added'
    );
    rmSync(path);
    await expect(jobArchive(app, jobId)).rejects.toThrow('gone or cut short');
  } finally {
    await test.remove();
  }
});
