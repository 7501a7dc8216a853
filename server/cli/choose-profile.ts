import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type LensProfile, focalRange } from '../../core/optics/profile.ts';
import { MATCHES, rankProfiles } from '../../core/optics/rank-profiles.ts';
import type { LensChoice } from '../../core/steps/lens/frame-optics.ts';

/** The choice that the app's catalogue would give, from a list. */
export function chooseFrom(facts: FrameFacts, known: readonly LensProfile[]): LensChoice {
  const summaries = known.map((profile) => ({
    ...profile,
    mounts: profile.mounts ?? [],
    bodies: profile.bodies ?? [],
    focals: focalRange(profile)
  }));
  const [best] = rankProfiles(facts, summaries);
  const auto = best && best.score >= MATCHES ? known.find((profile) => profile.id === best.id) : null;
  return { auto: auto ?? null, known };
}
