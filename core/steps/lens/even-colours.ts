/** The lens settings that the colour edges of a picture ask for, where nothing else is known of them, and what came of it in words. */
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';
import { fringeReading } from '../../measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../measure/lateral/measure-edges.ts';
import type { Lateral } from '../../optics/lens-model.ts';
import type { LensTerms } from '../../optics/profile.ts';
import { frameLateral } from './frame-lens.ts';
import type { LensSettings } from './step.ts';

/** What a picture's own edges say of red and blue. */
export interface ColourEdges {
  /** Of the developed picture: what is to be seen. */
  edges: readonly LateralEdge[];
  /** Sizes of red and blue that were fitted; null: the edges did not tell them. */
  lateral: Lateral | null;
}

/** Edges in the outer third that a size is judged by. */
const FEWEST = 40;
/** Pixels below which nobody sees colour at an edge, and the share of what is to be seen that has to go. */
const LEAST_SEEN = 0.15;
const LEAST_GONE = 0.25;

/** Null: colour edges stay as they are, since they are known already, or nothing better is. */
export function evenColours(
  { edges, lateral }: ColourEdges,
  { lens, terms, size }: { lens: LensSettings; terms: LensTerms | null; size: FrameSize }
): { lens: Partial<LensSettings>; said: string } | null {
  if (!lateral || frameLateral({ ...lens, lateral: 100 }, terms)) return null;
  const unit = halfDiagonal(size);
  const before = fringeReading(edges, null, unit);
  const after = fringeReading(edges, lateral, unit);
  if (!before || !after || before.edges < FEWEST || before.worst < LEAST_SEEN) return null;
  if (after.worst > (1 - LEAST_GONE) * before.worst) return null;
  return {
    lens: { measured: { red: [...lateral.red], blue: [...lateral.blue] }, lateral: 100, enabled: true },
    said: `Colour edges of ${before.worst.toFixed(2)} px are down to ${after.worst.toFixed(2)} px.`
  };
}
