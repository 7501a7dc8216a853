/** Where the pixels of a view come from: sensor positions on a mesh, bilinear between its nodes. */
import { type FrameSize, halfDiagonal } from '../math/frame-geometry.ts';

/** What part of the upright plane an output shows, and how finely. */
export interface View {
  /** Upright position of the output's left and top edge. */
  left: number;
  top: number;
  /** Upright units per output pixel. */
  pixel: number;
  /** Output size in pixels. */
  width: number;
  height: number;
}

export interface MapMesh {
  view: View;
  /** Output pixels between nodes. */
  step: number;
  columns: number;
  rows: number;
  /** Sensor position of each node, row by row; NaN where no ray arrives. */
  x: Float32Array;
  y: Float32Array;
  /** The same for red and blue, where the lens lays them elsewhere. */
  colours: { redX: Float32Array; redY: Float32Array; blueX: Float32Array; blueY: Float32Array } | null;
  /** Largest interpolation error found, in sensor pixels. */
  error: number;
}

/**
 * Field positions (as the glass put them) of `count` pixels of a row of the mesh's view, from column `left` on; written to
 * `x` and `y`. NaN where no ray arrives.
 */
export function fieldRow(
  mesh: MapMesh,
  size: FrameSize,
  row: number,
  left: number,
  count: number,
  x: Float32Array,
  y: Float32Array
): void {
  const { step, columns } = mesh;
  const unit = halfDiagonal(size);
  const position = (row + 0.5) / step;
  const meshRow = Math.floor(position);
  const fy = position - meshRow;
  const end = left + count;
  for (let column = Math.floor(left / step); column * step < end; column++) {
    const i = meshRow * columns + column;
    const at = (nodes: Float32Array, n: number): number => nodes[n] * (1 - fy) + nodes[n + columns] * fy;
    const [ax, ay] = [at(mesh.x, i), at(mesh.y, i)];
    const [dx, dy] = [(at(mesh.x, i + 1) - ax) / step, (at(mesh.y, i + 1) - ay) / step];
    const first = Math.max(left, column * step);
    const last = Math.min(end, (column + 1) * step);
    for (let n = first; n < last; n++) {
      const along = n - column * step + 0.5;
      x[n - left] = (ax + dx * along - size.width / 2) / unit;
      y[n - left] = (ay + dy * along - size.height / 2) / unit;
    }
  }
}
