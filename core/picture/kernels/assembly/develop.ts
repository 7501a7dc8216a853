/**
 * Sensor values to linear planes (`raw/develop.ts` says what is done and why), a tile at a time: each passes through all
 * steps while it is in the processor's cache.
 */
import { rebuildClipped } from './clipped';
import { estimateDifferences, interpolateGreen, smooth } from './green';
import { alignColours, shiftGreen } from './guide';
import { allocate, release } from './heap';
import { folded } from './highlights';
import { removeHotPixels } from './hot-pixels';
import { TILE_HEIGHT, TILE_WIDTH, balance, beginTile, pitch, width } from './mosaic';
import { interpolateOthers } from './red-blue';
import { putInto } from './upright';
/**
 * Pixels kept about a tile: 2 for hot pixels, 1 for clipped sites, 2 for the first estimate of green, 4 for its smoothing, 4
 * for its variances, 1 for red and blue; even.
 */
const PLAIN_PAD: i32 = 14;
/** With the guide red and blue are moved to green's places and green to theirs, by its largest shift and a kernel each. */
const GUIDED_PAD: i32 = 28;

/**
 * Fills planes of the oriented picture from rows [from, to). `sizes`: 0, or eight numbers of red's size against green's by
 * the radius, and eight of blue's. False where there is no memory to work in.
 */
export function developRows(
  r: usize,
  g: usize,
  b: usize,
  quarterTurns: i32,
  highest: f32,
  sizes: usize,
  from: i32,
  to: i32
): bool {
  putInto(r, g, b, quarterTurns, highest);
  const pad = sizes ? GUIDED_PAD : PLAIN_PAD;
  const plane = (((<usize>((TILE_WIDTH + 2 * pad) * (TILE_HEIGHT + 2 * pad))) << 2) + 127) & ~63;
  const block = allocate(plane * 7 + 64);
  if (block == 0) return false;
  for (let y = from; y < to; y += TILE_HEIGHT)
    for (let x = 0; x < width; x += TILE_WIDTH)
      developTile(x, min(width, x + TILE_WIDTH), y, min(to, y + TILE_HEIGHT), pad, sizes, block, plane);
  release(block);
  return true;
}

function developTile(
  x0: i32,
  x1: i32,
  y0: i32,
  y1: i32,
  pad: i32,
  guide: usize,
  block: usize,
  plane: usize
): void {
  beginTile((x1 - x0 + 2 * pad + 3) & ~3, y1 - y0 + 2 * pad);
  const a = block;
  const b = a + plane;
  const across = b + plane;
  const down = across + plane;
  const smoothAcross = down + plane;
  const smoothDown = smoothAcross + plane;
  let aligned = a;
  balance(x0 - pad, y0 - pad, a);
  removeHotPixels(a, b);
  rebuildClipped(y0, b, a, true);
  if (guide) {
    aligned = smoothDown + plane;
    alignColours(y0, a, aligned, guide, x0 - pad, y0 - pad);
  }
  estimateDifferences(y0, aligned, across, down);
  smooth(across, smoothAcross, 4);
  smooth(down, smoothDown, pitch);
  interpolateGreen(y0, aligned, across, down, smoothAcross, smoothDown, b);
  let greenR = b;
  let greenB = b;
  if (guide) {
    greenR = across;
    greenB = down;
    shiftGreen(b, greenR, guide, x0 - pad, y0 - pad);
    shiftGreen(b, greenB, guide + 64, x0 - pad, y0 - pad);
  }
  interpolateOthers(x0, x1, y0, y1, pad, a, b, greenR, greenB);
}
