import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import { distortRadius, lateralShift, lensModel } from '../../core/optics/lens-model.ts';
import { type LensProfile, profileTerms } from '../../core/optics/profile.ts';
import { seededRandom } from '../../core/math/random.ts';
import { UserError } from '../user-error.ts';
import { addFrame } from '../frames/add-frame.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { frameById } from '../frames/frame-row.ts';
import { giveProfile, keepForLens } from '../lenses/apply-lens.ts';
import { carrySteps } from '../set/carry-steps.ts';
import {
  duplicateProfile,
  profileById,
  profileUsage,
  removeProfile,
  saveProfile,
  searchProfiles
} from '../lenses/catalogue.ts';
import { soundProfile } from '../lenses/sound-profile.ts';
import { importProfiles } from '../lenses/import-profiles.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { measureFrame, measureLens } from '../lenses/measure-lens.ts';
import { convertCalibration } from '../lenses/profiles-from-calibration.ts';
import { type CalibrationElement, readCalibrationXml } from '../lenses/read-calibration-xml.ts';
import { ENTITY_BOMB, MADE_UP } from './made-up-calibration.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

const UNIT24 = 3606;

/** The published formulas of the format, evaluated as they stand: r in half the shorter side. */
function publishedDistortion({ attributes: a }: CalibrationElement, r: number): number {
  const of = (name: string): number => Number(a[name] ?? 0);
  if (a.model === 'poly3') return r * (1 - of('k1') + of('k1') * r ** 2);
  if (a.model === 'poly5') return r * (1 + of('k1') * r ** 2 + of('k2') * r ** 4);
  return r * (of('a') * r ** 3 + of('b') * r ** 2 + of('c') * r + 1 - of('a') - of('b') - of('c'));
}
/** Scale in the middle of the picture. */
const publishedScale = ({ attributes: a }: CalibrationElement): number =>
  a.model === 'poly3'
    ? 1 - Number(a.k1 ?? 0)
    : a.model === 'poly5'
      ? 1
      : 1 - Number(a.a ?? 0) - Number(a.b ?? 0) - Number(a.c ?? 0);

function publishedLateral({ attributes: a }: CalibrationElement, r: number): { red: number; blue: number } {
  const of = (name: string, absent: number): number => Number(a[name] ?? absent);
  if (a.model === 'linear') return { red: r * of('kr', 1), blue: r * of('kb', 1) };
  return {
    red: r * (of('br', 0) * r ** 2 + of('cr', 0) * r + of('vr', 1)),
    blue: r * (of('bb', 0) * r ** 2 + of('cb', 0) * r + of('vb', 1))
  };
}

/** Largest difference, in pixels at 24 MP, between a profile's maps and the published ones, over the frame. */
function worstDifference(profile: LensProfile, calibration: CalibrationElement[], aspect: number): number {
  const short = Math.hypot(aspect, 1);
  let worst = 0;
  for (const [i, element] of calibration.entries()) {
    // Of two for one focal length the later one counts.
    const later = calibration
      .slice(i + 1)
      .some(
        (other) =>
          other.name === element.name && Number(other.attributes.focal) === Number(element.attributes.focal)
      );
    if (later) continue;
    const focalLength = Number(element.attributes.focal);
    const terms = profileTerms(profile, { focalLength, sensorHalfDiagonal: profile.sensorHalfDiagonal });
    if (element.name === 'distortion' && terms.distortion) {
      if (!profile.distortion.some((node) => node.focalLength === focalLength)) continue;
      // The polynomial alone: the fisheye's own law is not part of it.
      const model = lensModel({ terms: terms.distortion.terms });
      const scale = publishedScale(element);
      for (let r = 0.05; r < Math.min(1, model.limit); r += 0.05) {
        const truth = publishedDistortion(element, (r / scale) * short) / short;
        worst = Math.max(worst, Math.abs(distortRadius(r, model) - truth) * UNIT24);
      }
    } else if (element.name === 'tca' && terms.lateral) {
      for (let r = 0.05; r <= 1; r += 0.05) {
        const truth = publishedLateral(element, r * short);
        const red = Math.abs(r * (1 + lateralShift(terms.lateral.red, r)) - truth.red / short);
        const blue = Math.abs(r * (1 + lateralShift(terms.lateral.blue, r)) - truth.blue / short);
        worst = Math.max(worst, red * UNIT24, blue * UNIT24);
      }
    }
  }
  return worst;
}

/** A request to import files. */
const filesOf = (files: { name: string; text: string }[]): string => JSON.stringify({ files });

describe('open XML calibration data', () => {
  const converted = convertCalibration([readCalibrationXml(MADE_UP, 'made-up.xml')]);

  it('is read with its lenses, bodies and mounts, and says what was left out and why', () => {
    expect(converted.profiles.map((profile) => profile.id)).toEqual([
      'tarn-10-20mm-f-4-friends',
      'tarn-8mm-f-2-8-fisheye',
      'tarn-fixed-lens'
    ]);
    const [zoom, fisheye, fixed] = converted.profiles;
    expect(zoom).toMatchObject({
      maker: 'Tarn',
      lens: 'Tarn 10-20mm f/4 & friends',
      mounts: ['Tarn T', 'Old Tarn']
    });
    expect(zoom.sensorHalfDiagonal).toBeCloseTo(FULL_FRAME_HALF_DIAGONAL / 1.5, 3);
    expect(zoom.distortion.map((node) => node.focalLength)).toEqual([10, 14, 20]);
    expect(zoom.falloff[0]).toEqual({
      focalLength: 10,
      aperture: 4,
      distance: 10,
      terms: [-0.7, 0.2, -0.05]
    });
    expect(fisheye.projection).toBe('equisolid');
    expect(fisheye.distortion[0].realFocalLength).toBe(8.3);
    expect(fixed.bodies).toEqual(['P5']);
    expect(converted.bodies).toEqual([
      expect.objectContaining({ model: 'T1', mounts: ['Tarn T', 'Old Tarn'] }),
      expect.objectContaining({ model: 'P5' })
    ]);
    const why = converted.skipped.map((skipped) => skipped.why).join(' | ');
    expect(why).toMatch(/crop factor/);
    expect(why).toMatch(/"spline9" is not known/);
    expect(why).toMatch(/11 mm folds back at \d+ %/);
    expect(why).toMatch(/"panoramic"/);
    expect(why).toMatch(/no figures/);
  });

  it('gives the maps of its published formulas', () => {
    const records = readCalibrationXml(MADE_UP, 'made-up.xml').lenses;
    expect(worstDifference(converted.profiles[0], records[0].calibration, 1.5)).toBeLessThan(1e-6);
    expect(worstDifference(converted.profiles[1], records[1].calibration, 4 / 3)).toBeLessThan(1e-6);
  });

  it('reads the collection that Debian ships without a failed file, and 50 lenses drawn at random exactly', () => {
    const files = execFileSync('dpkg', ['-L', 'liblensfun-data-v1'], { encoding: 'utf8' })
      .split('\n')
      .filter((path) => path.endsWith('.xml'));
    expect(files.length).toBeGreaterThan(40);
    const data = files.map((path) => readCalibrationXml(readFileSync(path, 'utf8'), path));
    const { profiles, skipped } = convertCalibration(data);
    expect(profiles.length).toBeGreaterThan(1000);
    expect(skipped.length).toBeLessThan(60);
    for (const profile of profiles)
      expect(() => soundProfile(JSON.parse(JSON.stringify(profile)))).not.toThrow();
    const records = data.flatMap((file) => file.lenses);
    const random = seededRandom(50);
    for (let n = 0; n < 50; n++) {
      const profile = profiles[Math.floor(random() * profiles.length)];
      const record = records.find(
        (lens) =>
          lens.maker === profile.maker &&
          lens.model === profile.lens &&
          lens.mounts.join() === profile.mounts!.join() &&
          Math.abs(FULL_FRAME_HALF_DIAGONAL / lens.cropFactor - profile.sensorHalfDiagonal) < 1e-3
      )!;
      expect(worstDifference(profile, record.calibration, record.aspectRatio)).toBeLessThan(0.05);
    }
  });

  it('is refused where it is malformed or hostile, with the reason', () => {
    const reason = (text: string): string => {
      try {
        readCalibrationXml(text, 'bad.xml');
        return 'read';
      } catch (error) {
        expect(error).toBeInstanceOf(UserError);
        return (error as Error).message;
      }
    };
    expect(reason(ENTITY_BOMB)).toMatch(/declares entities of its own/);
    expect(reason('<lensdatabase><lens><maker>&boom;</maker></lens></lensdatabase>')).toMatch(
      /not well-formed/
    );
    expect(reason('<lensdatabase><lens></lensdatabase>')).toMatch(/not well-formed/);
    expect(reason('<html></html>')).toMatch(/outermost element is <html>/);
    expect(reason('<lensdatabase></lensdatabase>')).toMatch(/no lens, camera or mount/);
    expect(reason(`<lensdatabase>${'<a>'.repeat(100)}`)).toMatch(/nested too deeply/);
    expect(reason(`<lensdatabase>${' '.repeat(100 * 1024 * 1024)}`)).toMatch(/100 MB long/);
  });
});

describe('the catalogue', () => {
  let test: TestApp;
  const ids: Record<string, string> = {};
  const own: LensProfile = {
    id: 'own-12',
    maker: 'Brindle Optical',
    lens: 'Brindle Optical 12 mm f/5.6',
    sensorHalfDiagonal: 21.6333,
    projection: 'rectilinear',
    distortion: [{ focalLength: 12, terms: [0, -0.1] }],
    lateral: [],
    falloff: [],
    softness: []
  };

  beforeAll(async () => {
    test = await openTestApp();
    for (const name of [
      'SML_0101.dng',
      'SML_0130.dng',
      'CPR_0014.dng',
      'BRN_0001.dng',
      'BRN_0004.dng',
      'BRN_0007_flat.dng'
    ]) {
      const bytes = readFileSync(join(inject('photographs'), name));
      ids[name] = (await addFrame(test.app, test.jobId, name, bytesOf(bytes), { bytes: bytes.length })).id;
    }
    for (const id of Object.values(ids))
      await until(async () => (await frameById(test.app, id))?.measured === true);
  });
  afterAll(() => test.remove());

  it('imports profiles and calibration data together, and reports on every file', async () => {
    const report = await importProfiles(
      test.app,
      filesOf([
        { name: 'made-up.xml', text: `\uFEFF${MADE_UP}` },
        { name: 'own.json', text: JSON.stringify(own) },
        {
          name: 'folded.json',
          text: JSON.stringify({ ...own, id: 'f', distortion: [{ focalLength: 12, terms: [0, -0.6] }] })
        },
        { name: 'bomb.xml', text: ENTITY_BOMB },
        { name: 'half.json', text: '{"id": "x"' },
        { name: 'empty.json', text: '{}' },
        { name: 'notes.txt', text: 'shot list' }
      ])
    );
    expect(report).toMatchObject({ files: 2, profiles: 4, bodies: 2 });
    const why = report.failed.map((failed) => failed.why).join(' | ');
    expect(why).toMatch(/folds back at \d+ %/);
    expect(why).toMatch(/entities/);
    expect(why).toMatch(/half\.json is not JSON/);
    expect(why).toMatch(/must have required property/);
    expect(why).toMatch(/neither a profile/);
    // Once more: nothing is doubled but a profile of one's own, which is never written over.
    await importProfiles(test.app, filesOf([{ name: 'made-up.xml', text: MADE_UP }]));
    const tarn = await searchProfiles(test.app, { text: 'tarn' });
    expect(tarn.total).toBe(3);
  });

  it('is searched by words, origin and what is corrected', async () => {
    const found = async (search: object): Promise<string[]> =>
      (await searchProfiles(test.app, search)).rows.map((row) => row.id);
    expect(await found({ text: 'FENWRIGHT 16-35' })).toEqual(['fenwright-16-35-f4']);
    expect(await found({ text: 'p5' })).toEqual(['tarn-fixed-lens']);
    expect(await found({ text: '100% _' })).toEqual([]);
    expect(await found({ origin: 'shipped' })).toHaveLength(3);
    expect(await found({ text: 'tarn', corrects: 'falloff' })).toEqual(['tarn-10-20mm-f-4-friends']);
  });

  it('keeps shipped profiles as they are, and lets copies be changed', async () => {
    await expect(saveProfile(test.app, 'fenwright-24-f2-8', own)).rejects.toThrow(/duplicate it/);
    await expect(removeProfile(test.app, 'fenwright-24-f2-8', true)).rejects.toThrow(/cannot be removed/);
    const copy = await duplicateProfile(test.app, 'fenwright-24-f2-8');
    expect(copy.lens).toMatch(/copy/);
    await expect(
      saveProfile(test.app, copy.id, { ...copy, distortion: [{ focalLength: 24, terms: [0, -0.7] }] })
    ).rejects.toThrow(/folds back/);
    await saveProfile(test.app, copy.id, { ...copy, note: 'Changed.' });
    expect((await profileById(test.app, copy.id))!.profile.note).toBe('Changed.');
    await removeProfile(test.app, copy.id, false);
    expect(await profileById(test.app, copy.id)).toBeNull();
  });

  it('remembers a lens chosen by hand for its body and lens text', async () => {
    const facts = (await frameById(test.app, ids['CPR_0014.dng']))!.facts!;
    expect((await choiceFor(test.app, facts)).auto).toBeNull();
    const alike = await keepForLens(test.app, ids['CPR_0014.dng'], 'own-12');
    // The chart frames say the same of their lens: nothing.
    expect(alike).toBe(4);
    const choice = await choiceFor(test.app, facts);
    expect(choice).toMatchObject({ remembered: true });
    expect(choice.auto!.id).toBe('own-12');
    expect((await frameById(test.app, ids['BRN_0001.dng']))!.recipe.lens).toEqual({ profile: 'auto' });
    expect((await profileUsage(test.app, 'own-12')).choices).toHaveLength(1);
    await keepForLens(test.app, ids['CPR_0014.dng'], null);
    expect((await choiceFor(test.app, facts)).auto).toBeNull();
    await expect(keepForLens(test.app, ids['CPR_0014.dng'], 'gone')).rejects.toThrow(
      /no longer in the catalogue/
    );
  });

  it('gives many frames a profile, carries settings over, and says what uses a profile', async () => {
    const both = [ids['SML_0101.dng'], ids['SML_0130.dng']];
    expect((await giveProfile(test.app, test.jobId, both, 'own-12')).frames).toBe(2);
    expect((await profileUsage(test.app, 'own-12')).frames.map((frame) => frame.name)).toEqual([
      'SML_0101.dng',
      'SML_0130.dng'
    ]);
    await expect(removeProfile(test.app, 'own-12', false)).rejects.toThrow(/2 frames use/);
    const from = (await frameById(test.app, both[0]))!;
    await saveRecipe(test.app, both[0], from.version, {
      lens: {
        bow: -3,
        curves: [
          {
            id: 'mine',
            points: [
              [0, 0],
              [0.5, 0]
            ]
          }
        ]
      },
      crop: { ratio: '1:1' }
    });
    const other = (await frameById(test.app, both[1]))!;
    const curves = [
      {
        id: 'theirs',
        points: [
          [0.1, 0],
          [0.6, 0]
        ] as [number, number][]
      }
    ];
    await saveRecipe(test.app, both[1], other.version, { lens: { wave: 1, curves }, lines: { roll: 2 } });
    expect((await carrySteps(test.app, ['lens'], both[0], both)).frames).toBe(1);
    expect((await frameById(test.app, both[1]))!.recipe).toEqual({
      version: 3,
      lens: { bow: -3, curves },
      lines: { roll: 2 }
    });
    await expect(carrySteps(test.app, ['lens'], both[0], [])).rejects.toThrow(/at least one other/);
    await giveProfile(test.app, test.jobId, both, 'own-12');
    await removeProfile(test.app, 'own-12', true);
    expect((await frameById(test.app, both[0]))!.recipe.lens!.profile).toBe('auto');
  });

  it('measures a lens from the chart and flat frames of the demo camera, and refuses what is neither', async () => {
    const request = {
      charts: [ids['BRN_0001.dng'], ids['BRN_0004.dng']],
      flats: [ids['BRN_0007_flat.dng']],
      maker: 'Brindle Optical',
      lens: 'Brindle Optical 12 mm f/5.6',
      focalLength: 12
    };
    const { profile, findings } = await measureLens(test.app, { ...request, save: true });
    expect(findings.join(' ')).toMatch(
      /corners fit within 0\.\d\d px RMS.*Lateral colour from \d+ edges.*EV in the corners/s
    );
    expect((await profileById(test.app, profile.id))!.origin).toBe('measured');
    expect(await measureFrame(test.app, ids['SML_0101.dng'], 'chart')).toMatchObject({ ok: false });
    await expect(
      measureLens(test.app, { ...request, charts: [ids['SML_0101.dng']], flats: [], save: true })
    ).rejects.toThrow(/No chart was found/);
    await expect(
      measureLens(test.app, { ...request, charts: [], flats: [ids['SML_0130.dng']], save: true })
    ).rejects.toThrow(/no flat frame|clipped/);
  });
});
