import { describe, expect, it } from 'vitest';
import { halfDiagonal } from '../math/frame-geometry.ts';
import { completeRecipe } from '../recipe/recipe.ts';
import { cornerFalloff, falloffGains, mapGain, transmission } from './falloff.ts';
import { frameFalloff, frameLateral, frameLens, handTerms } from '../steps/lens/frame-lens.ts';
import { distortRadius, lensModel } from './lens-model.ts';
import { completeProfile, profileFault, profileTerms } from './profile.ts';

const FULL = 21.6333;
const zoom = completeProfile({
  id: 'zoom',
  maker: 'Test',
  lens: 'Test 20-40 mm f/4',
  sensorHalfDiagonal: FULL,
  distortion: [
    { focalLength: 20, terms: [0, -0.08, 0, 0.02] },
    { focalLength: 28, terms: [0, -0.02], centre: [0.01, 0] },
    { focalLength: 40, realFocalLength: 41, terms: [0, 0.03] }
  ],
  lateral: [{ focalLength: 30, red: [1e-4, 0, 2e-4], blue: [-1e-4] }],
  falloff: [
    { focalLength: 20, aperture: 4, terms: [-1, 0.4, -0.1] },
    { focalLength: 20, aperture: 8, terms: [-0.5, 0.1, 0] },
    { focalLength: 40, aperture: 4, terms: [-0.6, 0.2, 0] },
    { focalLength: 40, aperture: 8, terms: [-0.3, 0, 0] }
  ]
});
const lens = completeRecipe().lens;

describe('profile figures for a shot', () => {
  it('pass its nodes without a step, and are held with a notice outside its range', () => {
    const at = (focalLength: number): number =>
      distortRadius(
        0.9,
        lensModel(profileTerms(zoom, { focalLength, sensorHalfDiagonal: FULL }).distortion!)
      ) * halfDiagonal({ width: 6000, height: 4000 });
    for (const node of [20, 28, 40]) expect(Math.abs(at(node + 0.001) - at(node - 0.001))).toBeLessThan(0.05);
    for (let f = 20; f < 40; f += 0.05) expect(Math.abs(at(f + 0.05) - at(f))).toBeLessThan(1.5);
    expect(at(60)).toBe(at(40));
    expect(profileTerms(zoom, { focalLength: 60, sensorHalfDiagonal: FULL }).notices[0]).toMatch(
      /60 mm lies outside the profile \(20–40 mm\): the figures of 40 mm/
    );
    expect(profileTerms(zoom, { focalLength: 19.5, sensorHalfDiagonal: FULL }).notices).toEqual([]);
  });

  it('see only the middle of the field on a smaller sensor, and say so of a larger one', () => {
    const small = profileTerms(zoom, { focalLength: 20, sensorHalfDiagonal: FULL / 1.5 });
    const whole = profileTerms(zoom, { focalLength: 20, sensorHalfDiagonal: FULL });
    // The corner of the small sensor lies at 1 / 1.5 of the large one's half diagonal.
    expect(distortRadius(1, lensModel(small.distortion!)) / 1.5).toBeCloseTo(
      distortRadius(1 / 1.5, lensModel(whole.distortion!)),
      12
    );
    expect(transmission(small.shading!.terms, 1)).toBeCloseTo(
      transmission(whole.shading!.terms, 1 / 2.25),
      12
    );
    expect(small.lateral!.red[2] * 2.25).toBeCloseTo(2e-4, 15);
    expect(profileTerms(zoom, { focalLength: 20, sensorHalfDiagonal: FULL * 1.3 }).notices[0]).toMatch(
      /smaller sensor/
    );
  });

  it('take falloff from the nearest apertures and focal lengths', () => {
    const corner = (focalLength: number, aperture: number | null): number =>
      transmission(profileTerms(zoom, { focalLength, aperture, sensorHalfDiagonal: FULL }).shading!.terms, 1);
    expect(corner(20, 4)).toBeCloseTo(0.3, 9);
    expect(corner(40, 8)).toBeCloseTo(0.7, 9);
    const between = corner(20, 5.6);
    expect(between).toBeGreaterThan(0.3);
    expect(between).toBeLessThan(0.6);
    expect(corner(28, 5.6)).toBeLessThan(0.7);
  });

  it('are refused where the distortion folds back, with the radius', () => {
    const bad = { ...zoom, distortion: [{ focalLength: 20, terms: [0, -0.5] }] };
    expect(profileFault(zoom)).toBeNull();
    expect(profileFault(bad)).toMatch(/at 20 mm folds back at 5\d % of the way/);
    expect(profileFault({ ...zoom, gainMap: { columns: 2, rows: 2, values: [1] } })).toMatch(/three values/);
  });
});

describe('the lens of a frame', () => {
  const terms = profileTerms(zoom, { focalLength: 20, aperture: 8, sensorHalfDiagonal: FULL });

  it('is the profile by default, half of it at 50 %, and none when the step is off', () => {
    const whole = frameLens(lens, terms, 0.9);
    expect(whole.terms.slice(0, 4)).toEqual([0, -0.08, 0, 0.02]);
    expect(frameLens({ ...lens, distortion: 50 }, terms, 0.9).terms[1]).toBeCloseTo(-0.04);
    expect(frameLens({ ...lens, enabled: false }, terms, 0.9).limit).toBe(Infinity);
  });

  it('bows at the corners and waves half way out, as the sliders say', () => {
    const at = (bow: number, wave: number, r: number): number =>
      distortRadius(r, lensModel({ terms: handTerms({ bow, wave }) })) / r - 1;
    expect(at(-4, 0, 1)).toBeCloseTo(-0.04);
    expect(at(0, 1, 1)).toBeCloseTo(0, 9);
    expect(at(0, 1, Math.SQRT1_2)).toBeCloseTo(0.01);
  });

  it('prefers what was solved and measured on the picture', () => {
    const solved = {
      projection: 'rectilinear' as const,
      terms: [0, 0.05],
      centre: [0.01, 0.02] as [number, number]
    };
    const model = frameLens({ ...lens, solved, bow: 1 }, terms, 0.9);
    expect(model.terms[1]).toBeCloseTo(0.06);
    expect(model.centre).toEqual([0.01, 0.02]);
    expect(frameLateral({ ...lens, measured: { red: [3e-4], blue: [0] } }, terms)!.red[0]).toBeCloseTo(3e-4);
    expect(frameLateral({ ...lens, lateral: 0 }, terms)).toBeNull();
    expect(frameLateral({ ...lens, lateral: 0, lateralBlue: 0.5 }, terms)!.blue[0]).toBeCloseTo(5e-4);
  });

  it('leaves as much falloff as asked for, and adds what is set by hand', () => {
    const at = (settings: Partial<typeof lens>): number =>
      cornerFalloff(frameFalloff({ ...lens, ...settings }, terms)!);
    expect(at({})).toBeCloseTo(0, 12);
    expect(at({ falloff: 0 })).toBeCloseTo(Math.log2(0.6), 9);
    expect(at({ falloff: 50 })).toBeCloseTo(Math.log2(0.6) / 2, 9);
    expect(at({ corner: 0.5 })).toBeCloseTo(0.5, 9);
    expect(frameFalloff(lens, null)).toBeNull();
    const gains = new Float64Array(3);
    const hand = frameFalloff({ ...lens, corner: 1, midpoint: 75 }, null)!;
    falloffGains(hand, Math.SQRT1_2, 0, 0.83, 0.55, gains);
    expect(gains[0]).toBeCloseTo(2 ** 0.25, 9);
  });

  it('reads gain maps bilinearly, corner to corner', () => {
    const map = { columns: 2, rows: 2, values: [1, 1, 1, 2, 2, 2, 3, 3, 3, 4, 4, 4] };
    expect(mapGain(map, -1, -1, 0)).toBe(1);
    expect(mapGain(map, 1, 1, 2)).toBe(4);
    expect(mapGain(map, 0, 0, 1)).toBeCloseTo(2.5);
  });
});
