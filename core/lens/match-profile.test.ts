import { describe, expect, it } from 'vitest';
import { matchProfile } from './match-profile.ts';
import { profileTerms } from './profile.ts';
import { shippedProfiles } from './shipped-profiles.ts';

const zoom = shippedProfiles[0];

describe('matching a profile', () => {
  it.each(['Fenwright 16-35 mm f/4', '16-35mm F4', 'FENWRIGHT 16-35MM F/4', '16-35 mm f/4'])(
    'knows the lens by the text "%s"',
    (lens) => {
      expect(matchProfile({ lens, focalLength: 20 }, shippedProfiles)?.id).toBe(zoom.id);
    }
  );

  it('matches neither another lens, nor a focal length outside the range, nor a file without lens text', () => {
    expect(
      matchProfile({ lens: 'Brindle Optical 12 mm f/5.6', focalLength: 12 }, shippedProfiles)
    ).toBeNull();
    expect(matchProfile({ lens: '16-35 mm f/4', focalLength: 50 }, shippedProfiles)).toBeNull();
    expect(matchProfile({ lens: null, focalLength: 24 }, shippedProfiles)).toBeNull();
  });
});

describe('terms of a profile', () => {
  it('are exact at nodes, linear between them and held beyond', () => {
    const at = (focal: number): readonly number[] =>
      profileTerms(zoom, focal, zoom.sensorHalfDiagonal).distortion;
    expect(at(20)).toEqual(zoom.nodes[1].distortion);
    expect(at(18)[0]).toBeCloseTo((zoom.nodes[0].distortion[0] + zoom.nodes[1].distortion[0]) / 2, 12);
    expect(at(10)).toEqual(zoom.nodes[0].distortion);
  });

  it('see only the middle of the field on a smaller sensor', () => {
    const crop = profileTerms(zoom, 16, zoom.sensorHalfDiagonal / 1.5);
    // The corner of the small sensor is the point at 2/3 of the large one's field.
    const r2 = (1 / 1.5) ** 2;
    const [k1, k2, k3] = zoom.nodes[0].distortion;
    const [c1, c2, c3] = crop.distortion;
    expect(1 + c1 + c2 + c3).toBeCloseTo(1 + k1 * r2 + k2 * r2 ** 2 + k3 * r2 ** 3, 12);
  });
});
