import type { LensProfile } from './profile.ts';

export interface LensFacts {
  /** Lens text of the file, if any. */
  lens?: string | null;
  /** Focal length in millimetres, if any. */
  focalLength?: number | null;
}

/** Lens text without case, punctuation and the usual filler, so that spellings of one lens agree. */
export function normaliseLensText(text: string): string {
  return text
    .toLowerCase()
    .replace(/f\s*\/?\s*(\d)/g, 'f$1')
    .replace(/(\d)\s*mm\b/g, '$1')
    .replace(/[^a-z0-9.]+/g, ' ')
    .trim();
}

/** Focal lengths this far outside a profile's range still count as rounding in the file. */
const FOCAL_TOLERANCE = 0.04;

/**
 * The profile that fits what a file says of its lens, or null. The lens text has to agree, with or without
 * the maker in front, and the focal length has to lie in the profile's range.
 */
export function matchProfile(facts: LensFacts, profiles: readonly LensProfile[]): LensProfile | null {
  if (!facts.lens || !facts.focalLength) return null;
  const wanted = normaliseLensText(facts.lens);
  const focal = facts.focalLength;
  return (
    profiles.find((profile) => {
      const lens = normaliseLensText(profile.lens);
      const named = [lens, normaliseLensText(`${profile.maker} ${profile.lens}`)];
      const focals = profile.nodes.map((node) => node.focalLength);
      const near = Math.min(...focals) * (1 - FOCAL_TOLERANCE);
      const far = Math.max(...focals) * (1 + FOCAL_TOLERANCE);
      return named.includes(wanted) && focal >= near && focal <= far;
    }) ?? null
  );
}
