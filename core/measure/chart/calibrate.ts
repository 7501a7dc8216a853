/**
 * Distortion from pictures of a flat board: each view is a homography of the board's grid followed by the lens, which is
 * the same for all views (as in Zhang 2000, without asking for the focal length, which straightness does not need).
 */
import type { Point } from '../../math/frame-geometry.ts';
import { type LensModel, distort, foldRadius, lensModel } from '../../optics/lens-model.ts';
import type { LensProjection } from '../../optics/lens-projection.ts';
import { leastSquares } from '../../math/levenberg-marquardt.ts';
import { carry, homography } from '../../math/homography.ts';
import type { BoardCorner } from './order-grid.ts';

/** One picture's corners, in field units. */
export type BoardView = readonly BoardCorner[];

export interface CalibrateOptions {
  projection?: LensProjection;
  /** Focal length in field units; of use for fisheyes only. */
  focal?: number;
  /** A pixel of the largest picture, in field units (default: none is known). */
  pixel?: number;
}

export interface ViewResidual {
  corners: number;
  /** Corners that lie where no lens would put them, and do not count. */
  leftOut: number;
  /** RMS distance of the corners from where the model puts them, in field units. */
  rms: number;
}

export type Calibration =
  | {
      ok: true;
      terms: number[];
      centre: Point;
      rms: number;
      views: ViewResidual[];
      /** Largest field radius that a corner reached. */
      reach: number;
    }
  | { ok: false; reason: string };

/** Board places about 0, about 1 in size: what keeps the homography's figures alike. */
function normalised(view: BoardView): Point[] {
  const columns = view.map((corner) => corner.column);
  const rows = view.map((corner) => corner.row);
  const mid = (values: number[]): number => (Math.min(...values) + Math.max(...values)) / 2;
  const half =
    Math.max(Math.max(...columns) - Math.min(...columns), Math.max(...rows) - Math.min(...rows)) / 2;
  const [mx, my] = [mid(columns), mid(rows)];
  return view.map(({ column, row }) => [(column - mx) / half, (row - my) / half]);
}

const SHARED = 5;
const PER_VIEW = 8;
/** A calibration that leaves more than this, in field units (1.1 px at 24 MP), or in pixels where these are coarser, is refused. */
const MOST_RESIDUAL = 3e-4;
const MOST_PIXELS = 0.3;
/** Corners farther off than so many times the usual distance are none. */
const STRAY = 4;
/** The board has to be seen at least this far out. */
const LEAST_REACH = 0.6;

interface Solved {
  parameters: number[];
  /** Distance of each corner from where the model puts it, view by view, in field units. */
  distances: number[][];
}

/** The distance from which on a corner is none. */
function strayFrom(distances: readonly number[]): number {
  const sorted = [...distances].sort((a, b) => a - b);
  return STRAY * sorted[sorted.length >> 1];
}

/** The lens and the pose of each board that leave the least, but for corners that lie where no lens would put them. */
function solve(
  views: readonly BoardView[],
  { projection = 'rectilinear', focal = 1 }: CalibrateOptions
): Solved {
  const boards = views.map(normalised);
  const offsets: number[] = [];
  let count = 0;
  for (const view of views) {
    offsets.push(count);
    count += view.length * 2;
  }
  const modelOf = (p: readonly number[]): LensModel =>
    lensModel({ projection, focal, terms: [0, p[0], 0, p[1], 0, p[2]], centre: [p[3], p[4]] });
  const residuals = (p: readonly number[]): Float64Array => {
    const model = modelOf(p);
    const out = new Float64Array(count + SHARED);
    views.forEach((view, v) => {
      view.forEach(({ at }, i) => {
        const [x, y] = distort(carry(p, boards[v][i], SHARED + v * PER_VIEW), model);
        out[offsets[v] + 2 * i] = x - at[0];
        out[offsets[v] + 2 * i + 1] = y - at[1];
      });
    });
    // Decides only what the corners leave open.
    for (let i = 0; i < 3; i++) out[count + i] = p[i] * 1e-5;
    for (let i = 3; i < 5; i++) out[count + i] = p[i] * 1e-3;
    return out;
  };
  const start = [
    0,
    0,
    0,
    0,
    0,
    ...views.flatMap((view, v) =>
      homography(
        boards[v],
        view.map((c) => c.at)
      )
    )
  ];
  const distancesOf = (left: Float64Array): number[] =>
    Array.from({ length: count / 2 }, (_, i) => Math.hypot(left[2 * i], left[2 * i + 1]));
  const { parameters, residuals: left } = leastSquares(residuals, start, {
    step: 1e-6,
    rounds: 60,
    weigh: (left) => {
      const distances = distancesOf(left);
      const most = strayFrom(distances);
      return left.map((_, i) => (i >= count || distances[i >> 1] <= most ? 1 : 0));
    },
    touches: (p) => {
      if (p < SHARED) return [0, count + SHARED];
      const v = Math.floor((p - SHARED) / PER_VIEW);
      return [offsets[v], offsets[v] + views[v].length * 2];
    }
  });
  const distances = distancesOf(left);
  return {
    parameters,
    distances: views.map((view, v) => distances.slice(offsets[v] / 2, offsets[v] / 2 + view.length))
  };
}

/** 0 of none. */
const rmsOf = (distances: readonly number[]): number =>
  Math.sqrt(distances.reduce((sum, distance) => sum + distance ** 2, 0) / Math.max(1, distances.length));

/** The lens of some views. */
export function calibrate(views: readonly BoardView[], options: CalibrateOptions = {}): Calibration {
  if (views.length === 0) return { ok: false, reason: 'No chart was found in these frames.' };
  const reach = Math.max(...views.flatMap((view) => view.map(({ at }) => Math.hypot(...at))));
  if (reach < LEAST_REACH) {
    return {
      ok: false,
      reason: `The chart reaches only ${(reach * 100).toFixed(0)} % of the way to the corners. Photograph it so that it fills the frame, or add frames with it in the corners.`
    };
  }
  const { parameters, distances } = solve(views, options);
  const most = strayFrom(distances.flat());
  const kept = distances.map((each) => each.filter((distance) => distance <= most));
  const measured = kept.map((each, v) => ({
    corners: each.length,
    leftOut: views[v].length - each.length,
    rms: rmsOf(each)
  }));
  const rms = rmsOf(kept.flat());
  const terms = [0, parameters[0], 0, parameters[1], 0, parameters[2]];
  const radius = foldRadius({ terms });
  if (rms > Math.max(MOST_RESIDUAL, MOST_PIXELS * (options.pixel ?? 0)) || radius !== null) {
    return {
      ok: false,
      reason:
        `The corners do not fit a flat chart: ${(rms * 3606).toFixed(1)} px RMS at 24 MP are left over. ` +
        'Use a chart that lies flat, in focus, and frames of one lens at one focal length.'
    };
  }
  return { ok: true, terms, centre: [parameters[3], parameters[4]], rms, views: measured, reach };
}
