/** The lens settings that found or marked edges ask for, and what came of it in words. */
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';
import type { Curve } from '../../optics/curve.ts';
import type { LensProjection } from '../../optics/lens-projection.ts';
import { solveCurves } from './solve-curves.ts';
import type { LensSettings } from './step.ts';

/** Longer side of the picture that edges are found on, and how well they are placed there, in its pixels. */
const PROXY_EDGE = 2048;
const EDGE_ERROR = 0.1;

/** How well edges of a picture are placed on its proxy, in field units: to a part of its pixels, or of the picture's own where that is smaller. */
export const edgeNoise = (size: FrameSize): number =>
  EDGE_ERROR / (halfDiagonal(size) * Math.min(1, PROXY_EDGE / Math.max(size.width, size.height)));

export interface StraightenOptions {
  size: FrameSize;
  projection: LensProjection;
  /** Focal length in field units. */
  focal: number;
}

export type Straightened =
  { ok: true; lens: Partial<LensSettings>; said: string } | { ok: false; said: string };

/** Solves the distortion from edges given as the glass put them. */
export function straighten(
  curves: readonly Curve[],
  { size, projection, focal }: StraightenOptions
): Straightened {
  const solution = solveCurves(curves, { projection, focal, noise: edgeNoise(size), robust: true });
  if (!solution.ok) return { ok: false, said: solution.reason };
  const { terms, centre, before, after, residuals, leftOut } = solution;
  const unit = halfDiagonal(size);
  const left = leftOut.length > 0 ? `; ${leftOut.length} left out as not straight in truth.` : '.';
  return {
    ok: true,
    lens: { solved: { projection, terms, centre }, distortion: 100, bow: 0, wave: 0, enabled: true },
    said:
      `Bows of ${(before * unit).toFixed(1)} px are down to ${(after * unit).toFixed(2)} px, ` +
      `from ${residuals.length - leftOut.length} edges${left}`
  };
}
