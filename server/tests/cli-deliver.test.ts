/** A folder of photographs with recipes beside them, through the command line. */
import { execFile } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { ROOT } from '../paths.ts';

let place = '';
const run = (...args: string[]): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(join(ROOT, 'bin/line-true'), args, { maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err })
    );
  });

const deliver = (folder: string, out: string, ...more: string[]) =>
  run(
    'deliver',
    join(place, folder),
    '--deliverables',
    join(place, 'deliverables.json'),
    '--out',
    out,
    ...more
  );

beforeAll(() => {
  place = mkdtempSync(join(tmpdir(), 'line-true-folder-'));
  const folder = join(place, 'Quay 3');
  mkdirSync(folder);
  for (const name of ['SML_0101.dng', 'CPR_0003.dng'])
    copyFileSync(join(inject('photographs'), name), join(folder, name));
  writeFileSync(join(folder, 'SML_0101.json'), JSON.stringify({ lines: { roll: -1.3, pitch: 9.5 } }));
  writeFileSync(join(folder, 'notes.txt'), 'not a photograph');
  writeFileSync(
    join(place, 'deliverables.json'),
    JSON.stringify([
      { name: 'web', ratio: '4:3', sizeKind: 'long', width: 480, limit: 60, pattern: '{job}_{number}' },
      { name: 'deep', format: 'tiff', depth: 16, sizeKind: 'long', width: 300, pattern: '{frame}_{date}' }
    ])
  );
});

describe('line-true deliver', () => {
  it('makes every deliverable of every photograph, says so line by line, and leaves a manifest', async () => {
    const out = join(place, 'out');
    const told = await deliver('Quay 3', out, '--json');
    expect(told.err).toBe('');
    expect(told.code).toBe(0);
    const lines = told.out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { file: string; done: number; of: number });
    expect(lines.map(({ done, of }) => `${done}/${of}`)).toEqual(['1/4', '2/4', '3/4', '4/4']);
    expect(readdirSync(out).sort()).toEqual(
      [
        'CPR_0003_2026-06-02.tif',
        'Quay-3_0003.jpg',
        'Quay-3_0101.jpg',
        'SML_0101_2026-05-14.tif',
        'manifest.csv',
        'manifest.json'
      ].sort()
    );
    const web = readFileSync(join(out, 'Quay-3_0101.jpg'));
    expect(web.length).toBeLessThanOrEqual(60_000);
    expect(await sharp(web).metadata()).toMatchObject({ width: 480, height: 360 });
    const manifest = JSON.parse(readFileSync(join(out, 'manifest.json'), 'utf8')) as {
      files: { file: string; report: { rotation: { pitch: number } } }[];
    };
    expect(manifest.files.find(({ file }) => file === 'Quay-3_0101.jpg')!.report.rotation.pitch).toBe(9.5);
    // Once more: new names, the same pictures.
    const again = await deliver('Quay 3', out);
    const said = again.out.trim().split('\n');
    expect(said.map((line) => line.slice(0, 4))).toEqual(['1/4 ', '2/4 ', '3/4 ', '4/4 ']);
    // In the order in which they are ready.
    expect(said.map((line) => line.slice(4).replace(/,.*/, '')).sort()).toEqual([
      'CPR_0003_2026-06-02-2.tif: 300 × 200',
      'Quay-3_0003-2.jpg: 480 × 360',
      'Quay-3_0101-2.jpg: 480 × 360',
      'SML_0101_2026-05-14-2.tif: 300 × 200'
    ]);
    const listed = JSON.parse(readFileSync(join(out, 'manifest.json'), 'utf8')) as typeof manifest;
    expect(listed.files.map(({ file }) => file)).toEqual([
      'Quay-3_0003-2.jpg',
      'CPR_0003_2026-06-02-2.tif',
      'Quay-3_0101-2.jpg',
      'SML_0101_2026-05-14-2.tif'
    ]);
    expect(readFileSync(join(out, 'Quay-3_0101-2.jpg')).equals(web)).toBe(true);
  });

  it('names what fails, makes the rest, and says so in its exit code', async () => {
    writeFileSync(join(place, 'Quay 3', 'broken.dng'), 'no photograph');
    const out = join(place, 'broken');
    const told = await deliver('Quay 3', out);
    expect(told.code).toBe(1);
    expect(told.err).toMatch(/broken/);
    expect(told.err).toMatch(/2 of 6 pictures were not made/);
    expect(readdirSync(out)).toHaveLength(6);
    expect(await deliver('nowhere', out)).toMatchObject({
      code: 1,
      err: expect.stringMatching(/There is no folder/)
    });
    expect(await run('deliver', place, '--out', out)).toMatchObject({ code: 2 });
  });

  it('prepares every photograph as asked, with house settings, and refuses a file of them that is none', async () => {
    const house = join(place, 'house.json');
    const sets = [{ name: 'Grey', folder: '', steps: { colour: { mono: true } } }];
    writeFileSync(house, JSON.stringify({ format: 'line-true-house-settings', version: 1, sets }));
    const out = join(place, 'prepared');
    mkdirSync(join(place, 'Quay 4'));
    copyFileSync(join(inject('photographs'), 'CPR_0003.dng'), join(place, 'Quay 4', 'CPR_0003.dng'));
    const told = await deliver(
      'Quay 4',
      out,
      '--true-up',
      'verticals',
      '--auto',
      'tone',
      '--house-settings',
      house
    );
    expect(told.code).toBe(0);
    const picture = readdirSync(out).find((name) => name.endsWith('.jpg'))!;
    const { channels } = await sharp(join(out, picture)).toColourspace('srgb').stats();
    expect(Math.abs(channels[0].mean - channels[2].mean)).toBeLessThan(2);
    const manifest = JSON.parse(readFileSync(join(out, 'manifest.json'), 'utf8')) as unknown;
    expect(JSON.stringify(manifest)).toContain('House settings: Grey.');
    writeFileSync(house, JSON.stringify({ sets: [{ name: 'Glazed', steps: { glaze: {} } }] }));
    const refused = await deliver('Quay 3', out, '--house-settings', house);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('no file of house settings')]);
  });
});
