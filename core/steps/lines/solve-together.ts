/**
 * Rotation, focal length and distortion solved together from the same marks.
 *
 * Each line contributes how far its samples lie from a straight line once the lens is undone (Devernay & Faugeras 2001), and
 * how far the plane through it and the lens centre misses the direction that it should hold. The focal length follows from
 * directions at right angles (plumb and level; two fronts); a known rectangle adds its proportions. What the marks do not
 * decide is not solved: the expected errors, from the normal equations, tell.
 */
import { Matrix, SingularValueDecomposition, pseudoInverse } from 'ml-matrix';
import type { Point } from '../../math/frame-geometry.ts';
import { thinned } from '../../optics/curve.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { type LensModel, foldRadius, lensModel, undistort } from '../../optics/lens-model.ts';
import { leastSquares } from '../../math/levenberg-marquardt.ts';
import { type KnownRectangle, sidesRatio } from './known-rectangle.ts';
import { type Mark, counts } from './mark.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import { type Matrix3, apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { LARGEST } from './solve-rotation.ts';
import { cross, dot } from '../../math/vector3.ts';

/** A mark with the edge under it, where one was traced. */
export interface TracedMark {
  mark: Mark;
  /** Samples in field units as the glass put them, in order; the mark's two ends where there are no others. */
  points: readonly Point[];
}

export interface SolveTogetherOptions {
  /** Focal length in field units: taken as it is, or as the start when it is solved. */
  focal: number;
  /** The lens as it is known. Its terms are the start when they are solved. */
  model: LensModel;
  start: Angles;
  solveFocal?: boolean;
  solveLens?: boolean;
  /** Whether the model is that of the lens (default true): if not, the focal length is the less certain for its bow. */
  lensKnown?: boolean;
  rectangle?: KnownRectangle | null;
  /** Standard error of a sample across its edge and of a drawn end, in field units (defaults: a third and one pixel at 24 MP). */
  noise?: number;
  endError?: number;
}

export type SolvedTogether =
  | {
      ok: true;
      angles: Angles;
      focal: number;
      /** Relative expected error of the focal length; null when it was not solved. */
      focalError: number | null;
      /** Radial terms r¹…r⁶; the model's own when they were not solved. */
      terms: readonly number[];
      /** RMS distance of samples from straight, in field units, before and after. */
      before: number;
      after: number;
    }
  | { ok: false; reason: string };

/** Least certain focal length that is still of use, relative. */
const LOOSEST_FOCAL = 0.06;
const FOCALS = [0.25, 12];
const MOST_SAMPLES = 24;
/** A fuller model has to explain clearly more than noise. */
const WORTH = 14;
/** Standard error of a known ratio, relative. */
const RATIO_ERROR = 0.001;

interface State {
  angles: Angles;
  focal: number;
  model: LensModel;
}

/** The direction, in camera rays, that a mark should hold. */
function directionFor({ kind, recedes }: Mark, r: Matrix3, hasFront: boolean): Vector3 | null {
  const row = (i: number): Vector3 => [r[i * 3], r[i * 3 + 1], r[i * 3 + 2]];
  if (kind === 'plumb') return row(1);
  if (kind !== 'level') return null;
  if (!recedes) return row(0);
  // Beside a front, what recedes runs at right angles to it; two receding sides stand at right angles to each other.
  return hasFront || recedes === 'left' ? row(2) : row(0);
}

/** Where a straight line through samples begins and ends, with the lens undone. */
function endsOf(points: readonly Point[], model: LensModel): { a: Point; b: Point; bends: number[] } {
  const straight = points.map((point) => undistort(point, model));
  const [first, last] = [straight[0], straight[straight.length - 1]];
  if (straight.length === 2) return { a: first, b: last, bends: [] };
  const line = fitLine(straight);
  const [tx, ty] = [line.normal[1], -line.normal[0]];
  const onLine = ([x, y]: Point): Point => {
    const along = (x - line.at[0]) * tx + (y - line.at[1]) * ty;
    return [line.at[0] + tx * along, line.at[1] + ty * along];
  };
  return { a: onLine(first), b: onLine(last), bends: straight.map((point) => distanceFrom(line, point)) };
}

const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

const NAMES = ['roll', 'pitch', 'yaw'] as const;

/** Solves what the options ask for; the yaw takes part only where level lines or a rectangle tell it. */
export function solveTogether(lines: readonly TracedMark[], options: SolveTogetherOptions): SolvedTogether {
  const { model, start, solveFocal = false, solveLens = false, lensKnown = true, rectangle = null } = options;
  const { noise = 1 / 3 / 3600, endError = 1 / 3600 } = options;
  const used = lines
    .filter(({ mark, points }) => counts(mark) && points.length >= 2)
    .map(({ mark, points }) => ({ mark, points: thinned(points, MOST_SAMPLES) }));
  const level = used.filter(({ mark }) => mark.kind === 'level');
  const plumb = used.filter(({ mark }) => mark.kind === 'plumb');
  const hasFront = level.some(({ mark }) => !mark.recedes) || rectangle !== null;
  if (!rectangle && plumb.length < 2 && (plumb.length === 0 || level.length < 2))
    return {
      ok: false,
      reason:
        'Mark at least two plumb lines, well apart: focal length or bow cannot be told from fewer marks.'
    };
  if (solveFocal && !rectangle && level.length < 2)
    return {
      ok: false,
      reason:
        'The focal length follows from two directions at right angles: mark two level lines beside the plumb ones.'
    };
  const freeYaw = level.length > 0 || rectangle !== null;
  const angleCount = freeYaw ? 3 : 2;
  const read = (p: readonly number[], powers: number): State => {
    const terms = Array.from({ length: 6 }, (_, i) => model.terms[i] ?? 0);
    for (let i = 0; i < powers; i++) terms[2 * i + 1] = p[angleCount + (solveFocal ? 1 : 0) + i];
    const focal = solveFocal ? Math.exp(p[angleCount]) : options.focal;
    return {
      angles: { roll: p[0], pitch: p[1], yaw: freeYaw ? p[2] : 0 },
      focal,
      model: powers > 0 || focal !== options.focal ? lensModel({ ...model, focal, terms }) : model
    };
  };
  const residualsAt = ({ angles, focal, model: lens }: State): number[] => {
    const r = rotationFromAngles(angles);
    const out: number[] = [];
    const miss = (a: Point, b: Point, direction: Vector3, error: number): void => {
      const p: Vector3 = [a[0] / focal, a[1] / focal, 1];
      const q: Vector3 = [b[0] / focal, b[1] / focal, 1];
      const n = cross(p, q);
      const length = Math.hypot(p[0] - q[0], p[1] - q[1]) * focal;
      out.push((dot(n, direction) / Math.hypot(...n)) * (length / (Math.SQRT2 * error)));
    };
    for (const { mark, points } of used) {
      const { a, b, bends } = endsOf(points, lens);
      const weight = mark.weight ?? 1;
      for (const bend of bends) out.push((bend / noise) * weight);
      const direction = directionFor(mark, r, hasFront);
      // Samples place a line better than two drawn ends do.
      if (direction) miss(a, b, direction, (points.length > 2 ? noise : endError) / weight);
    }
    if (rectangle) {
      const corners = rectangle.corners.map((corner) => undistort(corner, lens));
      const x: Vector3 = [r[0], r[1], r[2]];
      const y: Vector3 = [r[3], r[4], r[5]];
      miss(corners[0], corners[1], x, endError);
      miss(corners[3], corners[2], x, endError);
      miss(corners[0], corners[3], y, endError);
      miss(corners[1], corners[2], y, endError);
      const placed = corners.map(([u, v]): Point => {
        const [px, py, pz] = apply(r, [u / focal, v / focal, 1]);
        return [px / pz, py / pz];
      });
      out.push(Math.log(sidesRatio(placed) / rectangle.ratio) / RATIO_ERROR);
    }
    return out;
  };
  const residualsFor =
    (powers: number) =>
    (p: readonly number[]): Float64Array =>
      Float64Array.from([
        ...residualsAt(read(p, powers)),
        // A whisper of preference for small terms, and for a focal length that lenses have.
        ...p.slice(angleCount + (solveFocal ? 1 : 0)).map((term) => term * 0.05),
        ...(solveFocal ? [p[angleCount] * 0.05] : [])
      ]);
  const fit = (powers: number, from: readonly number[]) => {
    // Wild marks must not bend everything else towards them (Huber 1964).
    const weigh = (r: Float64Array): Float64Array =>
      r.map((value) => (Math.abs(value) <= 4 ? 1 : 4 / Math.abs(value)));
    return leastSquares(residualsFor(powers), from, { step: stepsFor(from), weigh, rounds: 60 });
  };
  const first = [start.roll, start.pitch, ...(freeYaw ? [start.yaw] : [])];
  if (solveFocal) first.push(Math.log(options.focal));
  // From several focal lengths: a far start can end in a narrow view of nothing.
  const starts = solveFocal
    ? [1, 0.6, 1.7].map((factor) =>
        first.map((value, i) => (i === angleCount ? value + Math.log(factor) : value))
      )
    : [first];
  const smallest = solveLens ? 1 : 0;
  let best = starts
    .map((from) => fit(smallest, solveLens ? [...from, model.terms[1] ?? 0] : from))
    .reduce((a, b) => (b.cost < a.cost ? b : a));
  let powers = smallest;
  if (solveLens && used.some(({ points }) => points.length > 4)) {
    const fuller = fit(2, [...best.parameters, 0]);
    const gain = ((best.cost - fuller.cost) / Math.max(1e-9, fuller.cost)) * (fuller.residuals.length - 6);
    if (gain > WORTH) [best, powers] = [fuller, 2];
  }
  const state = read(best.parameters, powers);
  for (const name of NAMES) {
    if (Math.abs(state.angles[name]) > LARGEST[name])
      return {
        ok: false,
        reason: `These lines ask for a ${name} of ${state.angles[name].toFixed(0)}°, which no photograph of a building needs. Check what each is marked as.`
      };
  }
  if (solveLens) {
    const fold = foldRadius({ terms: state.model.terms });
    if (fold !== null)
      return {
        ok: false,
        reason: `The lines contradict each other: the lens they ask for would fold back at ${(fold * 100).toFixed(0)} % of the way to the corner. Remove a line that is not straight in truth.`
      };
  }
  let focalError: number | null = null;
  if (solveFocal) {
    // A bow that nobody knows passes for perspective: it must have been free to take its share.
    const open = lensKnown ? powers : 2;
    const freed = [...best.parameters, ...Array.from({ length: open - powers }, () => 0)];
    focalError = expectedErrors(residualsFor(open), freed, best.residuals)[angleCount];
    if (!(focalError < LOOSEST_FOCAL) || state.focal < FOCALS[0] || state.focal > FOCALS[1])
      return {
        ok: false,
        reason:
          'These lines do not tell the focal length: they hardly converge. Set it by hand in step 1, or mark lines of a front that runs away from the camera.'
      };
  }
  const bendsOf = (lens: LensModel): number[] => used.flatMap(({ points }) => endsOf(points, lens).bends);
  return {
    ok: true,
    angles: state.angles,
    focal: state.focal,
    focalError,
    terms: state.model.terms,
    before: rms(bendsOf(model)),
    after: rms(bendsOf(state.model))
  };
}

/** Steps of the numerical derivatives: degrees, logarithms and radial terms are all of a like order. */
const stepsFor = (parameters: readonly number[]): number[] => parameters.map(() => 1e-5);

/** Expected errors of parameters, from the inverse of the normal equations, with the misfit that is left. */
function expectedErrors(
  residualsOf: (p: readonly number[]) => Float64Array,
  parameters: readonly number[],
  left: Float64Array
): number[] {
  const at = residualsOf(parameters);
  const steps = stepsFor(parameters);
  const jacobian = Matrix.zeros(at.length, parameters.length);
  parameters.forEach((value, p) => {
    const moved = [...parameters];
    moved[p] = value + steps[p];
    const after = residualsOf(moved);
    for (let i = 0; i < at.length; i++) jacobian.set(i, p, (after[i] - at[i]) / steps[p]);
  });
  const normal = jacobian.transpose().mmul(jacobian);
  const singular = new SingularValueDecomposition(normal).diagonal;
  if (Math.min(...singular) < 1e-9 * Math.max(...singular)) return parameters.map(() => Infinity);
  const inverse = pseudoInverse(normal);
  const misfit = left.reduce((sum, value) => sum + value * value, 0);
  const scale = Math.max(1, misfit / Math.max(1, left.length - parameters.length));
  return parameters.map((_, i) => Math.sqrt(Math.max(0, inverse.get(i, i)) * scale));
}
