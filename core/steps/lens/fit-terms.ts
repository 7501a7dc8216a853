/** The lens that leaves curves nearest to straight lines, of as many terms as they support. */
import type { Point } from '../../math/frame-geometry.ts';
import { leastSquares } from '../../math/levenberg-marquardt.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { type LensModel, foldRadius, lensModel, undistort } from '../../optics/lens-model.ts';
import type { LensProjection } from '../../optics/lens-projection.ts';

export interface SolveCurvesOptions {
  projection?: LensProjection;
  /** Focal length in field units; of use for fisheyes only. */
  focal?: number;
  /** Expected error of a sample, in field units (default: 0.3 px of a 24 MP frame). */
  noise?: number;
  /** The same of each curve's samples, where they differ. */
  noises?: readonly number[];
  /**
   * The curves were found, not marked by hand: most may be anything. Those that no lens makes straight are left out, and
   * nothing is solved unless edges that had no part in it come out straighter.
   */
  robust?: boolean;
}

export const NOISE = 0.3 / 3606;
/** Edges nearer to the centre than this, in field units, have no bow. */
export const NEAREST = 0.12;
/** Curves needed for the centre to be solved too: in two directions, two of each on either side. */
const CURVES_FOR_CENTRE = 5;

/** Samples of one edge that are independent of each other, about. */
export const INDEPENDENT = 6;

/** Distances of samples from straight, in field units as photographed. */
export function bends(points: readonly Point[], model: LensModel): number[] {
  const straight = points.map((point) => undistort(point, model));
  const line = fitLine(straight);
  return straight.map((u, i) => {
    const du = Math.hypot(u[0] - model.centre[0], u[1] - model.centre[1]);
    const dd = Math.hypot(points[i][0] - model.centre[0], points[i][1] - model.centre[1]);
    return distanceFrom(line, u) * (du > 1e-9 ? dd / du : 1);
  });
}

export const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

export const chord = (points: readonly Point[]): number =>
  Math.hypot(points[0][0] - points[points.length - 1][0], points[0][1] - points[points.length - 1][1]);

/** Spread of the terms of r², r⁴ and r⁶, and of the centre in field units, among lenses. */
export const USUAL_TERMS = [0.06, 0.06, 0.04];
const USUAL_CENTRE = 0.006;

export interface Fit {
  terms: number[];
  centre: Point;
  cost: number;
}

/** Terms of so many even powers, with or without the centre, from curves in field units. */
export function fit(
  curves: readonly Point[][],
  powers: number,
  withCentre: boolean,
  { projection = 'rectilinear', focal = 1, noise = NOISE, noises, robust = false }: SolveCurvesOptions,
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
    curves.forEach((points, i) => {
      for (const bend of bends(points, model)) out[at++] = bend / (noises?.[i] ?? noise);
    });
    // What lenses are: it decides only what the curves leave open.
    for (let i = 0; i < powers; i++) out[at++] = p[i] / (robust ? USUAL_TERMS[i] : 20);
    if (withCentre) for (let i = 0; i < 2; i++) out[at++] = p[powers + i] / (robust ? USUAL_CENTRE : 0.02);
    return out;
  };
  const from = [...Array.from({ length: powers }, (_, i) => start?.terms[2 * i + 1] ?? 0)];
  if (withCentre) from.push(...(start?.centre ?? [0, 0]));
  const { parameters, cost } = leastSquares(residuals, from, { step: 1e-5, rounds: 40 });
  return { ...read(parameters), cost };
}

/** How much better a fuller model must explain the samples, which lie close together and are not independent. */
const WORTH = 14;

export interface BestFit extends Fit {
  powers: number;
  centreSolved: boolean;
}

/** The fullest model that the curves support: what is added has to explain clearly more than noise (an F-test). */
export function fitBest(curves: readonly Point[][], options: SolveCurvesOptions): BestFit {
  const samples = options.robust
    ? curves.length * INDEPENDENT
    : curves.reduce((sum, points) => sum + points.length, 0);
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
