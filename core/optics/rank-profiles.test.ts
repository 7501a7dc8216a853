import { describe, expect, it } from 'vitest';
import { FOCAL_TOLERANCE } from './profile.ts';
import { MATCHES, type ProfileSummary, rankProfiles, readLensName } from './rank-profiles.ts';

const profile = (
  id: string,
  maker: string,
  lens: string,
  more: Partial<ProfileSummary> = {}
): ProfileSummary => ({
  id,
  maker,
  lens,
  mounts: ['A'],
  bodies: [],
  sensorHalfDiagonal: 21.6333,
  focals: [24, 24],
  ...more
});

const CATALOGUE = [
  profile('zoom', 'Fenwright', 'Fenwright 16-35 mm f/4', { focals: [16, 35] }),
  profile('wide', 'Fenwright', 'Fenwright 24 mm f/2.8'),
  profile('wide-ii', 'Fenwright', 'Fenwright 24 mm f/2.8 Mark II'),
  profile('other', 'Brindle Optical', 'Brindle Optical 24 mm f/2.8'),
  profile('small', 'Fenwright', 'Fenwright 24 mm f/2.8 Compact', { sensorHalfDiagonal: 14.2 }),
  profile('built-in', 'Tarn', 'Tarn P5 fixed lens', {
    bodies: ['P5'],
    focals: [8, 24],
    sensorHalfDiagonal: 8
  })
];
const shot = { make: 'Fenwright', model: 'F2', focalLength: 24, sensorHalfDiagonal: 21.6333 };
const best = (lens: string | null, more: object = {}): string | null => {
  const [first] = rankProfiles({ ...shot, lens, ...more }, CATALOGUE);
  return first && first.score >= MATCHES ? first.id : null;
};

describe('matching a lens text to profiles', () => {
  it.each([
    'Fenwright 24 mm f/2.8',
    'FENWRIGHT 24MM F2.8',
    'fenwright 24mm 1:2.8',
    '24mm f/2.8',
    'Fenwright Lens 24 mm F/2,8'
  ])('takes "%s" for the 24 mm', (text) => {
    expect(best(text)).toBe('wide');
  });

  it('tells zooms, versions and makers apart', () => {
    expect(best('Fenwright 16–35mm F4', { focalLength: 20 })).toBe('zoom');
    expect(best('Fenwright 24mm f/2.8 Mark II')).toBe('wide-ii');
    expect(best('Brindle Optical 24mm f/2.8')).toBe('other');
    expect(best('24mm f/2.8', { lensMaker: 'Brindle Optical' })).toBe('other');
    expect(best('Fenwright 28 mm f/2.8', { focalLength: 28 })).toBeNull();
    expect(best('Fenwright 24 mm f/1.4')).toBeNull();
  });

  it('knows a lens built into its body from the body', () => {
    expect(best(null, { make: 'Tarn', model: 'P5', focalLength: 10, sensorHalfDiagonal: 8 })).toBe(
      'built-in'
    );
    expect(best('Fenwright 24 mm f/2.8', { model: 'P5', make: 'Other' })).not.toBe(null);
  });

  it('offers candidates, but applies none by itself, when the file names no lens', () => {
    const ranked = rankProfiles(shot, CATALOGUE);
    expect(ranked.map((r) => r.id)).toContain('wide');
    expect(ranked.every((r) => r.score < MATCHES)).toBe(true);
    expect(ranked[0].against).toContain('the file names no lens');
    expect(rankProfiles({}, CATALOGUE)).toEqual([]);
  });

  it('says what speaks against a candidate', () => {
    const ranked = rankProfiles({ ...shot, lens: 'Fenwright 24 mm f/2.8 Compact' }, CATALOGUE, ['B']);
    expect(ranked.find((r) => r.id === 'small')!.against).toEqual([
      'measured on a smaller sensor',
      'made for another mount'
    ]);
    const far = rankProfiles({ ...shot, lens: 'Fenwright 16-35 mm f/4', focalLength: 70 }, CATALOGUE);
    expect(far[0].against).toEqual(['it knows 16–35 mm only']);
    expect(far[0].score).toBeLessThan(MATCHES);
  });

  it('takes lens texts apart', () => {
    const name = readLensName('NX 16-50mm F3.5-5.6 OSS');
    expect(name.focals).toBe('16-50');
    expect(name.apertures).toBe('3.5-5.6');
    expect([...name.words]).toEqual(['nx', 'oss']);
  });

  it.each([
    ['16mm', '16', null, []],
    ['16.50 mm', '16.5', null, []],
    ['16 mm - 35 mm', '16-35', null, []],
    ['16-35', '16-35', null, []],
    ['16-35 24 mm', '24', null, ['16', '35']],
    ['35mm 50mm', '35', null, []],
    ['f2', null, '2', []],
    ['1 : 1,8', null, '1.8', []],
    ['f/4 - f/5.6', null, '4-5.6', []],
    ['f/4 f/8', null, '4', []],
    ['The Lens for Tarn', null, null, ['tarn']],
    ['', null, null, []]
  ])('reads "%s"', (text, focals, apertures, words) => {
    const name = readLensName(text);
    expect([name.focals, name.apertures, [...name.words]]).toEqual([focals, apertures, words]);
  });
});

describe('the score of a profile', () => {
  const WIDE = profile('wide', 'Fenwright', 'Fenwright 24 mm f/2.8');
  const NAMED = { ...shot, lens: 'Fenwright 24 mm f/2.8' };
  const FIXED = profile('fixed', 'Tarn', 'Tarn P5 fixed lens', {
    bodies: ['P4', 'Tarn P5'],
    focals: [8, 24]
  });
  const one = (facts: object, of: Partial<ProfileSummary> = {}, mounts: string[] = []): unknown => {
    const [ranked] = rankProfiles(facts, [{ ...WIDE, ...of }], mounts);
    return ranked ? [ranked.score, ...ranked.against] : null;
  };

  // 45 for the name, 20 for each figure, 15 for the maker: what is left of 100, reckoned by hand.
  it.each([
    ['all agrees', NAMED, {}, [100]],
    ['no maker in the text, that of the body', { ...NAMED, lens: '24 mm f/2.8' }, {}, [95]],
    ['the body longer named', { ...NAMED, lens: '24 mm f/2.8', make: 'Fenwright Works' }, {}, [95]],
    ['the body shorter named', { ...NAMED, lens: '24 mm f/2.8', make: 'Fen' }, {}, [95]],
    ['another body', { ...NAMED, lens: '24 mm f/2.8', make: 'Other' }, {}, [85]],
    ['a maker of its own field', { ...NAMED, lens: '24 mm f/2.8', lensMaker: 'FENWRIGHT' }, {}, [100]],
    ['its longer name', { ...NAMED, lens: '24 mm f/2.8', lensMaker: 'Fenwright Works' }, {}, [100]],
    ['its shorter name', { ...NAMED, lens: '24 mm f/2.8', lensMaker: 'Fen' }, {}, [100]],
    ['another maker', { ...NAMED, lens: '24 mm f/2.8', lensMaker: 'Brindle' }, {}, [55, 'another maker']],
    [
      'half of the words',
      { ...NAMED, lens: `${NAMED.lens} Mark II` },
      { lens: `${NAMED.lens} Mark III` },
      [78]
    ],
    ['no word', { ...NAMED, lens: `${NAMED.lens} Dawn` }, {}, [55, 'its name differs']],
    [
      'a figure left out',
      NAMED,
      { lens: 'Fenwright 24 mm' },
      [80, 'its name leaves out part of what the file says']
    ],
    ['words alone', { ...NAMED, lens: 'Fenwright Dawn' }, { lens: 'Fenwright Dawn' }, [100]],
    ['words alone, half', { ...NAMED, lens: 'Dawn I' }, { lens: 'Dawn II', maker: 'Brindle' }, [43]],
    ['nothing in common', { ...NAMED, lens: 'Dawn', lensMaker: 'Tarn' }, { lens: 'Dusk' }, null],
    ['another focal length named', { ...NAMED, lens: '28 mm f/2.8' }, {}, null],
    ['another aperture named', { ...NAMED, lens: '24 mm f/4' }, {}, null],
    ['the longest that counts', { ...NAMED, focalLength: 24 * (1 + FOCAL_TOLERANCE) }, {}, [100]],
    ['the shortest that counts', { ...NAMED, focalLength: 24 * (1 - FOCAL_TOLERANCE) }, {}, [100]],
    ['longer', { ...NAMED, focalLength: 24.1 * (1 + FOCAL_TOLERANCE) }, {}, [65, 'it knows 24 mm only']],
    ['shorter', { ...NAMED, focalLength: 23.9 * (1 - FOCAL_TOLERANCE) }, {}, [65, 'it knows 24 mm only']],
    ['no focal length in the file', { ...NAMED, focalLength: null }, {}, [100]],
    ['a profile for all focal lengths', { ...NAMED, focalLength: 70 }, { focals: null }, [100]],
    ['a larger sensor', NAMED, { sensorHalfDiagonal: 21.6333 * 1.6 }, [97]],
    ['a far larger one', NAMED, { sensorHalfDiagonal: 21.6333 * 4 }, [95]],
    ['hardly a smaller one', NAMED, { sensorHalfDiagonal: 21.6333 * 0.961 }, [100]],
    ['a smaller one', NAMED, { sensorHalfDiagonal: 21.6333 * 0.95 }, [75, 'measured on a smaller sensor']],
    ['a sensor unknown', { ...NAMED, sensorHalfDiagonal: null }, { sensorHalfDiagonal: 8 }, [100]],
    ['no lens named, the same maker', shot, {}, [40, 'the file names no lens']],
    ['no lens named, another maker', shot, { maker: 'Brindle' }, [25, 'the file names no lens']],
    ['no lens named, a profile of no maker', shot, { maker: '' }, [25, 'the file names no lens']],
    ['no lens named, another focal length', { ...shot, focalLength: 35 }, {}, null],
    ['no lens named, a profile for all', shot, { focals: null }, null],
    ['neither lens nor focal length', { ...shot, focalLength: 0 }, {}, null]
  ])('%s', (_, facts, of, score) => {
    expect(one(facts, of)).toEqual(score);
  });

  it('knows the body of a built-in lens by model, or by maker and model', () => {
    const body = { make: 'Tarn', model: 'P5', focalLength: 24, sensorHalfDiagonal: 21.6333 };
    expect(one(body, FIXED)).toEqual([90]);
    expect(one({ ...body, make: null, model: 'p-4' }, FIXED)).toEqual([90]);
    expect(one({ ...body, focalLength: 50 }, FIXED)).toEqual([55, 'it knows 8–24 mm only']);
    expect(one({ ...body, model: 'P6', lens: FIXED.lens }, FIXED)).toBeNull();
  });

  it('counts a mount against a profile only where both are known', () => {
    expect(one(NAMED, {}, ['B', 'C'])).toEqual([88, 'made for another mount']);
    expect(one(NAMED, {}, ['B', 'A'])).toEqual([100]);
    expect(one(NAMED, { mounts: [] }, ['B'])).toEqual([100]);
    expect(one(NAMED, {}, [])).toEqual([100]);
  });

  it('sorts by score, then by name, and offers twelve', () => {
    const many = Array.from({ length: 15 }, (_, i) => ({ ...WIDE, id: `p${34 - i}` }));
    const ranked = rankProfiles(NAMED, [{ ...WIDE, id: 'a', maker: 'Brindle' }, ...many]);
    expect(ranked.map(({ id }) => id)).toEqual(Array.from({ length: 12 }, (_, i) => `p${20 + i}`));
    expect(rankProfiles(NAMED, many, [], 2)).toHaveLength(2);
    const mixed = rankProfiles(NAMED, [
      { ...WIDE, id: 'a', lens: 'Fenwright 24 mm' },
      { ...WIDE, id: 'b' }
    ]);
    expect(mixed.map(({ id }) => id)).toEqual(['b', 'a']);
  });
});
