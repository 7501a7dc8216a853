/**
 * Readings: measured figures of geometric truth, taken in the corrected picture at full output resolution.
 */
import { type Point, halfDiagonal } from '../../math/frame-geometry.ts';
import { cornerFalloff } from '../../optics/falloff.ts';
import {
  type AlignedKind,
  type LineAngles,
  type PlacedLine,
  lineAngles
} from '../../steps/lines/line-angles.ts';
import { type Mark, aligns } from '../../steps/lines/mark.ts';
import {
  type KnownRectangle,
  type RectangleReading,
  rectangleReading
} from '../../steps/lines/known-rectangle.ts';
import { type FringeReading, fringeReading } from '../../measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../measure/lateral/measure-edges.ts';
import type { Curve } from '../../optics/curve.ts';
import type { FoundEvidence } from './found-evidence.ts';
import { type Plan, cropView } from '../plan.ts';
import type { FrameOptics } from '../../steps/lens/frame-optics.ts';
import { type Matrix3, IDENTITY } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { type Neutrality, neutrality } from './neutrality.ts';
import { type Straightness, straightness } from './straightness.ts';
import { MAPPED, type Projection, fieldToUpright, sensorMapper } from '../../picture/geometry/projection.ts';

export type Proportion = 'known focal length' | 'solved' | 'known rectangle' | 'assumed';

/** Where a reading is of what was found by itself, as nothing is marked: its standard error, in the reading's unit. */
export interface ByItself {
  found?: { error: number };
}

export interface Readings {
  /** Degrees; null while no plumb line is marked, and none was found. */
  plumb: (LineAngles & ByItself) | null;
  /** Degrees; null while no level line is marked, and none was found. */
  level: (LineAngles & ByItself) | null;
  /** Pixels at full output size; null while no edge is marked straight, and none was found. */
  straight: (Straightness & ByItself) | null;
  /** Pixels at full size; null where the edges of the picture were not measured, or are too few. */
  fringe: FringeReading | null;
  /** CIELAB chroma of the places that were picked as grey; null where none was, or none could be read. */
  neutral: Neutrality | null;
  /** Light left missing in the corners against the centre, in EV (negative is darker); null without a profile. */
  falloff: number | null;
  /** Share of the crop on real pixels, in percent. */
  cover: number;
  /** Least source pixels per output pixel in the crop. */
  sampling: number;
  proportion: Proportion;
  /** What the known rectangle says of width against height; null while none is marked. */
  rectangle: RectangleReading | null;
  /** Height stretch by hand, in percent. */
  stretch: number;
}

/** Below this ratio detail is visibly stretched. */
export const SAMPLING_WARNING = 0.6;

const GRID = 48;

/** Marks that should be plumb or level, carried into the corrected picture; those behind the view are left out. */
export function placeMarks(marks: readonly Mark[], plan: Pick<Plan, 'projection'>): PlacedLine[] {
  return marks.filter(aligns).flatMap((mark) => {
    const a = fieldToUpright(mark.a, plan.projection);
    const b = fieldToUpright(mark.b, plan.projection);
    return a && b ? [{ id: mark.id, kind: mark.kind as AlignedKind, a, b }] : [];
  });
}

/** Cover in percent and least sampling over the output of the plan's crop, from a grid that includes its border. */
function coverAndSampling(plan: Plan): { cover: number; sampling: number } {
  const { width, height } = plan.projection.size;
  const view = cropView(plan.crop, plan.output);
  const map = sensorMapper(plan.projection);
  const out = new Float64Array(MAPPED);
  const at = (x: number, y: number): Point => {
    map(view.left + x * view.pixel, view.top + y * view.pixel, out);
    return [out[0], out[1]];
  };
  let real = 0;
  let sampling = Infinity;
  for (let row = 0; row <= GRID; row++) {
    for (let column = 0; column <= GRID; column++) {
      // Pixel centres, the outermost ones included.
      const x = 0.5 + ((view.width - 1) * column) / GRID;
      const y = 0.5 + ((view.height - 1) * row) / GRID;
      const [px, py] = at(x, y);
      if (!(px >= 0 && py >= 0 && px <= width && py <= height)) continue;
      real++;
      const [ax, ay] = at(x + 0.5, y);
      const [bx, by] = at(x, y + 0.5);
      sampling = Math.min(sampling, leastStretch(2 * (ax - px), 2 * (bx - px), 2 * (ay - py), 2 * (by - py)));
    }
  }
  return { cover: (100 * real) / (GRID + 1) ** 2, sampling: Number.isFinite(sampling) ? sampling : 0 };
}

/** Least source pixels for one output pixel, anywhere in the crop. */
export const leastSampling = (plan: Plan): number => coverAndSampling(plan).sampling;

/** Smaller singular value of a 2 x 2 matrix. */
function leastStretch(a: number, b: number, c: number, d: number): number {
  const sum = a * a + b * b + c * c + d * d;
  const determinant = Math.abs(a * d - b * c);
  return Math.sqrt(Math.max(0, (sum - Math.sqrt(Math.max(0, sum * sum - 4 * determinant ** 2))) / 2));
}

/** What is marked and measured on a frame. */
export interface Evidence {
  marks: readonly Mark[];
  curves: readonly Curve[];
  /** Edges with the offsets of red and blue, or null where they were not measured. */
  edges: readonly LateralEdge[] | null;
  /** What was found by itself; it is read where nothing of its kind is marked. */
  found?: FoundEvidence | null;
  rectangle?: KnownRectangle | null;
  /** Working colours, as shot, of the places picked as grey. */
  greys?: readonly Vector3[];
  /** What balance and primaries make of them. */
  linear?: Matrix3;
}

/** The rectangle settles the proportion only as far as what it says agrees with the picture. */
const AGREES = 0.5;

function proportionOf(
  { focalFrom }: FrameOptics,
  stretch: number,
  rectangle: RectangleReading | null
): Proportion {
  if (rectangle && Math.abs(rectangle.error) < AGREES && (stretch !== 0 || focalFrom === 'solved'))
    return 'known rectangle';
  if (focalFrom === 'solved') return 'solved';
  return focalFrom === 'assumed' ? 'assumed' : 'known focal length';
}

/** Angles of the lines of one kind: of those marked, else of those found. */
export function anglesOf(
  kind: AlignedKind,
  { marks, found = null }: Pick<Evidence, 'marks' | 'found'>,
  projection: Projection
): (LineAngles & ByItself) | null {
  const marked = lineAngles(placeMarks(marks, { projection }), kind);
  if (marked || !found) return marked;
  const angles = lineAngles(placeMarks(found.marks, { projection }), kind);
  const error = kind === 'plumb' ? found.plumbError : found.levelError;
  return angles && { ...angles, found: { error } };
}

/** Straightness of the edges marked, else of those found. */
export function straightOf(
  { curves, found = null }: Pick<Evidence, 'curves' | 'found'>,
  projection: Projection
): (Straightness & ByItself) | null {
  const marked = straightness(curves, projection);
  if (marked || !found) return marked;
  const straight = straightness(found.curves, projection);
  return straight && { ...straight, found: { error: found.straightError * halfDiagonal(projection.size) } };
}

export function measureReadings(
  plan: Plan,
  optics: FrameOptics,
  { marks, curves, edges, found = null, rectangle: known = null, greys = [], linear = IDENTITY }: Evidence
): Readings {
  const rectangle = known && rectangleReading(known, plan.projection);
  const stretch = ((plan.projection.stretch ?? 1) - 1) * 100;
  return {
    plumb: anglesOf('plumb', { marks, found }, plan.projection),
    level: anglesOf('level', { marks, found }, plan.projection),
    straight: straightOf({ curves, found }, plan.projection),
    fringe: edges && fringeReading(edges, plan.projection.model.lateral, halfDiagonal(optics.size)),
    neutral: neutrality(greys, linear),
    falloff: plan.falloff ? cornerFalloff(plan.falloff) : null,
    ...coverAndSampling(plan),
    proportion: proportionOf(optics, stretch, rectangle),
    rectangle,
    stretch
  };
}
