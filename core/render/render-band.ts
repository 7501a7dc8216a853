/** Rows of a view: resampled once, then cleaned of fringes, which look at the rows about them too. */
import { FRINGE_WIDTH, type FringeColour, fringeMargin, removeFringe } from '../fringe/remove-fringe.ts';
import type { Matrix3 } from '../math/matrix3.ts';
import { type MapMesh, type View, buildMesh } from '../geometry/build-mesh.ts';
import { type PlacedPlanes, type Planes, allocatePlanes } from '../tile/planes.ts';
import type { Projection } from '../geometry/projection.ts';
import { resample } from '../geometry/resample.ts';

/**
 * Rows [from, to) of a view as planes in the file's own colours. `mesh` is that of just these rows; with fringes a few more
 * rows are made on either side, looked at, and left out again.
 */
export function renderBand(
  source: PlacedPlanes,
  projection: Projection,
  view: View,
  from: number,
  to: number,
  mesh: MapMesh,
  toWorking: Matrix3,
  fringes: readonly FringeColour[]
): Planes {
  if (fringes.length === 0) {
    const planes = allocatePlanes(view.width, to - from);
    resample(source, mesh, planes);
    return planes;
  }
  const width = FRINGE_WIDTH / view.pixel;
  const margin = fringeMargin(width);
  const first = Math.max(0, from - margin);
  const last = Math.min(view.height, to + margin);
  const wide = allocatePlanes(view.width, last - first);
  const band: View = { ...view, top: view.top + first * view.pixel, height: last - first };
  resample(source, buildMesh(projection, band), wide);
  removeFringe(wide, { colours: fringes, width, toWorking });
  const rows = (plane: Float32Array): Float32Array =>
    plane.subarray((from - first) * view.width, (to - first) * view.width);
  return { width: view.width, height: to - from, r: rows(wide.r), g: rows(wide.g), b: rows(wide.b) };
}
