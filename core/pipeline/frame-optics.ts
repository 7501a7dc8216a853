import { FULL_FRAME_HALF_DIAGONAL, fieldFocal } from '../camera/focal-length.ts';
import type { FrameFacts } from '../camera/frame-facts.ts';
import { matchProfile } from '../lens/match-profile.ts';
import { type LensProfile, type LensTerms, profileTerms } from '../lens/profile.ts';
import type { FrameOptics } from './plan.ts';

export function frameOptics(facts: FrameFacts): FrameOptics {
  const { focal, known } = fieldFocal(facts);
  return { size: facts.size, focal, focalKnown: known };
}

/** The profile a recipe asks for: the matching one, a named one, or none. */
export function chooseProfile(
  facts: Pick<FrameFacts, 'lens' | 'focalLength'>,
  wanted: string,
  profiles: readonly LensProfile[]
): LensProfile | null {
  if (wanted === 'none') return null;
  if (wanted === 'auto') return matchProfile(facts, profiles);
  return profiles.find((profile) => profile.id === wanted) ?? null;
}

export function termsFor(
  facts: Pick<FrameFacts, 'focalLength' | 'sensorHalfDiagonal'>,
  profile: LensProfile | null
): LensTerms | null {
  if (!profile) return null;
  return profileTerms(
    profile,
    facts.focalLength ?? profile.nodes[0].focalLength,
    facts.sensorHalfDiagonal ?? FULL_FRAME_HALF_DIAGONAL
  );
}
