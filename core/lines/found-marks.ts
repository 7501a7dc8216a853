import type { LensModel } from '../lens/lens-model.ts';
import { type Segment, segmentEnds } from './find-segments.ts';
import type { Mark, MarkKind } from './mark.ts';
import type { FoundLines } from './true-up-itself.ts';

/** What should become true: the verticals, or a whole front squared up as well. */
export type TrueUpMode = 'verticals' | 'front';

/** Marks shown of each kind: the longest say most, and more would hide the picture. */
const MOST_PLUMB = 24;
const MOST_LEVEL = 14;

/** Found lines as marks; those that matter for the mode. */
export function foundMarks(found: FoundLines, model: LensModel, mode: TrueUpMode): Mark[] {
  const marks = (segments: readonly Segment[], kind: MarkKind, most: number): Mark[] =>
    [...segments]
      .sort((p, q) => q.length - p.length)
      .slice(0, most)
      .map((segment, i) => {
        const [a, b] = segmentEnds(segment, model);
        return { id: `found-${kind}-${i + 1}`, kind, a, b, found: true as const };
      });
  const level = mode === 'front' && found.front ? found.front.lines : [];
  return [...marks(found.plumb, 'plumb', MOST_PLUMB), ...marks(level, 'level', MOST_LEVEL)];
}
