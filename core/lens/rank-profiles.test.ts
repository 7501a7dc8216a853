import { describe, expect, it } from 'vitest';
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
});
