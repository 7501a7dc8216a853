/**
 * True up: the rotation that makes marked lines plumb and level.
 *
 * Each mark and the lens centre span a plane with normal n = p × q (p, q the rays of its ends). A plumb mark
 * is satisfied when n · g = 0 for the plumb direction g, a level mark when n · h = 0 for the level
 * direction h. A closed form (smallest eigenvector) gives the start; Gauss-Newton refines all angles together,
 * each mark weighted by the square of its length, as its direction is the better known the longer it is.
 */
import { Matrix, SingularValueDecomposition, inverse } from 'ml-matrix';
import type { Point } from '../../math/frame-geometry.ts';
import { type LensModel, undistort } from '../../optics/lens-model.ts';
import { type Mark, type MarkKind, aligns } from './mark.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply } from '../../math/matrix3.ts';
import { cross, dot } from '../../math/vector3.ts';

/** What should become true: the horizon, the verticals, both with the camera still turned aside, or a whole front. */
export const TRUE_UP_MODES = ['level', 'verticals', 'both', 'front'] as const;
export type TrueUpMode = (typeof TRUE_UP_MODES)[number];

export interface SolveOptions {
  /** Focal length in field units. */
  focal: number;
  model: LensModel;
  /** Expected error of a drawn line end, in field units (default: one pixel of a 24 MP frame). */
  endError?: number;
  /** What should become true, where the marks allow it (default: all that they tell, a whole front). */
  mode?: TrueUpMode;
}

export type SolvedAngle = keyof Angles;

export type Solution =
  | {
      ok: true;
      angles: Angles;
      /** The angles that the marks decided; the others were left at zero. */
      solved: SolvedAngle[];
      /** Expected error of each solved angle from the ends' error, in degrees. */
      uncertainty: Partial<Angles>;
      /** Marks that the others contradict, with the angle in degrees by which they do: they were left out. */
      leftOut: { id: string; off: number }[];
      /** What is missing for a fuller correction, in words for the user. */
      notices: string[];
    }
  | { ok: false; reason: string };

const DEGREES = 180 / Math.PI;
const END_ERROR = 1 / 3600;
/** Marks shorter than this (in field units) have no direction worth using. */
const SHORTEST = 0.01;
/** An angle less certain than this, in degrees, is not decided by the marks. */
const LOOSEST = 2;
/** Larger turns than this are a sign of wrong marks, and no crop would be left. */
export const LARGEST: Angles = { roll: 45, pitch: 60, yaw: 60 };

interface Plane {
  id: string;
  kind: MarkKind;
  normal: Vector3;
  /** Inverse of the expected error of normal · direction. */
  weight: number;
}

const scale = (a: Vector3, s: number): Vector3 => [a[0] * s, a[1] * s, a[2] * s];

function toPlane(mark: Mark, focal: number, model: LensModel, endError: number): Plane {
  const ray = ([x, y]: Point): Vector3 => [x / focal, y / focal, 1];
  const p = ray(undistort(mark.a, model));
  const q = ray(undistort(mark.b, model));
  const n = cross(p, q);
  const size = Math.hypot(...n);
  const length = Math.hypot(p[0] - q[0], p[1] - q[1]);
  return {
    id: mark.id,
    kind: mark.kind,
    normal: scale(n, 1 / size),
    weight: ((mark.weight ?? 1) * length * focal) / (Math.SQRT2 * endError)
  };
}

/** Unit direction most nearly at right angles to all weighted normals, and its expected error in degrees. */
function commonPerpendicular(planes: readonly Plane[]): { direction: Vector3; error: number } {
  const sum = Matrix.zeros(3, 3);
  for (const { normal, weight } of planes) {
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) {
        sum.set(i, j, sum.get(i, j) + weight * weight * normal[i] * normal[j]);
      }
    }
  }
  // Singular values come in falling order: the last direction is the one least like any normal.
  const { rightSingularVectors: v, diagonal } = new SingularValueDecomposition(sum);
  return {
    direction: [v.get(0, 2), v.get(1, 2), v.get(2, 2)],
    error: DEGREES / Math.sqrt(Math.max(1e-12, diagonal[1]))
  };
}

function startAngles(planes: readonly Plane[]): Angles {
  const plumb = planes.filter((plane) => plane.kind === 'plumb');
  const level = planes.filter((plane) => plane.kind === 'level');
  let roll = 0;
  let pitch = 0;
  if (plumb.length >= 2) {
    const { direction: g } = commonPerpendicular(plumb);
    const down = g[1] < 0 ? scale(g, -1) : g;
    roll = Math.atan2(down[0], down[1]) * DEGREES;
    pitch = Math.asin(Math.max(-1, Math.min(1, -down[2]))) * DEGREES;
  }
  let yaw = 0;
  if (level.length > 0) {
    // In the levelled, pitched camera the level direction is (cos yaw, 0, sin yaw): a 2 x 2 problem.
    const r = rotationFromAngles({ roll, pitch, yaw: 0 });
    let [xx, xz, zz] = [0, 0, 0];
    for (const { normal, weight } of level) {
      const [x, , z] = apply(r, normal);
      xx += (weight * x) ** 2;
      xz += weight * weight * x * z;
      zz += (weight * z) ** 2;
    }
    // Minimise c² xx - 2 c s xz + s² zz over the direction (c, -s), the row that R turns onto x.
    yaw = (Math.PI / 2 - 0.5 * Math.atan2(2 * xz, xx - zz)) * DEGREES;
    yaw = ((((yaw + 90) % 180) + 180) % 180) - 90;
  }
  return { roll, pitch, yaw };
}

/** Weighted residuals: for every plane normal · (row of R that should lie in the plane). */
function residuals(planes: readonly Plane[], angles: Angles): number[] {
  const r = rotationFromAngles(angles);
  const x: Vector3 = [r[0], r[1], r[2]];
  const y: Vector3 = [r[3], r[4], r[5]];
  return planes.map(({ kind, normal, weight }) => weight * dot(normal, kind === 'plumb' ? y : x));
}

function jacobian(planes: readonly Plane[], angles: Angles, free: readonly SolvedAngle[]): Matrix {
  const step = 1e-4;
  const columns = free.map((name) => {
    const above = residuals(planes, { ...angles, [name]: angles[name] + step });
    const below = residuals(planes, { ...angles, [name]: angles[name] - step });
    return above.map((value, i) => (value - below[i]) / (2 * step));
  });
  return new Matrix(planes.map((_, row) => columns.map((column) => column[row])));
}

interface Refined {
  angles: Angles;
  uncertainty: Partial<Angles>;
}

/** Gauss-Newton over the free angles; null when the marks do not decide all of them. */
function refine(planes: readonly Plane[], start: Angles, free: readonly SolvedAngle[]): Refined | null {
  const angles: Angles = { roll: 0, pitch: 0, yaw: 0 };
  for (const name of free) angles[name] = start[name];
  const cost = (at: Angles): number => residuals(planes, at).reduce((sum, value) => sum + value * value, 0);
  let current = cost(angles);
  const uncertainty: Partial<Angles> = {};
  for (let i = 0; i < 50; i++) {
    const j = jacobian(planes, angles, free);
    const information = j.transpose().mmul(j);
    const diagonal = free.map((_, n) => information.get(n, n));
    if (diagonal.some((value) => value < 1 / LOOSEST ** 2)) return null;
    let covariance: Matrix;
    try {
      covariance = inverse(information);
    } catch {
      return null;
    }
    for (let n = 0; n < free.length; n++) {
      const deviation = Math.sqrt(covariance.get(n, n));
      if (!(deviation < LOOSEST)) return null;
      uncertainty[free[n]] = deviation;
    }
    const gradient = j.transpose().mmul(Matrix.columnVector(residuals(planes, angles)));
    const step = covariance.mmul(gradient);
    let factor = 1;
    let moved = false;
    while (factor > 1e-4) {
      const next = { ...angles };
      free.forEach((name, n) => (next[name] -= factor * step.get(n, 0)));
      const value = cost(next);
      if (value <= current) {
        moved = Math.max(...free.map((name) => Math.abs(next[name] - angles[name]))) > 1e-10;
        Object.assign(angles, next);
        current = value;
        break;
      }
      factor /= 2;
    }
    if (!moved) break;
  }
  return { angles, uncertainty };
}

/** Which sets of angles the marks may decide, the fullest first. */
function candidates(plumb: number, level: number, mode: TrueUpMode): SolvedAngle[][] {
  const sets: SolvedAngle[][] = [];
  if (mode === 'level') return level > 0 ? [['roll']] : [['roll', 'pitch'], ['roll']];
  if (mode !== 'front') return plumb >= 2 ? [['roll', 'pitch'], ['roll']] : [['roll']];
  if (plumb >= 2 && level >= 1) sets.push(['roll', 'pitch', 'yaw']);
  if (plumb >= 2) sets.push(['roll', 'pitch']);
  if (plumb < 2 && level >= 2) sets.push(['roll', 'yaw']);
  sets.push(['roll']);
  return sets;
}

function missing(plumb: number, level: number, solved: readonly SolvedAngle[], mode: TrueUpMode): string[] {
  const notices: string[] = [];
  if (mode === 'level') return notices;
  if (!solved.includes('pitch')) {
    if (plumb === 0)
      notices.push('No plumb line is marked: only level lines were used. Two plumb lines set the pitch.');
    else if (plumb === 1) {
      notices.push(
        'A second plumb line is missing: one sets the roll only. Draw another, well to the other side.'
      );
    } else {
      notices.push(
        'The plumb lines lie too close to each other to set the pitch. Draw one well to the other side.'
      );
    }
  }
  if (mode === 'front' && level > 0 && !solved.includes('yaw') && solved.includes('pitch')) {
    notices.push('The level lines lie at the height of the horizon, where they say nothing of yaw.');
  }
  return notices;
}

/** Marks needed before one of them can be told to be wrong; and how far off it must be, in degrees and against the rest. */
const ENOUGH_TO_JUDGE = 4;
const WRONG = 0.6;
const WRONG_FACTOR = 5;

/** Angle, in degrees, by which each plane misses the direction that it should hold. */
function misses(planes: readonly Plane[], angles: Angles): number[] {
  return residuals(
    planes.map((plane) => ({ ...plane, weight: 1 })),
    angles
  ).map((value) => Math.asin(Math.min(1, Math.abs(value))) * DEGREES);
}

interface Judged extends Refined {
  leftOut: { id: string; off: number }[];
}

/**
 * Refines, and leaves out marks that the others contradict. The one whose absence makes the rest agree best goes first:
 * while it takes part, it drags the result towards itself, and good ones look bad.
 */
function refineJudged(planes: readonly Plane[], free: readonly SolvedAngle[]): Judged | null {
  const startFor = (of: readonly Plane[]): Angles =>
    free.includes('pitch') ? startAngles(of) : startAnglesRollOnly(of);
  let used = planes;
  let best = refine(used, startFor(used), free);
  if (!best) return null;
  const leftOut: string[] = [];
  const spreadOf = (of: readonly Plane[], angles: Angles): number => {
    const off = misses(of, angles);
    return Math.sqrt(off.reduce((sum, value) => sum + value * value, 0) / off.length);
  };
  while (used.length > ENOUGH_TO_JUDGE && leftOut.length < planes.length / 3) {
    const all = misses(used, best.angles);
    // One wrong mark among few spreads its error over all of them: only a good fit ends the search.
    if (Math.max(...all) < WRONG / 4) break;
    // Only the worst few can be the one: trying all of hundreds would take long.
    const suspects = all
      .map((off, i) => ({ off, i }))
      .sort((a, b) => b.off - a.off)
      .slice(0, 6);
    let without: { rest: Plane[]; refined: Refined; spread: number; i: number } | null = null;
    for (const { i } of suspects) {
      const rest = used.filter((_, n) => n !== i);
      const refined = refine(rest, startFor(rest), free);
      const spread = refined ? spreadOf(rest, refined.angles) : Infinity;
      if (refined && (!without || spread < without.spread)) without = { rest, refined, spread, i };
    }
    if (!without) break;
    const [off] = misses([used[without.i]], without.refined.angles);
    if (off < Math.max(WRONG, WRONG_FACTOR * without.spread)) break;
    leftOut.push(used[without.i].id);
    used = without.rest;
    best = without.refined;
  }
  const final = best;
  return {
    ...final,
    leftOut: leftOut.map((id) => ({
      id,
      off: misses(
        planes.filter((plane) => plane.id === id),
        final.angles
      )[0]
    }))
  };
}

const tooFar = (name: SolvedAngle, angle: number): Solution => ({
  ok: false,
  reason:
    `These lines ask for a ${name} of ${angle.toFixed(0)}°, which no photograph of a building needs. ` +
    'Check that each line is marked as what it is (plumb or level).'
});

/** The marks that have a say in a mode: a level line above the horizon of a front seen at an angle is not to be levelled. */
function planesFor(mode: TrueUpMode, planes: readonly Plane[]): readonly Plane[] {
  const of = (kind: MarkKind): Plane[] => planes.filter((plane) => plane.kind === kind);
  if (mode === 'level') return of('level').length > 0 ? of('level') : planes;
  if (mode === 'verticals') return of('plumb').length >= 2 ? of('plumb') : planes;
  return planes;
}

/**
 * Roll, pitch and yaw that make the marks true.
 * Says what is missing, or why nothing was solved, in words for the user.
 */
export function solveRotation(marks: readonly Mark[], options: SolveOptions): Solution {
  const { focal, model, endError = END_ERROR, mode = 'front' } = options;
  const aligned = marks.filter(aligns);
  if (aligned.length === 0) {
    return {
      ok: false,
      reason: 'No lines are marked. Draw two plumb lines, or one level line, on the picture.'
    };
  }
  const usable = aligned.filter((m) => Math.hypot(m.a[0] - m.b[0], m.a[1] - m.b[1]) >= SHORTEST);
  if (usable.length === 0) {
    return { ok: false, reason: 'The marked lines are too short to give a direction. Draw them longer.' };
  }
  const all = usable.map((mark) => toPlane(mark, focal, model, endError));
  const planes = planesFor(mode, all);
  const plumb = planes.filter((plane) => plane.kind === 'plumb').length;
  const level = planes.length - plumb;
  if (plumb >= 2 && mode !== 'level') {
    const { direction, error } = commonPerpendicular(planes.filter((plane) => plane.kind === 'plumb'));
    const pitch = Math.asin(Math.min(1, Math.abs(direction[2]))) * DEGREES;
    if (error < LOOSEST && pitch > LARGEST.pitch) return tooFar('pitch', pitch);
  }
  for (const free of candidates(plumb, level, mode)) {
    const refined = refineJudged(planes, free);
    if (!refined) continue;
    const { angles, uncertainty, leftOut } = refined;
    for (const name of free) {
      if (Math.abs(angles[name]) > LARGEST[name]) {
        return tooFar(name, angles[name]);
      }
    }
    const notices = missing(plumb, level, free, mode);
    for (const { id, off } of leftOut) {
      const number = marks.findIndex((mark) => mark.id === id) + 1;
      notices.push(`Line ${number} disagrees with the others by ${off.toFixed(1)}° and was left out.`);
    }
    if (usable.length < aligned.length) notices.push('A line too short to give a direction was left out.');
    if (mode === 'level') angles.pitch = 0;
    const solved = mode === 'level' ? (['roll'] as SolvedAngle[]) : free;
    return { ok: true, angles, solved, uncertainty, leftOut, notices };
  }
  return { ok: false, reason: 'The marked lines do not agree on any rotation. Remove one and try again.' };
}

/** Start for solving roll without pitch: the mean lean of the marks in the picture, by weight. */
function startAnglesRollOnly(planes: readonly Plane[]): Angles {
  let sum = 0;
  let total = 0;
  for (const { kind, normal, weight } of planes) {
    // A line's image runs at right angles to the first two components of its normal.
    const lean = kind === 'plumb' ? normal[1] / -normal[0] : normal[0] / normal[1];
    sum += weight * Math.atan(lean);
    total += weight;
  }
  return { roll: (total > 0 ? sum / total : 0) * DEGREES, pitch: 0, yaw: 0 };
}
