/** Where the pixels of a view come from: sensor positions on a mesh, bilinear between its nodes. */
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';

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
