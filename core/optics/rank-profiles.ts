/**
 * Which profiles fit what a file says of its lens. Texts differ in spelling, order and filler, so they are compared by
 * their words and, apart from those, by the focal lengths and apertures that they name, which must not disagree.
 */
import { FOCAL_TOLERANCE } from './profile.ts';

/** What is needed of a profile to rank it. */
export interface ProfileSummary {
  id: string;
  maker: string;
  lens: string;
  mounts: readonly string[];
  bodies: readonly string[];
  sensorHalfDiagonal: number;
  /** Shortest and longest focal length, where the profile depends on it. */
  focals: readonly [number, number] | null;
}

export interface LensFacts {
  make?: string | null;
  model?: string | null;
  lensMaker?: string | null;
  lens?: string | null;
  focalLength?: number | null;
  aperture?: number | null;
  sensorHalfDiagonal?: number | null;
}

export interface RankedProfile {
  id: string;
  /** 0…100; at MATCHES and above the profile is applied by itself. */
  score: number;
  /** What speaks against the profile, in words. */
  against: string[];
}

export const MATCHES = 70;

interface LensName {
  words: Set<string>;
  /** Focal lengths and f-numbers named, each as one text. */
  focals: string | null;
  apertures: string | null;
}

/** Words that lens names carry without telling one lens from another. */
const FILLER = new Set(['mm', 'lens', 'the', 'for', 'f']);

/** A lens text taken apart. */
export function readLensName(text: string): LensName {
  let rest = text
    .toLowerCase()
    .replace(/[–—−]/g, '-')
    .replace(/(\d),(\d)/g, '$1.$2');
  const number = (value: string): string => String(Number(value));
  let apertures: string | null = null;
  rest = rest.replace(
    /(?:\bf\s*\/?\s*|\b1\s*:\s*)(\d+(?:\.\d+)?)(?:\s*-\s*(?:f\s*\/?\s*)?(\d+(?:\.\d+)?))?/g,
    (_, a, b) => {
      apertures ??= b ? `${number(a)}-${number(b)}` : number(a);
      return ' ';
    }
  );
  let focals: string | null = null;
  rest = rest.replace(/\b(\d+(?:\.\d+)?)(?:\s*(?:mm)?\s*-\s*(\d+(?:\.\d+)?))?\s*mm\b/g, (_, a, b) => {
    focals ??= b ? `${number(a)}-${number(b)}` : number(a);
    return ' ';
  });
  if (focals === null) {
    rest = rest.replace(/\b(\d+(?:\.\d+)?)\s*-\s*(\d+(?:\.\d+)?)\b/, (_, a, b) => {
      focals = `${number(a)}-${number(b)}`;
      return ' ';
    });
  }
  const words = rest.split(/[^a-z0-9.]+/).filter((word) => word !== '' && !FILLER.has(word));
  return { words: new Set(words), focals, apertures };
}

const setOf = (text: string | null | undefined): Set<string> => readLensName(text ?? '').words;

/** Share of the words of the two that they have in common (Dice 1945); 1 when neither has any. */
function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  if (a.size + b.size === 0) return 1;
  let common = 0;
  for (const word of a) if (b.has(word)) common++;
  return (2 * common) / (a.size + b.size);
}

const without = (words: ReadonlySet<string>, those: ReadonlySet<string>): Set<string> =>
  new Set([...words].filter((word) => !those.has(word)));

const plain = (text: string | null | undefined): string =>
  (text ?? '').toLowerCase().replace(/[^a-z0-9]+/g, '');

function rankOne(facts: LensFacts, profile: ProfileSummary, mounts: readonly string[]): RankedProfile | null {
  const against: string[] = [];
  let score: number;
  const builtIn =
    profile.bodies.length > 0 &&
    profile.bodies.some(
      (body) => plain(body) === plain(facts.model) || plain(body) === plain(`${facts.make}${facts.model}`)
    );
  if (builtIn) score = 90;
  else if (profile.bodies.length > 0) return null;
  else if (facts.lens) {
    const wanted = readLensName(facts.lens);
    const own = readLensName(profile.lens);
    if (wanted.focals !== null && own.focals !== null && wanted.focals !== own.focals) return null;
    if (wanted.apertures !== null && own.apertures !== null && wanted.apertures !== own.apertures)
      return null;
    const makers = new Set([...setOf(profile.maker), ...setOf(facts.lensMaker)]);
    const named = likeness(without(wanted.words, makers), without(own.words, makers));
    const known = (wanted.focals !== null ? 1 : 0) + (wanted.apertures !== null ? 1 : 0);
    const agree =
      (wanted.focals !== null && wanted.focals === own.focals ? 1 : 0) +
      (wanted.apertures !== null && wanted.apertures === own.apertures ? 1 : 0);
    // Words alone can make a name; figures alone cannot tell two makers' lenses apart.
    score = known > 0 ? 45 * named + (40 * agree) / known : 85 * named;
    if (agree < known) against.push('its name leaves out part of what the file says');
    const maker = plain(profile.maker);
    const saysMaker =
      plain(facts.lensMaker) || plain([...wanted.words].find((w) => setOf(profile.maker).has(w)));
    if (saysMaker === '')
      score += plain(facts.make).includes(maker) || maker.includes(plain(facts.make)) ? 10 : 0;
    else if (saysMaker.includes(maker) || maker.includes(saysMaker)) score += 15;
    else {
      score -= 30;
      against.push('another maker');
    }
    if (named < 0.5) against.push('its name differs');
  } else {
    // The file names no lens: what is left are the maker of the body and the focal length.
    if (!facts.focalLength || !profile.focals) return null;
    score = plain(profile.maker) !== '' && plain(facts.make).includes(plain(profile.maker)) ? 40 : 25;
    against.push('the file names no lens');
  }
  if (facts.focalLength && profile.focals) {
    const [near, far] = profile.focals;
    if (facts.focalLength < near * (1 - FOCAL_TOLERANCE) || facts.focalLength > far * (1 + FOCAL_TOLERANCE)) {
      if (!facts.lens && !builtIn) return null;
      score -= 35;
      against.push(`it knows ${near === far ? near : `${near}–${far}`} mm only`);
    }
  }
  if (facts.sensorHalfDiagonal) {
    const ratio = profile.sensorHalfDiagonal / facts.sensorHalfDiagonal;
    if (ratio < 0.96) {
      score -= 25;
      against.push('measured on a smaller sensor');
    } else score -= Math.min(5, (ratio - 1) * 5);
  }
  if (
    mounts.length > 0 &&
    profile.mounts.length > 0 &&
    !profile.mounts.some((mount) => mounts.includes(mount))
  ) {
    score -= 12;
    against.push('made for another mount');
  }
  return score <= 0 ? null : { id: profile.id, score: Math.min(100, Math.round(score)), against };
}

/** Profiles that could be meant, best first. `mounts` are those that the body takes, where they are known. */
export function rankProfiles(
  facts: LensFacts,
  profiles: readonly ProfileSummary[],
  mounts: readonly string[] = [],
  most = 12
): RankedProfile[] {
  return profiles
    .flatMap((profile) => rankOne(facts, profile, mounts) ?? [])
    .sort((a, b) => b.score - a.score || a.id.localeCompare(b.id))
    .slice(0, most);
}
