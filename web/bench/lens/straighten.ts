/** Straight marks on the picture, and the distortion that they tell. */
import type { Point } from '$core/math/frame-geometry.ts';
import { thinned } from '$core/optics/curve.ts';
import { straighten } from '$core/steps/lens/straighten.ts';
import { MOST_CURVE_POINTS } from '$core/steps/lens/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { lensView } from './lens-view.svelte.ts';

/** Points of one straight mark: half of what a recipe holds, which is plenty. */
const MOST_POINTS = MOST_CURVE_POINTS / 2;

/** Adds straight marks; long ones are thinned to what a recipe holds. */
export function addCurves(bench: Bench, added: Point[][]): void {
  const curves = added.map((points) => ({
    id: crypto.randomUUID().slice(0, 8),
    points: thinned(points, MOST_POINTS)
  }));
  bench.change('lens', { curves: [...bench.recipe.lens.curves, ...curves] });
}

/** Solves the distortion from the straight marks. */
export function straightenMarked(bench: Bench): void {
  const { optics, plan } = bench;
  const { projection } = plan.projection.model;
  const found = straighten(bench.recipe.lens.curves, { size: optics.size, projection, focal: optics.focal });
  if (found.ok) bench.change('lens', found.lens);
  lensView(bench).said = found.said;
}
