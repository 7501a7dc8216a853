/** Lines found by themselves as marks of a frame, with the angles that follow from them. */
import type { LensModel } from '../../optics/lens-model.ts';
import { type Segment, segmentEnds } from './find-segments.ts';
import { type Mark, aligns } from './mark.ts';
import type { Angles } from '../../math/rotation.ts';
import { type TrueUpMode, solveRotation } from './solve-rotation.ts';
import type { Confidence, TrueUpItself } from './true-up-itself.ts';

/** Marks shown of each group: the longest say most, and more would hide the picture. */
const MOST_PLUMB = 24;
const MOST_LEVEL = 12;
const MOST_OTHER = 10;
const MOST_UNSURE = 40;
/** A direction turned less than this, in degrees, is taken for one across the picture. */
const NEARLY_FRONTAL = 2;

/** Found lines as marks; those not sure enough all count for nothing until they are taken in. What the mode makes true counts, level lines that run away are shown as such, the rest is nothing. */
export function foundMarks(found: TrueUpItself, model: LensModel, mode: TrueUpMode): Mark[] {
  const marks = (
    segments: readonly Segment[],
    group: string,
    most: number,
    look: Pick<Mark, 'kind' | 'recedes'>
  ): Mark[] =>
    [...segments]
      .sort((p, q) => q.length - p.length)
      .slice(0, most)
      .map((segment, i) => {
        const [a, b] = segmentEnds(segment, model);
        return { id: `found-${group}-${i + 1}`, ...look, a, b, found: true as const };
      });
  if (!found.ok) return marks(found.other, 'other', MOST_UNSURE, { kind: 'none' });
  const front = mode === 'front' && found.front ? new Set(found.front.lines) : null;
  const sides = found.sides.flatMap(({ lines, azimuth }, i) => {
    const recedes: Mark['recedes'] = azimuth > 0 ? 'right' : 'left';
    const across = lines.filter((line) => (front ? front.has(line) : Math.abs(azimuth) < NEARLY_FRONTAL));
    const away = lines.filter((line) => !across.includes(line));
    return [
      ...marks(across, `level-${i + 1}`, MOST_LEVEL, { kind: 'level' }),
      ...marks(away, `${recedes}-${i + 1}`, MOST_LEVEL, { kind: 'level', recedes })
    ];
  });
  return [
    ...marks(found.plumb, 'plumb', MOST_PLUMB, { kind: 'plumb' }),
    ...sides,
    ...marks(found.other, 'other', MOST_OTHER, { kind: 'none' })
  ];
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
  | {
      ok: true;
      marks: Mark[];
      angles: Angles;
      solvedFocal: number | null;
      confidence: Confidence;
      said: string;
    }
  | { ok: false; said: string };

/** What a frame becomes with the lines found on it; nothing when they are not sure enough. */
export function takeFound(found: TrueUpItself, { marks, model, focal, mode }: TakeFoundOptions): TakenFound {
  if (!found.ok) return { ok: false, said: found.reason };
  const { solvedFocal, confidence } = found;
  const drawn = marks.filter((mark) => !mark.found);
  const all = [...drawn, ...foundMarks(found, model, mode)];
  const front = mode === 'front' ? found.front : null;
  const said =
    mode === 'front' && !front
      ? `${found.said} No front faces the camera: only the verticals were set.`
      : found.said;
  // By themselves all found lines count, not only those that are shown.
  if (!drawn.some(aligns) && mode !== 'both') {
    const { roll, pitch } = found.angles;
    return {
      ok: true,
      marks: all,
      angles: { roll, pitch: mode === 'level' ? 0 : pitch, yaw: front?.yaw ?? 0 },
      solvedFocal,
      confidence,
      said
    };
  }
  // The roll that plumb lines name levels the horizon, too.
  const asked =
    mode === 'level' && !all.some((mark) => aligns(mark) && mark.kind === 'level') ? 'verticals' : mode;
  const solution = solveRotation(all, { focal: solvedFocal ?? focal, model, mode: asked });
  if (!solution.ok) return { ok: false, said: solution.reason };
  const { angles } = solution;
  return {
    ok: true,
    marks: all,
    angles: mode === 'level' ? { ...angles, pitch: 0 } : angles,
    solvedFocal,
    confidence,
    said
  };
}
