/** Where the nodes of a tile's mesh lie on a grid of cells over the whole frame; the middle of the first cell is 0. */
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { Arena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import type { Tile } from './tile.ts';

/** Addresses of the places across and down. */
export function cellNodes(
  { mesh, size }: Pick<Tile, 'mesh' | 'size'>,
  { width, height }: FrameSize,
  arena: Arena
): [x: number, y: number] {
  const placed = (nodes: Float32Array, cells: number, pixels: number): number => {
    const at = arena.float32(nodes.length);
    for (let i = 0; i < at.length; i++) at[i] = (nodes[i] * cells) / pixels - 0.5;
    return addressOf(at);
  };
  return [placed(mesh.x, width, size.width), placed(mesh.y, height, size.height)];
}
