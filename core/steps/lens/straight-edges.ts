/** Edges of a picture that are straight in truth, with the bow that a lens known or unknown still leaves in them. */
import type { Point } from '../../math/frame-geometry.ts';
import { type Curve, thinned } from '../../optics/curve.ts';
import { type LensModel, lensModel, undistort } from '../../optics/lens-model.ts';
import { bends, rms } from './fit-terms.ts';
import { type Judgement, judgeStraight, likeliestBow, spreadOf } from './judge-straight.ts';

export interface StraightEdges {
  /** As they were given. */
  curves: Curve[];
  /** By how much the bow in them may be told wrongly: RMS over the edges in field units. */
  error: number;
}

const SAMPLES = 40;
/** Edges that one bow has to explain. */
const FEWEST = 5;
/** A bow at the corner less certain than this, as a share of the radius, tells nothing of the edges. */
const MOST_ERROR = 0.006;

/**
 * Tells edges that are straight in truth from others by the one bow that explains most of them beyond what `model` undoes;
 * null where too few agree on one. `noise`: how well samples are placed, in field units.
 */
export function straightEdges(
  curves: readonly Curve[],
  { model, noise }: { model: LensModel; noise: number }
): StraightEdges | null {
  const rough = curves.map(({ points }) => thinned(points, SAMPLES).map((point) => undistort(point, model)));
  const spreads = rough.map((points) => spreadOf(points, noise));
  const judge = (i: number, lens: LensModel): Judgement =>
    judgeStraight(rough[i], lens, { spread: spreads[i], noise });
  const { bow, error } = likeliestBow((lens) => rough.reduce((sum, _, i) => sum + judge(i, lens).log, 0), {});
  if (error > MOST_ERROR) return null;
  const bowed = lensModel({ terms: [0, bow] });
  const straight = curves.flatMap((_, i) => (judge(i, bowed).straight > 0.5 ? [i] : []));
  if (straight.length < FEWEST) return null;
  const off = lensModel({ terms: [0, error] });
  const bend = (i: number): number => rms(bends(chordOf(rough[i]), off));
  return { curves: straight.map((i) => curves[i]), error: rms(straight.map(bend)) };
}

/** Places along the chord of an edge. */
function chordOf(points: readonly Point[]): Point[] {
  const [a, b] = [points[0], points[points.length - 1]];
  return Array.from({ length: 12 }, (_, i) => [
    a[0] + ((b[0] - a[0]) * i) / 11,
    a[1] + ((b[1] - a[1]) * i) / 11
  ]);
}
