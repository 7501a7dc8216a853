/**
 * The composed map from output pixels to sensor pixels, evaluated on a mesh.
 *
 * Between nodes the map is taken as bilinear. The spacing is halved until the error, measured where it is
 * largest (cell centres and edge middles), is below the limit.
 */
import type { MapMesh, View } from '../tile/mesh.ts';
import { MAPPED, type Projection, sensorMapper } from './projection.ts';

/** Largest error of the interpolated map, in sensor pixels. */
export const MESH_ERROR = 0.01;
const COARSEST = 32;
const FINEST = 2;
/** Cells in which the error is looked at, about. */
const PROBED = 300;

function evaluate(projection: Projection, view: View, step: number): MapMesh {
  const columns = Math.ceil(view.width / step) + 1;
  const rows = Math.ceil(view.height / step) + 1;
  const x = new Float32Array(columns * rows);
  const y = new Float32Array(columns * rows);
  const colours = projection.model.lateral && {
    redX: new Float32Array(columns * rows),
    redY: new Float32Array(columns * rows),
    blueX: new Float32Array(columns * rows),
    blueY: new Float32Array(columns * rows)
  };
  const map = sensorMapper(projection);
  const out = new Float64Array(MAPPED);
  for (let row = 0, i = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, i++) {
      map(view.left + column * step * view.pixel, view.top + row * step * view.pixel, out);
      x[i] = out[0];
      y[i] = out[1];
      if (!colours) continue;
      colours.redX[i] = out[3];
      colours.redY[i] = out[4];
      colours.blueX[i] = out[5];
      colours.blueY[i] = out[6];
    }
  }
  return { view, step, columns, rows, x, y, colours, error: 0 };
}

/** Largest distance, in sensor pixels, between interpolated and true map at the cells' centres and edge middles. */
function measureError(mesh: MapMesh, projection: Projection): number {
  const { view, step, columns, x, y } = mesh;
  const { width, height } = projection.size;
  const map = sensorMapper(projection);
  const out = new Float64Array(MAPPED);
  let worst = 0;
  const probe = (column: number, row: number, fx: number, fy: number): void => {
    const i = row * columns + column;
    const mix = (a: Float32Array): number =>
      (a[i] * (1 - fx) + a[i + 1] * fx) * (1 - fy) +
      (a[i + columns] * (1 - fx) + a[i + columns + 1] * fx) * fy;
    map(view.left + (column + fx) * step * view.pixel, view.top + (row + fy) * step * view.pixel, out);
    // Far outside the frame no pixel is ever taken, and the map need not be good there.
    const near = out[0] > -step && out[1] > -step && out[0] < width + step && out[1] < height + step;
    if (!near) return;
    const error = Math.hypot(mix(x) - out[0], mix(y) - out[1]);
    if (error > worst) worst = error;
  };
  for (const cell of probedCells(mesh, projection)) {
    const [column, row] = [cell % columns, Math.floor(cell / columns)];
    probe(column, row, 0.5, 0.5);
    probe(column, row, 0.5, 0);
    probe(column, row, 0, 0.5);
  }
  return worst;
}

/**
 * Cells that the error is looked at in, by their first node: the map is smooth, and some hundred of those that show the frame,
 * spread over all of them, bound their neighbours. The outermost of each row are among them: there the map bends most.
 */
function probedCells({ step, columns, rows, x, y }: MapMesh, { size }: Projection): number[] {
  const isNear = (i: number): boolean =>
    x[i] > -step && y[i] > -step && x[i] < size.width + step && y[i] < size.height + step;
  const near: number[] = [];
  const outermost = new Set<number>();
  for (let row = 0; row + 1 < rows; row++) {
    const before = near.length;
    for (let column = 0; column + 1 < columns; column++) {
      const i = row * columns + column;
      if (isNear(i) || isNear(i + 1) || isNear(i + columns) || isNear(i + columns + 1)) near.push(i);
    }
    if (near.length > before) outermost.add(near[before]).add(near[near.length - 1]);
  }
  const stride = Math.max(1, Math.floor(near.length / PROBED));
  return near.filter((cell, n) => n % stride === 0 || outermost.has(cell));
}

/** Builds the mesh for a view, as coarse as the error limit allows. */
export function buildMesh(projection: Projection, view: View, limit = MESH_ERROR): MapMesh {
  for (let step = COARSEST; ; step /= 2) {
    const mesh = evaluate(projection, view, step);
    mesh.error = measureError(mesh, projection);
    if (mesh.error <= limit || step <= FINEST) return mesh;
  }
}
