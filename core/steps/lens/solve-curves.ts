/**
 * Distortion from edges that should be straight: straight lines have to be straight (Devernay & Faugeras 2001). The terms,
 * and with enough curves the optical centre, are those that leave the samples nearest to straight lines, measured as
 * distances in the photograph itself, so that shrinking the picture gains nothing.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { type Curve, thinned } from '../../optics/curve.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { foldRadius, lensModel } from '../../optics/lens-model.ts';
import type { LensProjection } from '../../optics/lens-projection.ts';
import { NEAREST, type SolveCurvesOptions, bends, chord, fitBest, rms } from './fit-terms.ts';
import { solveFoundCurves } from './solve-found-curves.ts';

export interface CurveResidual {
  id: string;
  /** RMS distance of the samples from straight, in field units, before and after. */
  before: number;
  after: number;
}

export type CurveSolution =
  | {
      ok: true;
      projection: LensProjection;
      terms: number[];
      centre: Point;
      centreSolved: boolean;
      residuals: CurveResidual[];
      /** Curves that were left out because nothing makes them straight. */
      leftOut: string[];
      /** RMS over the curves used, in field units, before and after. */
      before: number;
      after: number;
      /** Standard error of the bow at the corner, as a share of the radius; null where too few curves tell it. */
      error: number | null;
    }
  | { ok: false; reason: string };

const MOST_SAMPLES = 80;
/** Shorter edges show no bow worth measuring. In field units. */
const SHORTEST = 0.15;
/** How far a curve's chord, taken as a line, passes from the middle of the picture. */
function offCentre(points: readonly Point[]): number {
  return Math.abs(distanceFrom(fitLine(points), [0, 0]));
}

/** Solves the distortion from curves given as the glass put them. */
export function solveCurves(curves: readonly Curve[], options: SolveCurvesOptions = {}): CurveSolution {
  const long = curves.filter(({ points }) => points.length >= 3 && chord(points) >= SHORTEST);
  if (curves.length < 2 || long.length < 2) {
    return {
      ok: false,
      reason:
        curves.length < 2
          ? 'Mark at least two edges that should be straight.'
          : 'The marked edges are too short: follow each over at least a tenth of the picture.'
    };
  }
  const telling = long.filter(({ points }) => offCentre(points) >= NEAREST);
  if (telling.length === 0) {
    return {
      ok: false,
      reason:
        'All marked edges run through the middle of the picture, where no lens bends them. Mark edges further out.'
    };
  }
  if (telling.length < 2) {
    return {
      ok: false,
      reason:
        'Only one marked edge lies off the middle of the picture. Mark another one near a side or a corner.'
    };
  }
  const judged = options.robust ? solveFoundCurves(long, options) : null;
  if (judged && !judged.ok) return judged;
  const used = judged ? judged.used : long;
  const found = judged
    ? judged.found
    : fitBest(
        used.map(({ points }) => thinned(points, MOST_SAMPLES)),
        options
      );
  const projection = options.projection ?? 'rectilinear';
  const radius = foldRadius({ terms: found.terms });
  if (radius !== null) {
    return {
      ok: false,
      reason: `The edges contradict each other: the lens they ask for would fold back at ${(radius * 100).toFixed(0)} % of the way to the corner. Remove the edge that is not straight in truth.`
    };
  }
  const shape = { projection, focal: options.focal ?? 1 };
  const before = lensModel(shape);
  const after = lensModel({ ...shape, terms: found.terms, centre: found.centre });
  const residuals = curves
    .filter(({ points }) => points.length >= 3)
    .map(({ id, points }) => ({
      id,
      before: rms(bends(thinned(points, MOST_SAMPLES), before)),
      after: rms(bends(thinned(points, MOST_SAMPLES), after))
    }));
  const names = new Set(used.map((curve) => curve.id));
  const counted = residuals.filter(({ id }) => names.has(id));
  return {
    ok: true,
    projection,
    terms: found.terms,
    centre: found.centre,
    centreSolved: found.centreSolved,
    residuals,
    leftOut: curves.filter(({ id }) => !names.has(id)).map(({ id }) => id),
    before: rms(counted.map((r) => r.before)),
    after: rms(counted.map((r) => r.after)),
    error: judged?.error ?? null
  };
}
