/** A mosaic as four pictures of its single sites. */
import { rebuildClipped } from './clipped';
import { allocate, release } from './heap';
import { removeHotPixels } from './hot-pixels';
import { TILE_HEIGHT, TILE_WIDTH, balance, beginTile, height, pitch, width } from './mosaic';

/** Pixels kept about a tile that is only split: 2 for hot pixels, 1 for clipped sites; even. */
const SPLIT_PAD: i32 = 4;

/**
 * Balanced and mended values of rows [from, to), each at its place in one of four planes of half the upright picture's size:
 * those of its first 2 x 2 sites, row by row. False where there is no memory to work in.
 */
export function splitRows(
  nw: usize,
  ne: usize,
  sw: usize,
  se: usize,
  quarterTurns: i32,
  columns: i32,
  lines: i32,
  from: i32,
  to: i32
): bool {
  const plane =
    (((<usize>((TILE_WIDTH + 2 * SPLIT_PAD + 32) * (TILE_HEIGHT + 2 * SPLIT_PAD))) << 2) + 127) & ~63;
  const a = allocate(plane * 2);
  if (a == 0) return false;
  const b = a + plane;
  for (let y0 = from; y0 < to; y0 += TILE_HEIGHT)
    for (let x0 = 0; x0 < width; x0 += TILE_WIDTH) {
      const x1 = min(width, x0 + TILE_WIDTH);
      const y1 = min(to, y0 + TILE_HEIGHT);
      // Vectors begin 16 pixels in; the tile's own lie within.
      beginTile((x1 - x0 + 2 * SPLIT_PAD + 16 + 3) & ~3, y1 - y0 + 2 * SPLIT_PAD);
      balance(x0 - SPLIT_PAD - 8, y0 - SPLIT_PAD, a);
      removeHotPixels(a, b);
      rebuildClipped(y0 - SPLIT_PAD, b, a, false);
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          let ux = x;
          let uy = y;
          if (quarterTurns == 1) {
            ux = height - 1 - y;
            uy = x;
          } else if (quarterTurns == 2) {
            ux = width - 1 - x;
            uy = height - 1 - y;
          } else if (quarterTurns == 3) {
            ux = y;
            uy = width - 1 - x;
          }
          const column = ux >> 1;
          const line = uy >> 1;
          if (column >= columns || line >= lines) continue;
          const right = ux & 1;
          const out = uy & 1 ? (right ? se : sw) : right ? ne : nw;
          const at = <usize>(y - y0 + SPLIT_PAD) * pitch + ((<usize>(x - x0 + SPLIT_PAD + 8)) << 2);
          store<f32>(out + ((<usize>(line * columns + column)) << 2), load<f32>(a + at));
        }
    }
  release(a);
  return true;
}
