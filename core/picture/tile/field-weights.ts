/** Weights by place: how much of one picture is mixed into another, over the frame. */
import type { Arena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { type Planes, addresses } from './planes.ts';
import type { Rows, Tile } from './tile.ts';

/** A byte for each cell of a grid over the whole frame, in field coordinates: 0 is none, 255 all. In shared memory. */
export interface FieldWeights {
  width: number;
  height: number;
  values: Uint8Array;
}

/** Makes a function that writes the weights of rows of a tile, 0..1. */
export function weighing(
  { mesh, size }: Tile,
  { width, height, values }: FieldWeights,
  arena: Arena
): (rows: Rows, out: Float32Array) => void {
  const nodes = (places: Float32Array, cells: number, pixels: number): number => {
    const at = arena.float32(places.length);
    for (let i = 0; i < at.length; i++) at[i] = (places[i] * cells) / pixels - 0.5;
    return addressOf(at);
  };
  const [x, y] = [nodes(mesh.x, width, size.width), nodes(mesh.y, height, size.height)];
  const grid = addressOf(values);
  const { weighRow } = kernels();
  return (rows, out) => {
    const to = addressOf(out);
    for (let row = 0; row < rows.height; row++)
      weighRow(
        x,
        y,
        mesh.columns,
        mesh.step,
        rows.top + row,
        rows.left,
        rows.width,
        grid,
        width,
        height,
        to + row * rows.width * 4
      );
  };
}

/** Draws rows to those of another picture by weights: 0 leaves them, 1 takes the other's. */
export function mix(rows: Planes, other: Planes, weights: Float32Array): void {
  const { mixRows } = kernels();
  const from = addresses(other);
  const count = rows.width * rows.height;
  addresses(rows).forEach((plane, c) => mixRows(plane, from[c], addressOf(weights), count));
}
