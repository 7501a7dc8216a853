import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, inject, it } from 'vitest';
import type { Point } from '../../core/math/frame-geometry.ts';
import { sensorToField } from '../../core/math/frame-geometry.ts';
import { projectPoint } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { ROOT } from '../paths.ts';
import { badFiles } from './bad-files.ts';
import type { Report } from '../render/report.ts';

const folder = mkdtempSync(join(tmpdir(), 'line-true-cli-'));
const photograph = (): string => join(inject('photographs'), 'SML_0101.dng');
const path = (name: string): string => join(folder, name);

function run(...args: string[]): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(join(ROOT, 'bin/line-true'), args, { encoding: 'utf8' });
  return { code: status, out: stdout, err: stderr };
}

function json(name: string, value: unknown): string {
  writeFileSync(path(name), typeof value === 'string' ? value : JSON.stringify(value));
  return path(name);
}

const frame = DEMO_FRAMES[0];
const setup = setupAt(frame, 1500);

/** Exact marks along true edges of the scene. */
function trueMarks(kind: 'plumb' | 'level'): { id: string; kind: string; a: Point; b: Point }[] {
  return frame
    .scene()
    .edges.filter((edge) => edge.kind === kind)
    .flatMap((edge, i) => {
      const [a, b] = [projectPoint(edge.a, setup), projectPoint(edge.b, setup)];
      if (!a || !b) return [];
      return [{ id: `m${i}`, kind, a: sensorToField(a, setup.size), b: sensorToField(b, setup.size) }];
    });
}

describe('line-true', () => {
  it.each([['--help'], ['render', '--help'], ['deliver', 'somewhere', '-h']])('helps: %s %s', (...args) => {
    const { code, out } = run(...args);
    expect(code).toBe(0);
    expect(out).toContain('Exit codes');
  });

  it('inspects a photograph', () => {
    const { code, out } = run('inspect', photograph());
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      make: 'Fenwright',
      profile: 'fenwright-24-f2-8',
      focalFrom: 'file',
      sensor: { pattern: 'RGGB', black: 512, white: 15871 }
    });
  });

  it('takes the readings of a photograph, as shot and by a recipe', () => {
    const readingsOf = (...more: string[]) => {
      const { code, out, err } = run('inspect', photograph(), '--readings', ...more);
      expect(err).toBe('');
      expect(code).toBe(0);
      return JSON.parse(out) as Pick<Report, 'readings' | 'notMeasured'>;
    };
    // The camera was tilted by four degrees: what is found tells it.
    const asShot = readingsOf();
    expect(asShot.readings.plumb!.rms).toBeGreaterThan(3);
    expect(asShot.notMeasured.join()).toContain('grey');
    const recipe = json('true.json', { lines: { ...setup.angles, marks: trueMarks('plumb') } });
    const upright = readingsOf('--recipe', recipe);
    expect(upright.readings.plumb!.rms).toBeLessThan(0.02);
    expect(run('inspect', photograph(), '--recipe', recipe)).toMatchObject({ code: 2 });
    expect(
      run('inspect', photograph(), '--readings', '--recipe', json('no.json', { lines: { roll: 'x' } })).code
    ).toBe(1);
  });

  it('does by itself what the bench does at a press, and says what it found', () => {
    const { code, out, err } = run(
      'render',
      photograph(),
      '--true-up',
      'verticals',
      '--auto',
      'tone,colour',
      '--straighten',
      '--long-edge',
      '600',
      '--out',
      path('itself.jpg'),
      '--report',
      path('itself.json')
    );
    expect(err).toBe('');
    expect(code).toBe(0);
    const report = JSON.parse(readFileSync(path('itself.json'), 'utf8')) as Report;
    expect(report.byItself.join('\n') + '\n').toBe(out);
    const [straightened, truedUp, tone, colour] = report.byItself;
    expect(straightened).toMatch(/^Straightened: (Bows of|Nothing was changed)/);
    expect(truedUp).toMatch(/^Trued up: (Sure|Fair): roll from \d+ plumb lines/);
    expect(tone).toMatch(/^Tone: \d+ settings by itself/);
    expect(colour).toMatch(/^Colour: set for \d{4} K/);
    const { angles } = frame.setup;
    expect(Math.abs(report.rotation.roll - angles.roll)).toBeLessThan(0.3);
    expect(Math.abs(report.rotation.pitch - angles.pitch)).toBeLessThan(0.5);
    expect(report.readings.plumb!.rms).toBeLessThan(0.3);
    expect(report.readings.plumb!.found).toBeUndefined();
    expect(report.steps.filter(({ state }) => state !== 'untouched').map(({ name }) => name)).toEqual(
      expect.arrayContaining(['lines', 'tone', 'colour'])
    );
  });

  it('refuses what it does not know to do by itself', () => {
    const asked = (...args: string[]) => run('render', photograph(), '--out', path('no.jpg'), ...args);
    expect(asked('--true-up', 'everything')).toMatchObject({ code: 2 });
    expect(asked('--true-up', 'everything').err).toContain(
      '--true-up is one of level, verticals, both, front'
    );
    expect(asked('--auto', 'tone,mood').err).toContain('--auto takes tone and colour, not "mood"');
  });

  it('renders a trued-up JPEG with a report that holds', async () => {
    const recipe = json('true.json', { lines: { marks: trueMarks('plumb') }, crop: { ratio: '4:3' } });
    const { code, err } = run(
      'render',
      photograph(),
      '--recipe',
      recipe,
      '--out',
      path('true.jpg'),
      '--report',
      path('true-report.json')
    );
    expect(err).toBe('');
    expect(code).toBe(0);
    const report = JSON.parse(readFileSync(path('true-report.json'), 'utf8')) as Report;
    const bytes = readFileSync(path('true.jpg'));
    expect(report.picture.sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(report.original.sha256).toBe(
      createHash('sha256').update(readFileSync(photograph())).digest('hex')
    );
    expect(report.rotation.roll).toBeCloseTo(setup.angles.roll, 2);
    expect(report.rotation.pitch).toBeCloseTo(setup.angles.pitch, 2);
    expect(report.readings.plumb!.rms).toBeLessThan(0.01);
    expect(report.readings.cover).toBe(100);
    expect(report.lens.profile!.id).toBe('fenwright-24-f2-8');
    const { width, height, icc, density, format } = await sharp(bytes).metadata();
    expect(format).toBe('jpeg');
    expect(icc).toBeTruthy();
    expect(density).toBe(300);
    expect(Math.abs(height - (width * 3) / 4)).toBeLessThanOrEqual(0.5);
    expect({ width, height }).toEqual(report.picture.pixels);
    // Without a report the picture is the same.
    expect(run('render', photograph(), '--recipe', recipe, '--out', path('bare.jpg')).code).toBe(0);
    expect(Buffer.compare(readFileSync(path('bare.jpg')), bytes)).toBe(0);
  });

  it('keeps the camera data, and the position only when asked', async () => {
    for (const [name, args] of [
      ['no.jpg', []],
      ['yes.jpg', ['--keep-position']]
    ] as const) {
      expect(run('render', photograph(), '--out', path(name), '--long-edge', '400', ...args).code).toBe(0);
    }
    const { parse } = (await import('exifr')).default;
    const plain = await parse(readFileSync(path('no.jpg')), { gps: true });
    expect(plain).toMatchObject({
      Make: 'Fenwright',
      Model: 'F2',
      LensModel: 'Fenwright 24 mm f/2.8',
      FNumber: 8,
      ISO: 100,
      FocalLength: 24
    });
    expect(plain.ExposureTime).toBeCloseTo(1 / 250, 6);
    expect(plain.latitude).toBeUndefined();
    const placed = await parse(readFileSync(path('yes.jpg')), { gps: true });
    expect(placed.latitude).toBeCloseTo(-41.5125, 4);
    expect(placed.longitude).toBeCloseTo(-112.25, 4);
  });

  it('writes PNG and 16-bit TIFF, the same each time', async () => {
    for (const name of ['one.tif', 'two.tif', 'one.png']) {
      expect(run('render', photograph(), '--out', path(name), '--long-edge', '600').code).toBe(0);
    }
    expect(readFileSync(path('one.tif')).equals(readFileSync(path('two.tif')))).toBe(true);
    expect(
      run('render', photograph(), '--out', path('deep.png'), '--long-edge', '600', '--depth', '16').code
    ).toBe(0);
    const plain = await sharp(path('one.png')).raw().toBuffer();
    expect((await sharp(path('one.tif')).metadata()).density).toBe(300);
    const deepPng = readFileSync(path('deep.png'));
    expect(deepPng.readUInt32BE(deepPng.indexOf('pHYs') + 4)).toBe(Math.round(300 / 0.0254));
    for (const name of ['one.tif', 'deep.png']) {
      const { depth, icc } = await sharp(path(name)).metadata();
      expect(depth).toBe('ushort');
      expect(icc!.equals((await sharp(path('one.png')).metadata()).icc!)).toBe(true);
      const raw = await sharp(path(name), { ignoreIcc: true })
        .toColourspace('rgb16')
        .raw({ depth: 'ushort' })
        .toBuffer();
      const deep = new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
      const worst = plain.reduce((most, value, i) => Math.max(most, Math.abs(deep[i] / 257 - value)), 0);
      // 8 bits are dithered by up to a code, and right in the mean.
      expect(worst, name).toBeLessThan(1.51);
      const bias = plain.reduce((sum, value, i) => sum + deep[i] / 257 - value, 0) / plain.length;
      expect(Math.abs(bias), name).toBeLessThan(0.02);
    }
  });

  it.each([
    ['unknown settings', { lens: { sharpness: 3 } }, /unknown entry "sharpness"/],
    ['values out of range', { lines: { pitch: 99 } }, /lines\.pitch must be <= 60/],
    ['no JSON', '{ "lens": ', /is not JSON/],
    ['a profile nobody has', { lens: { profile: 'not-there' } }, /not in the catalogue/],
    [
      'marks that give nothing',
      { lines: { marks: [{ id: 'a', kind: 'plumb', a: [0, 0], b: [0, 0] }] } },
      /too short/
    ]
  ])('refuses a recipe with %s', (_, recipe, message) => {
    const { code, err } = run(
      'render',
      photograph(),
      '--recipe',
      json('bad.json', recipe),
      '--out',
      path('never.jpg')
    );
    expect(err).toMatch(message);
    expect(code).toBe(1);
    expect(readdirSync(folder)).not.toContain('never.jpg');
  });

  it('refuses bad photographs with exit code 1 and leaves no file', async () => {
    for (const { what, name, bytes, message } of await badFiles(photograph())) {
      writeFileSync(path(name), bytes);
      const { code, err } = run('render', path(name), '--out', path('never.jpg'));
      expect(err, what).toMatch(message);
      expect(code, what).toBe(1);
    }
    expect(readdirSync(folder).filter((name) => name.startsWith('never'))).toEqual([]);
  });

  it('tells wrong calls and unwritable results apart', () => {
    expect(run('render', photograph(), '--out', path('x.gif'))).toMatchObject({ code: 2 });
    expect(run('render', photograph())).toMatchObject({ code: 2 });
    expect(run('polish', photograph())).toMatchObject({ code: 2 });
    expect(run('render', path('nowhere.dng'), '--out', path('x.jpg'))).toMatchObject({ code: 1 });
    const unwritable = run('render', photograph(), '--out', '/proc/x.jpg', '--long-edge', '100');
    expect(unwritable.code).toBe(3);
  });

  describe('looks and spaces', () => {
    /** A look that turns everything to one colour, and one that only darkens. */
    const flat = 'LUT_1D_SIZE 2\n0.9 0.2 0.1\n0.9 0.2 0.1\n';
    const dark = 'LUT_1D_SIZE 2\n0 0 0\n0.5 0.5 0.5\n';
    const mean = async (file: string): Promise<number[]> =>
      (await sharp(path(file), { ignoreIcc: true }).stats()).channels.map(({ mean: value }) => value);
    const render = (out: string, ...args: string[]): ReturnType<typeof run> =>
      run('render', photograph(), '--out', path(out), '--long-edge', '300', ...args);

    it('lays a look that is named over the picture', async () => {
      writeFileSync(path('flat.cube'), flat);
      writeFileSync(path('dark.cube'), dark);
      expect(render('plain.png').code).toBe(0);
      expect(render('flat.png', '--look', path('flat.cube')).code).toBe(0);
      const [r, g, b] = await mean('flat.png');
      expect([r / 255, g / 255, b / 255].map((value) => Math.round(value * 50) / 50)).toEqual([
        0.9, 0.2, 0.1
      ]);
      // Of several the recipe names one.
      const both = ['--look', path('flat.cube'), '--look', path('dark.cube')];
      const named = json('dark.json', { colour: { look: 'dark' } });
      expect(render('dark.png', '--recipe', named, ...both).code).toBe(0);
      const [plain] = await mean('plain.png');
      expect((await mean('dark.png'))[0] / plain).toBeLessThan(0.6);
      const { code, err } = render('none.png', ...both);
      expect(code).toBe(1);
      expect(err).toContain('Name one of them in its colour.look: flat, dark');
    });

    it('takes the look that a recipe carries, and the one that stands for one that is not known', async () => {
      const id = '00000000-0000-4000-8000-000000000000';
      const recipe = { colour: { look: id }, looks: { [id]: { cube: dark, space: 'srgb' } } };
      expect(render('carried.png', '--recipe', json('carried.json', recipe)).code).toBe(0);
      expect((await mean('carried.png'))[0]).toBeCloseTo((await mean('dark.png'))[0], 0);
      const alone = json('alone.json', { colour: { look: id } });
      expect(render('unknown.png', '--recipe', alone)).toMatchObject({ code: 1 });
      expect(render('stands.png', '--recipe', alone, '--look', path('dark.cube')).code).toBe(0);
      expect((await mean('stands.png'))[0]).toBeCloseTo((await mean('dark.png'))[0], 0);
      const broken = json('broken.json', { ...recipe, looks: { [id]: { cube: 7 } } });
      expect(render('broken.png', '--recipe', broken).err).toContain('is not whole');
    });

    it('writes the space that is asked for', async () => {
      expect(render('wide.tif', '--space', 'display-p3').code).toBe(0);
      const { icc } = await sharp(path('wide.tif')).metadata();
      // Names in profiles are of 16 bits, most significant first.
      expect(icc!.includes(Buffer.from('Display P3', 'utf16le').swap16())).toBe(true);
      const { code, err } = render('wrong.tif', '--space', 'cmyk');
      expect(code).toBe(2);
      expect(err).toContain('--space is one of srgb, display-p3');
    });
  });
});
