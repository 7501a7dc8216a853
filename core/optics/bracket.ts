/** Frames of one bracket: the same view, exposed differently, one right after the other. */
import type { FrameFacts } from './frame-facts.ts';

/** Longest time between frames of one bracket, in seconds. */
const LONGEST = 60;
/** Exposures nearer than this, in EV, are the same. */
const SAME = 0.25;

/** Light that an exposure lets in, in EV at the file's ISO; null when the file does not say. */
export function exposureOf({
  exposureTime,
  aperture,
  iso
}: Pick<FrameFacts, 'exposureTime' | 'aperture' | 'iso'>): number | null {
  return exposureTime && aperture && iso ? Math.log2((exposureTime * iso) / aperture ** 2) : null;
}

interface Shot {
  taken: string | null;
  exposure: number | null;
}

/** Exif writes "2026:05:14 10:12:31". */
const secondsOf = (taken: string): number =>
  Date.parse(`${taken.slice(0, 10).replaceAll(':', '-')}T${taken.slice(11)}Z`) / 1000;

export function isOfBracket(one: Shot, other: Shot): boolean {
  if (!one.taken || !other.taken || one.exposure === null || other.exposure === null) return false;
  return (
    Math.abs(secondsOf(one.taken) - secondsOf(other.taken)) <= LONGEST &&
    Math.abs(one.exposure - other.exposure) > SAME
  );
}
