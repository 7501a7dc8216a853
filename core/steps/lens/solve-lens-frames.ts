/**
 * One lens from the edges of several photographs taken with it. Edges that one lens makes straight are told from others over
 * all frames together; each frame counts by how well its own edges are placed; frames are held out in turn to see whether
 * the rest foretells them, and those that say another lens are named.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { jackknife } from '../../math/jackknife.ts';
import { type Curve, averaged } from '../../optics/curve.ts';
import { type LensModel, foldRadius, lensModel } from '../../optics/lens-model.ts';
import {
  type BestFit,
  type Fit,
  INDEPENDENT,
  NOISE,
  type SolveCurvesOptions,
  bends,
  chord,
  fit,
  fitBest,
  rms
} from './fit-terms.ts';
import { type Judgement, judgeStraight, likeliestBow, spreadOf } from './judge-straight.ts';

/** The edges of one photograph, as the glass put them. */
export interface FrameCurves {
  id: string;
  curves: readonly Curve[];
  /** Expected error of its samples, in field units (default: that of all). */
  noise?: number;
}

export interface FrameResidual {
  id: string;
  /** Edges that counted, of those that were found. */
  used: number;
  found: number;
  /** RMS distance from straight of those that counted, in field units, before and after. */
  before: number;
  after: number;
  /** It says another lens, and was left out. */
  other: boolean;
}

export type LensOfFrames =
  | {
      ok: true;
      terms: number[];
      centre: Point;
      centreSolved: boolean;
      frames: FrameResidual[];
      before: number;
      after: number;
      /** Standard error of the bow at the corner, as a share of the radius. */
      error: number;
      /** How far out the edges reach, as a share of the way to the corners. */
      reach: number;
    }
  | { ok: false; reason: string; frames: FrameResidual[] };

/** Samples taken of each edge. */
const SAMPLES = 16;
/** Shorter edges, in field units, show no bow worth measuring. */
const SHORTEST = 0.15;
const FEWEST_EDGES = 8;
const ROUNDS = 3;
const PARTS = 4;
/** A frame says another lens where its edges like a bow of their own so much more, in nats, and it is one so far off. */
const OTHER_GAIN = 12;
const OTHER_BOW = 0.008;
/** Where more frames than this share say another lens, none is told. */
const MOST_OTHERS = 0.25;
/** Nats by which held-out frames have to be explained better than untouched. */
const LEAST_GAIN = 8;
/** A bow at the corner less certain than this, as a share of the radius and of itself, is none to undo. */
const MOST_ERROR = { least: 0.006, share: 0.15 };

interface Edge {
  frame: number;
  points: Point[];
  spread: number;
}

export function solveLensOfFrames(
  frames: readonly FrameCurves[],
  options: SolveCurvesOptions = {}
): LensOfFrames {
  const noise = options.noise ?? NOISE;
  const shape = { projection: options.projection, focal: options.focal };
  const modelOf = ({ terms, centre }: Pick<Fit, 'terms' | 'centre'>): LensModel =>
    lensModel({ ...shape, terms, centre });
  const plainBow = (bow: number): LensModel => modelOf({ terms: [0, bow], centre: [0, 0] });
  const neutral = plainBow(0);
  /** Noise of each frame's own edges, as told, and as it shows. */
  const told = frames.map((frame) => frame.noise ?? noise);
  const noises = [...told];
  const edges = frames.flatMap(({ curves }, frame) =>
    curves.flatMap(({ points }): Edge[] => {
      if (points.length < 3 || chord(points) < SHORTEST) return [];
      const some = averaged(points, SAMPLES);
      return [{ frame, points: some, spread: spreadOf(some, noises[frame]) }];
    })
  );
  const judge = (edge: Edge, model: LensModel): Judgement =>
    judgeStraight(edge.points, model, { spread: edge.spread, noise: told[edge.frame] });
  const explained = (of: readonly Edge[], model: LensModel): number =>
    of.reduce((sum, edge) => sum + judge(edge, model).log, 0);
  const straightWith = (of: readonly Edge[], model: LensModel): Edge[] =>
    of.filter((edge) => judge(edge, model).straight > 0.5);
  const fitTo = (of: readonly Edge[], best: BestFit | null): BestFit => {
    const weighed = {
      ...options,
      robust: true,
      // Samples that lie close together are not independent.
      noises: of.map(({ spread }) => spread * Math.sqrt(SAMPLES / INDEPENDENT))
    };
    const points = of.map((edge) => edge.points);
    if (!best) return fitBest(points, weighed);
    const { powers, centreSolved } = best;
    return { ...fit(points, powers, centreSolved, weighed, best), powers, centreSolved };
  };
  const residualsOf = (
    model: LensModel,
    used: readonly Edge[],
    others: ReadonlySet<number>
  ): FrameResidual[] =>
    frames.map(({ id, curves }, frame) => {
      const own = used.filter((edge) => edge.frame === frame);
      const off = (by: LensModel): number => rms(own.flatMap(({ points }) => bends(points, by)));
      return {
        id,
        used: own.length,
        found: curves.length,
        before: off(neutral),
        after: off(model),
        other: others.has(frame)
      };
    });
  const refused = (reason: string, others: ReadonlySet<number> = new Set()): LensOfFrames => ({
    ok: false,
    reason,
    frames: residualsOf(neutral, [], others)
  });
  const tooFew =
    'The frames show too few long edges to tell their lens. Choose more frames, with straight edges near their borders.';
  if (edges.length < FEWEST_EDGES) return refused(tooFew);

  const others = new Set<number>();
  let candidates = edges;
  let used: Edge[] = [];
  let found: BestFit | null = null;
  let { bow } = likeliestBow((model) => explained(candidates, model), shape);
  for (let round = 0; round < ROUNDS; round++) {
    used = straightWith(candidates, found ? modelOf(found) : plainBow(bow));
    if (used.length < FEWEST_EDGES) return refused(tooFew, others);
    found = fitTo(used, round < ROUNDS - 1 ? null : found);
    if (foldRadius({ terms: found.terms }) !== null) return refused(tooFew, others);
    const model = modelOf(found);
    // As well as each frame's own edges are placed: sharp ones tell more.
    frames.forEach((_, frame) => {
      const off = used
        .filter((edge) => edge.frame === frame)
        .map(({ points }) => rms(bends(points, model)))
        .sort((a, b) => a - b);
      if (off.length > 2)
        noises[frame] = Math.min(told[frame] * 2, Math.max(told[frame] / 4, 1.2 * off[off.length >> 1]));
    });
    for (const edge of edges) edge.spread = spreadOf(edge.points, noises[edge.frame]);
    if (round > 0) continue;
    // Frames that say another lens, each against what all say together.
    frames.forEach((_, frame) => {
      const own = edges.filter((edge) => edge.frame === frame);
      if (own.length < 4) return;
      const alone = likeliestBow((by) => explained(own, by), shape);
      const together = found!.terms.reduce((sum, term) => sum + term, 0);
      const gain = explained(own, plainBow(alone.bow)) - explained(own, model);
      if (gain > OTHER_GAIN && Math.abs(alone.bow - together) > OTHER_BOW) others.add(frame);
    });
    if (others.size > MOST_OTHERS * frames.length)
      return refused(
        'These frames do not agree on one lens. Choose frames that were taken with the same lens at the same focal length.',
        others
      );
    candidates = edges.filter(({ frame }) => !others.has(frame));
    if (others.size === 0) continue;
    ({ bow } = likeliestBow((by) => explained(candidates, by), shape));
    found = null;
  }
  if (!found) return refused(tooFew, others);

  // Frames held out have to come out straighter by what the others say; few frames, by their sectors.
  const partOf = (edge: Edge): number => {
    if (frames.length >= PARTS) return edge.frame % PARTS;
    const [x, y] = edge.points[edge.points.length >> 1];
    return Math.floor(((Math.atan2(y, x) + Math.PI) / (2 * Math.PI)) * PARTS) % PARTS;
  };
  let gain = 0;
  const corners: number[] = [];
  for (let part = 0; part < PARTS; part++) {
    const rest = used.filter((edge) => partOf(edge) !== part);
    if (rest.length < 3) return refused(tooFew, others);
    const without = fitTo(rest, found);
    corners.push(without.terms.reduce((sum, term) => sum + term, 0));
    const model = modelOf(without);
    for (const edge of candidates.filter((each) => partOf(each) === part))
      gain += Math.max(-4, Math.min(4, judge(edge, model).log - judge(edge, neutral).log));
  }
  const { mean, error } = jackknife(corners);
  if (gain < LEAST_GAIN)
    return refused(
      'The edges of these frames are straight already, or tell no bow of the lens: nothing was changed.',
      others
    );
  if (error > Math.max(MOST_ERROR.least, MOST_ERROR.share * Math.abs(mean))) return refused(tooFew, others);
  const model = modelOf(found);
  const residuals = residualsOf(model, used, others);
  const over = (key: 'before' | 'after'): number =>
    Math.sqrt(residuals.reduce((sum, frame) => sum + frame.used * frame[key] ** 2, 0) / used.length);
  return {
    ok: true,
    terms: found.terms,
    centre: found.centre,
    centreSolved: found.centreSolved,
    frames: residuals,
    before: over('before'),
    after: over('after'),
    error,
    reach: Math.min(1, Math.max(...used.flatMap(({ points }) => points.map(([x, y]) => Math.hypot(x, y)))))
  };
}
