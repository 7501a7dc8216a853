/** What is known of a frame's optics: from its file, its profile and its recipe together. */
import { FULL_FRAME_HALF_DIAGONAL, fieldFocal } from '../../optics/focal-length.ts';
import type { FrameFacts } from '../../optics/frame-facts.ts';
import { type LensProfile, type LensTerms, focalRange, profileTerms } from '../../optics/profile.ts';
import type { LensSettings } from './step.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';

/** Where the focal length in force comes from; `assumed` when nothing tells it. */
export type FocalSource = 'file' | 'profile' | 'hand' | 'solved' | 'assumed';

export interface FrameOptics {
  size: FrameSize;
  /** Focal length in field units. */
  focal: number;
  focalFrom: FocalSource;
}

/** The profiles at hand for a frame. */
export interface LensChoice {
  /** The profile that applies by itself, if any. */
  auto: LensProfile | null;
  /** Others that a recipe may name. */
  known: readonly LensProfile[];
}

export const NO_CHOICE: LensChoice = { auto: null, known: [] };

/** Id under which a file's own corrections are offered. */
export const FILE_PROFILE = 'file';

/** The profile a recipe asks for: the one that applies by itself, the file's own, a named one, or none. */
export function chooseProfile(
  facts: Pick<FrameFacts, 'corrections'>,
  wanted: string,
  choice: LensChoice
): LensProfile | null {
  if (wanted === 'none') return null;
  if (wanted === 'auto') return choice.auto ?? facts.corrections;
  if (wanted === FILE_PROFILE) return facts.corrections;
  return choice.known.find((profile) => profile.id === wanted) ?? null;
}

/** Half the diagonal of the sensor in millimetres: from the file, or from its two focal lengths. */
function sensorOf(facts: FrameFacts): number | null {
  if (facts.sensorHalfDiagonal) return facts.sensorHalfDiagonal;
  const { focalLength, focalLength35 } = facts;
  return focalLength && focalLength35 ? (FULL_FRAME_HALF_DIAGONAL * focalLength) / focalLength35 : null;
}

export interface FrameSetup {
  optics: FrameOptics;
  profile: LensProfile | null;
  terms: LensTerms | null;
}

/**
 * Optics and profile figures of a frame. A focal length set by hand comes before the file's; a lens without zoom tells it
 * when neither does.
 */
export function setupFrame(facts: FrameFacts, lens: LensSettings, choice: LensChoice): FrameSetup {
  const profile = chooseProfile(facts, lens.profile, choice);
  const range = profile && focalRange(profile);
  const fixed = range && range[0] === range[1] ? range[0] : null;
  const focalLength = lens.focalLength ?? facts.focalLength ?? fixed;
  const sensor = sensorOf(facts);
  const terms =
    profile &&
    profileTerms(profile, {
      focalLength,
      aperture: facts.aperture,
      distance: facts.distance,
      sensorHalfDiagonal: sensor ?? FULL_FRAME_HALF_DIAGONAL
    });
  const real = lens.focalLength === null ? terms?.realFocalLength : null;
  const solved = lens.focalLength === null ? lens.solvedFocal : null;
  const { focal, known } = fieldFocal({
    focalLength: real ?? focalLength,
    // The file's 36 x 24 mm figure says nothing of a focal length set by hand.
    focalLength35: lens.focalLength === null ? facts.focalLength35 : null,
    sensorHalfDiagonal: sensor
  });
  const focalFrom = solved
    ? 'solved'
    : lens.focalLength !== null && known
      ? 'hand'
      : !known
        ? 'assumed'
        : real || (facts.focalLength === null && facts.focalLength35 === null)
          ? 'profile'
          : 'file';
  return { optics: { size: facts.size, focal: solved ?? focal, focalFrom }, profile, terms };
}
