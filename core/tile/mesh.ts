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

/** Field position, as the glass put it, of each node; NaN where no ray arrives. */
export function fieldNodes({ x, y }: MapMesh, size: FrameSize): { x: Float32Array; y: Float32Array } {
  const unit = halfDiagonal(size);
  return {
    x: x.map((at) => (at - size.width / 2) / unit),
    y: y.map((at) => (at - size.height / 2) / unit)
  };
}

/**
 * Values of `count` pixels of a row of the mesh's view, from column `left` on, between those of the nodes; written to `out`
 * from `to` on. From `fieldNodes` it gives each pixel's place on the frame.
 */
export function meshRow(
  { step, columns }: MapMesh,
  nodes: Float32Array,
  row: number,
  left: number,
  count: number,
  out: Float32Array,
  to = 0
): void {
  const position = (row + 0.5) / step;
  const meshRow = Math.floor(position);
  const fy = position - meshRow;
  const end = left + count;
  for (let column = Math.floor(left / step); column * step < end; column++) {
    const i = meshRow * columns + column;
    const start = nodes[i] * (1 - fy) + nodes[i + columns] * fy;
    const slope = (nodes[i + 1] * (1 - fy) + nodes[i + columns + 1] * fy - start) / step;
    const first = Math.max(left, column * step);
    const last = Math.min(end, (column + 1) * step);
    const value = start + slope * (first - column * step + 0.5);
    const at = to + first - left;
    for (let n = 0; n < last - first; n++) out[at + n] = value + slope * n;
  }
}
