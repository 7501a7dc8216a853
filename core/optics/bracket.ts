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
export const secondsOf = (taken: string): number =>
  Date.parse(`${taken.slice(0, 10).replaceAll(':', '-')}T${taken.slice(11)}Z`) / 1000;

export function isOfBracket(one: Shot, other: Shot): boolean {
  if (!one.taken || !other.taken || one.exposure === null || other.exposure === null) return false;
  return (
    Math.abs(secondsOf(one.taken) - secondsOf(other.taken)) <= LONGEST &&
    Math.abs(one.exposure - other.exposure) > SAME
  );
}

/** What tells whether shots are of one view. */
export type Taken = Pick<
  FrameFacts,
  'exposureTime' | 'aperture' | 'iso' | 'taken' | 'lens' | 'focalLength' | 'size'
>;

const sameView = (a: Taken, b: Taken): boolean =>
  a.lens === b.lens &&
  a.focalLength === b.focalLength &&
  a.size.width === b.size.width &&
  a.size.height === b.size.height;

/** Brackets among shots, each in the order in which it was taken: two shots or more. */
export function bracketsOf<S>(shots: readonly S[], factsOf: (shot: S) => Taken | null): S[][] {
  const dated = shots
    .flatMap((shot) => {
      const facts = factsOf(shot);
      return facts?.taken ? [{ shot, facts, own: { taken: facts.taken, exposure: exposureOf(facts) } }] : [];
    })
    .sort((a, b) => secondsOf(a.own.taken) - secondsOf(b.own.taken));
  const groups: (typeof dated)[] = [];
  for (const one of dated) {
    const group = groups.at(-1);
    // Each exposure stands once in a bracket: the same again begins the next.
    const joins = group?.every(
      (other) => isOfBracket(one.own, other.own) && sameView(one.facts, other.facts)
    );
    if (joins) group!.push(one);
    else groups.push([one]);
  }
  return groups.filter(({ length }) => length > 1).map((group) => group.map(({ shot }) => shot));
}
