/** Which of many found edges are straight in truth: a mixture of those that one bow explains and of anything else. */
import type { Point } from '../../math/frame-geometry.ts';
import { type LensModel, lensModel } from '../../optics/lens-model.ts';
import { INDEPENDENT, type SolveCurvesOptions, USUAL_TERMS, bends, chord, rms } from './fit-terms.ts';

/** What builders leave, as a share of an edge's length; and how far an edge that is not straight may be from it, in noises. */
const BUILT = 1.5e-4;
const ANYTHING = 60;
const STRAIGHT_SHARE = 0.5;
/** Bows that are looked at, as terms of r². */
const BOW_STEP = 0.005;
const BOWS = Array.from({ length: 81 }, (_, i) => (i - 40) * BOW_STEP);

export interface Judgement {
  /** Probability, 0…1, that the edge is straight in truth. */
  straight: number;
  /** Log of the edge's likelihood, straight or not. */
  log: number;
}

/** Expected distance of a straight edge's samples from their line, in field units, placed to `noise`. */
export const spreadOf = (points: readonly Point[], noise: number): number =>
  Math.hypot(noise, BUILT * chord(points));

/** How an edge looks with a lens undone; `spread` as by `spreadOf`. */
export function judgeStraight(
  points: readonly Point[],
  model: LensModel,
  { spread, noise }: { spread: number; noise: number }
): Judgement {
  const bend = rms(bends(points, model));
  const beyond = Math.max(0, (bend / spread) ** 2 - 1);
  const near = (STRAIGHT_SHARE / spread) * Math.exp((-INDEPENDENT / 2) * beyond);
  const other = (1 - STRAIGHT_SHARE) / (ANYTHING * noise);
  return { straight: near / (near + other), log: Math.log(near + other) };
}

/**
 * The plain bow, as a term of r², that explains edges best, `explained` being the log likelihood of all of them with a lens
 * undone; and its standard error from how the likelihood falls off at both sides.
 */
export function likeliestBow(
  explained: (model: LensModel) => number,
  shape: Pick<SolveCurvesOptions, 'projection' | 'focal'>
): { bow: number; error: number } {
  const scores = BOWS.map(
    (bow) =>
      explained(lensModel({ ...shape, terms: [0, bow], centre: [0, 0] })) - (bow / USUAL_TERMS[0]) ** 2 / 2
  );
  const top = Math.max(...scores);
  const best = scores.indexOf(top);
  const chances = scores.map((score) => Math.exp(score - top));
  const total = chances.reduce((sum, chance) => sum + chance, 0);
  const squares = chances.reduce((sum, chance, i) => sum + chance * (BOWS[i] - BOWS[best]) ** 2, 0);
  return { bow: BOWS[best], error: Math.hypot(Math.sqrt(squares / total), BOW_STEP / Math.sqrt(12)) };
}
