/** The lens of one frame: what its profile knows, what was solved or measured on the picture, and what was set by hand. */
import type { LensSettings } from './step.ts';
import type { Falloff } from '../../optics/falloff.ts';
import { type Lateral, type LensModel, NO_DISTORTION, lensModel } from '../../optics/lens-model.ts';
import type { LensTerms } from '../../optics/profile.ts';

const sum = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: Math.max(a.length, b.length) }, (_, i) => (a[i] ?? 0) + (b[i] ?? 0));
const times = (a: readonly number[], s: number): number[] => a.map((value) => value * s);

/**
 * Terms for the bow and wave sliders, in percent of the half diagonal: bow moves the corners, wave the middle of the way
 * there and leaves the corners where they are (4 r² - 4 r⁴ is 1 at r² = 1/2 and 0 at r = 1).
 */
export function handTerms({ bow, wave }: Pick<LensSettings, 'bow' | 'wave'>): number[] {
  return bow === 0 && wave === 0 ? [] : [0, (bow + 4 * wave) / 100, 0, (-4 * wave) / 100];
}

/** Relative sizes of red and blue in force, or null when neither profile, measurement nor hand asks for any. */
export function frameLateral(settings: LensSettings, terms: LensTerms | null): Lateral | null {
  const measured: Lateral | null = settings.measured ?? terms?.lateral ?? null;
  const share = settings.lateral / 100;
  const red = sum(times(measured?.red ?? [], share), [settings.lateralRed / 1000]);
  const blue = sum(times(measured?.blue ?? [], share), [settings.lateralBlue / 1000]);
  return [...red, ...blue].some((value) => value !== 0) ? { red, blue } : null;
}

/** `focal` in field units. */
export function frameLens(settings: LensSettings, terms: LensTerms | null, focal: number): LensModel {
  if (!settings.enabled) return NO_DISTORTION;
  const { solved } = settings;
  const own = solved?.projection ?? terms?.projection ?? 'rectilinear';
  const projection = settings.projection === 'profile' ? own : settings.projection;
  // Terms measured under one law say nothing under another.
  const known = projection === own ? (solved ?? terms?.distortion ?? null) : null;
  const share = settings.distortion / 100;
  const hand = handTerms(settings);
  const centre = known?.centre ?? ([0, 0] as const);
  const tangential = (known && 'tangential' in known ? known.tangential : undefined) ?? ([0, 0] as const);
  const lateral = frameLateral(settings, terms);
  if (projection !== 'rectilinear') {
    const shape = {
      projection,
      focal,
      terms: sum(known?.terms ?? [], hand),
      centre: [...centre] as [number, number]
    };
    return lensModel({ ...shape, tangential }, share, lateral);
  }
  return lensModel(
    {
      projection,
      focal,
      terms: sum(times(known?.terms ?? [], share), hand),
      centre: [...centre] as [number, number],
      tangential: [tangential[0] * share, tangential[1] * share]
    },
    1,
    lateral
  );
}

/** Exponent of r² for the midpoint slider: 50 % is r², more keeps the change nearer to the corners. */
const midpointPower = (midpoint: number): number => 2 ** ((midpoint - 50) / 25);

export function frameFalloff(settings: LensSettings, terms: LensTerms | null): Falloff | null {
  if (!settings.enabled) return null;
  const shading = terms?.shading ?? null;
  if (!shading && settings.corner === 0) return null;
  return {
    shading,
    amount: settings.falloff / 100,
    corner: settings.corner,
    power: midpointPower(settings.midpoint),
    centre: terms?.distortion?.centre ?? [0, 0]
  };
}
