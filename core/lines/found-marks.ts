/** Lines found by themselves as marks of a frame, with the angles that follow from them. */
import type { LensModel } from '../lens/lens-model.ts';
import { type Segment, segmentEnds } from './find-segments.ts';
import type { Mark, MarkKind } from './mark.ts';
import type { Angles } from './rotation.ts';
import { solveRotation } from './solve-rotation.ts';
import type { FoundLines, TrueUpItself } from './true-up-itself.ts';

/** What should become true: the verticals, or a whole front squared up as well. */
export type TrueUpMode = 'verticals' | 'front';

/** Marks shown of each kind: the longest say most, and more would hide the picture. */
const MOST_PLUMB = 24;
const MOST_LEVEL = 14;

/** Found lines as marks; those that matter for the mode. */
function foundMarks(found: FoundLines, model: LensModel, mode: TrueUpMode): Mark[] {
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

export interface TakeFoundOptions {
  /** The frame's marks so far: drawn ones stay and have their say, found ones are replaced. */
  marks: readonly Mark[];
  model: LensModel;
  /** Focal length in field units. */
  focal: number;
  mode: TrueUpMode;
}

export type TakenFound =
  { ok: true; marks: Mark[]; angles: Angles; said: string } | { ok: false; said: string };

/** What a frame becomes with the lines found on it; nothing when they are not sure enough. */
export function takeFound(found: TrueUpItself, { marks, model, focal, mode }: TakeFoundOptions): TakenFound {
  if (!found.ok) return { ok: false, said: found.reason };
  const drawn = marks.filter((mark) => !mark.found);
  const all = [...drawn, ...foundMarks(found, model, mode)];
  const front = mode === 'front' ? found.front : null;
  const said =
    mode === 'front' && !front
      ? `${found.said} No front faces the camera: only the verticals were set.`
      : found.said;
  // By themselves all found lines count, not only those that are shown.
  if (drawn.length === 0)
    return { ok: true, marks: all, angles: { ...found.angles, yaw: front?.yaw ?? 0 }, said };
  const solution = solveRotation(all, { focal, model });
  return solution.ok
    ? { ok: true, marks: all, angles: solution.angles, said }
    : { ok: false, said: solution.reason };
}
