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
}

export interface ViewResidual {
  corners: number;
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
/** A calibration that leaves more than this, in field units (1.1 px at 24 MP), is refused. */
const MOST_RESIDUAL = 3e-4;
/** The board has to be seen at least this far out. */
const LEAST_REACH = 0.6;

export function calibrate(views: readonly BoardView[], options: CalibrateOptions = {}): Calibration {
  if (views.length === 0) return { ok: false, reason: 'No chart was found in these frames.' };
  const { projection = 'rectilinear', focal = 1 } = options;
  const boards = views.map(normalised);
  const offsets: number[] = [];
  let count = 0;
  for (const view of views) {
    offsets.push(count);
    count += view.length * 2;
  }
  const reach = Math.max(...views.flatMap((view) => view.map(({ at }) => Math.hypot(...at))));
  if (reach < LEAST_REACH) {
    return {
      ok: false,
      reason: `The chart reaches only ${(reach * 100).toFixed(0)} % of the way to the corners. Photograph it so that it fills the frame, or add frames with it in the corners.`
    };
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
  const { parameters, residuals: left } = leastSquares(residuals, start, {
    step: 1e-6,
    rounds: 60,
    touches: (p) => {
      if (p < SHARED) return [0, count + SHARED];
      const v = Math.floor((p - SHARED) / PER_VIEW);
      return [offsets[v], offsets[v] + views[v].length * 2];
    }
  });
  const rmsOf = (from: number, corners: number): number => {
    let sum = 0;
    for (let i = from; i < from + corners * 2; i++) sum += left[i] ** 2;
    return Math.sqrt(sum / corners);
  };
  const measured = views.map((view, v) => ({ corners: view.length, rms: rmsOf(offsets[v], view.length) }));
  const rms = rmsOf(0, count / 2);
  const terms = [0, parameters[0], 0, parameters[1], 0, parameters[2]];
  const radius = foldRadius({ terms });
  if (rms > MOST_RESIDUAL || radius !== null) {
    return {
      ok: false,
      reason:
        `The corners do not fit a flat chart: ${(rms * 3606).toFixed(1)} px RMS at 24 MP are left over. ` +
        'Use a chart that lies flat, in focus, and frames of one lens at one focal length.'
    };
  }
  return { ok: true, terms, centre: [parameters[3], parameters[4]], rms, views: measured, reach };
}
