/** Straight marks on the picture, and the distortion that they tell. */
import type { Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { thinned } from '$core/optics/curve.ts';
import { limitedSize } from '$core/render/plan.ts';
import { solveCurves } from '$core/steps/lens/solve-curves.ts';
import { MOST_CURVE_POINTS } from '$core/steps/lens/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { lensView } from './lens-view.svelte.ts';

/** Points of one straight mark: half of what a recipe holds, which is plenty. */
const MOST_POINTS = MOST_CURVE_POINTS / 2;

/** Longer side of the picture that edges are found on, and how well they are placed there, in its pixels. */
const PROXY_EDGE = 2048;
const EDGE_ERROR = 0.1;

/** Adds straight marks; long ones are thinned to what a recipe holds. */
export function addCurves(bench: Bench, added: Point[][]): void {
  const curves = added.map((points) => ({
    id: crypto.randomUUID().slice(0, 8),
    points: thinned(points, MOST_POINTS)
  }));
  bench.change('lens', { curves: [...bench.recipe.lens.curves, ...curves] });
}

/** Solves the distortion from the straight marks. */
export function straighten(bench: Bench): void {
  const { optics, plan } = bench;
  const view = lensView(bench);
  const projection = plan.projection.model.projection;
  // Edges are placed on the proxy: to a part of its pixels, or of the picture's own where that is smaller.
  const longest = Math.min(PROXY_EDGE, Math.max(optics.size.width, optics.size.height));
  const noise = EDGE_ERROR / halfDiagonal(limitedSize(optics.size, longest));
  const solution = solveCurves(bench.recipe.lens.curves, {
    projection,
    focal: optics.focal,
    noise,
    robust: true
  });
  if (!solution.ok) {
    view.said = solution.reason;
    return;
  }
  const { terms: found, centre } = solution;
  const unit = halfDiagonal(optics.size);
  bench.change('lens', {
    solved: { projection, terms: found, centre },
    distortion: 100,
    bow: 0,
    wave: 0,
    enabled: true
  });
  view.said =
    `Bows of ${(solution.before * unit).toFixed(1)} px are down to ${(solution.after * unit).toFixed(2)} px, ` +
    `from ${solution.residuals.length - solution.leftOut.length} edges` +
    (solution.leftOut.length > 0 ? `; ${solution.leftOut.length} left out as not straight in truth.` : '.');
}
