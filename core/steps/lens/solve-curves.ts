/**
 * Distortion from edges that should be straight: straight lines have to be straight (Devernay & Faugeras 2001). The terms,
 * and with enough curves the optical centre, are those that leave the samples nearest to straight lines, measured as
 * distances in the photograph itself, so that shrinking the picture gains nothing.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { leastSquares } from '../../math/levenberg-marquardt.ts';
import { type Curve, thinned } from '../../optics/curve.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { type LensModel, foldRadius, lensModel, undistort } from '../../optics/lens-model.ts';
import type { LensProjection } from '../../optics/lens-projection.ts';

export interface SolveCurvesOptions {
  projection?: LensProjection;
  /** Focal length in field units; of use for fisheyes only. */
  focal?: number;
  /** Expected error of a sample, in field units (default: 0.3 px of a 24 MP frame). */
  noise?: number;
  /** Leave out curves that no lens of this kind makes straight, such as edges that are curved in truth. */
  robust?: boolean;
}

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
    }
  | { ok: false; reason: string };

const NOISE = 0.3 / 3606;
/** Shorter edges show no bow worth measuring; edges nearer to the centre have none. In field units. */
const SHORTEST = 0.15;
const NEAREST = 0.12;
/** Samples taken of each curve; fewer while good curves are told from bad ones, which takes many fits. */
const MOST_SAMPLES = 80;
const ROUGH_SAMPLES = 40;
/** Curves needed for the centre to be solved too: in two directions, two of each on either side. */
const CURVES_FOR_CENTRE = 5;

/** Distances of samples from straight, in field units as photographed. */
function bends(points: readonly Point[], model: LensModel): number[] {
  const straight = points.map((point) => undistort(point, model));
  const line = fitLine(straight);
  return straight.map((u, i) => {
    const du = Math.hypot(u[0] - model.centre[0], u[1] - model.centre[1]);
    const dd = Math.hypot(points[i][0] - model.centre[0], points[i][1] - model.centre[1]);
    return distanceFrom(line, u) * (du > 1e-9 ? dd / du : 1);
  });
}

const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

const chord = (points: readonly Point[]): number =>
  Math.hypot(points[0][0] - points[points.length - 1][0], points[0][1] - points[points.length - 1][1]);

/** How far a curve's chord, taken as a line, passes from the middle of the picture. */
function offCentre(points: readonly Point[]): number {
  return Math.abs(distanceFrom(fitLine(points), [0, 0]));
}

interface Fit {
  terms: number[];
  centre: Point;
  cost: number;
}

function fit(
  curves: readonly Point[][],
  powers: number,
  withCentre: boolean,
  { projection = 'rectilinear', focal = 1, noise = NOISE }: SolveCurvesOptions,
  start: Fit | null
): Fit {
  const count = curves.reduce((sum, points) => sum + points.length, 0);
  const read = (p: readonly number[]): { terms: number[]; centre: Point } => ({
    terms: [0, p[0], 0, powers > 1 ? p[1] : 0, 0, powers > 2 ? p[2] : 0],
    centre: withCentre ? [p[powers], p[powers + 1]] : [0, 0]
  });
  const residuals = (p: readonly number[]): Float64Array => {
    const { terms, centre } = read(p);
    const model = lensModel({ projection, focal, terms, centre });
    const out = new Float64Array(count + p.length);
    let at = 0;
    for (const points of curves) for (const bend of bends(points, model)) out[at++] = bend / noise;
    // A whisper of preference for small figures: it decides only what the curves leave open.
    for (let i = 0; i < powers; i++) out[at++] = p[i] * 0.05;
    if (withCentre) for (let i = 0; i < 2; i++) out[at++] = p[powers + i] / 0.02;
    return out;
  };
  const from = [...Array.from({ length: powers }, (_, i) => start?.terms[2 * i + 1] ?? 0)];
  if (withCentre) from.push(...(start?.centre ?? [0, 0]));
  const { parameters, cost } = leastSquares(residuals, from, { step: 1e-5, rounds: 40 });
  return { ...read(parameters), cost };
}

/** How much better a fuller model must explain the samples, which lie close together and are not independent. */
const WORTH = 14;

/** The fullest model that the curves support: what is added has to explain clearly more than noise (an F-test). */
function fitBest(curves: readonly Point[][], options: SolveCurvesOptions): Fit & { centreSolved: boolean } {
  const samples = curves.reduce((sum, points) => sum + points.length, 0);
  const centrable = curves.length >= CURVES_FOR_CENTRE && coversDirections(curves);
  let best = { ...fit(curves, 1, false, options, null), powers: 1, centreSolved: false };
  // One addition may pay only together with the next: a wavy bow needs two terms at once, and a lens out of centre hides
  // its finer terms. So every fuller model is tried against the best so far.
  for (const [powers, centred] of [
    [2, false],
    [3, false],
    [1, true],
    [2, true],
    [3, true]
  ] as const) {
    if ((centred && !centrable) || (powers < best.powers && best.centreSolved === centred)) continue;
    const next = fit(curves, powers, centred, options, best);
    const added = powers - best.powers + (centred && !best.centreSolved ? 2 : 0);
    const gain = ((best.cost - next.cost) / Math.max(next.cost, 1e-9)) * (samples - powers - 2);
    if (gain > WORTH * Math.max(1, added) && foldRadius({ terms: next.terms }) === null)
      best = { ...next, powers, centreSolved: centred };
  }
  return best;
}

/** True when curves run in two directions, on both sides of the middle in each. */
function coversDirections(curves: readonly Point[][]): boolean {
  const sides = { across: new Set<number>(), along: new Set<number>() };
  for (const points of curves) {
    const { at, normal } = fitLine(points);
    const offset = at[0] * normal[0] + at[1] * normal[1];
    if (Math.abs(offset) < NEAREST) continue;
    if (Math.abs(normal[0]) > Math.abs(normal[1])) sides.across.add(Math.sign(at[0]));
    else sides.along.add(Math.sign(at[1]));
  }
  return sides.across.size === 2 && sides.along.size === 2;
}

/** The curves that one lens can make straight together. */
function withoutOutliers(curves: readonly Curve[], options: SolveCurvesOptions): readonly Curve[] {
  const noise = options.noise ?? NOISE;
  const rough = new Map(curves.map((curve) => [curve, thinned(curve.points, ROUGH_SAMPLES)]));
  const fitTo = (of: readonly Curve[]): Fit =>
    fitBest(
      of.map((curve) => rough.get(curve)!),
      options
    );
  let used = curves;
  let found = fitTo(used);
  const errorsOf = (of: readonly Curve[]): number[] => {
    const model = lensModel({ ...options, terms: found.terms, centre: found.centre });
    return of.map((curve) => rms(bends(rough.get(curve)!, model)));
  };
  const limitFor = (errors: readonly number[]): number =>
    Math.max(2.5 * [...errors].sort((p, q) => p - q)[(errors.length - 1) >> 1], noise * 2);
  // The worst go first, a few at a time: while they take part, they make good ones look bad.
  while (used.length > Math.max(2, curves.length * 0.5)) {
    const errors = errorsOf(used);
    const worst = Math.max(...errors);
    if (worst <= limitFor(errors)) break;
    const limit = Math.max(limitFor(errors), worst / 3);
    used = used.filter((_, i) => errors[i] < limit);
    found = fitTo(used);
  }
  const limit = limitFor(errorsOf(used));
  const errors = errorsOf(curves);
  return curves.filter((curve, i) => errors[i] <= limit || used.includes(curve));
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
  const used = options.robust ? withoutOutliers(long, options) : long;
  const found = fitBest(
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
    after: rms(counted.map((r) => r.after))
  };
}
