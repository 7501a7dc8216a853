/** One picture mixed into another by weights. */
import { between, slope, value } from './mesh';
import { loadPart, storePart } from './vectors';

const ONE: f32 = 1;
const HALF: f32 = 0.5;

/**
 * The weights of a row of pixels, 0..1, from a grid of bytes over the frame. `x`, `y`: nodes of the mesh, as places in cells
 * of the grid; where no ray arrives the weight is that of a corner, and nothing is seen there.
 */
export function weighRow(
  x: usize,
  y: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32,
  count: i32,
  grid: usize,
  gridWidth: i32,
  gridHeight: i32,
  out: usize
): void {
  const position = (<f32>row + HALF) / <f32>step;
  const meshRow = <i32>position;
  const fy = position - <f32>meshRow;
  const end = left + count;
  const mostX = <f32>(gridWidth - 1) - <f32>1e-3,
    mostY = <f32>(gridHeight - 1) - <f32>1e-3;
  const perByte = ONE / <f32>255;
  for (let column = left / step; column * step < end; column++) {
    const i = meshRow * columns + column;
    const first = max(left, column * step);
    const last = min(end, (column + 1) * step);
    const inset = <f32>(first - column * step) + HALF;
    between(x, i, columns, fy, step);
    const dx = slope;
    let px = value + dx * inset;
    between(y, i, columns, fy, step);
    const dy = slope;
    let py = value + dy * inset;
    for (let n = first; n < last; n++, px += dx, py += dy) {
      const gx: f32 = px > 0 ? (px < mostX ? px : mostX) : 0;
      const gy: f32 = py > 0 ? (py < mostY ? py : mostY) : 0;
      const cx = <i32>gx,
        cy = <i32>gy;
      const fx = gx - <f32>cx,
        fy = gy - <f32>cy;
      const at = grid + <usize>(cy * gridWidth + cx);
      const above = <f32>load<u8>(at) * (ONE - fx) + <f32>load<u8>(at, 1) * fx;
      const under = at + <usize>gridWidth;
      const below = <f32>load<u8>(under) * (ONE - fx) + <f32>load<u8>(under, 1) * fx;
      store<f32>(out + ((<usize>(n - left)) << 2), (above * (ONE - fy) + below * fy) * perByte);
    }
  }
}

/**
 * The weights of a row of pixels, 0..1, by their own colours: each cell of `lines` holds slopes over stops of luminance and of
 * blue against red, an offset, and a number that is not read. `stops` and `hues` are those of the pixels; `gained`: nodes of the
 * stops of luminance that were added since the lines were fitted, or 0.
 */
export function weighLines(
  x: usize,
  y: usize,
  gained: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32,
  count: i32,
  lines: usize,
  gridWidth: i32,
  gridHeight: i32,
  stops: usize,
  hues: usize,
  out: usize
): void {
  const position = (<f32>row + HALF) / <f32>step;
  const meshRow = <i32>position;
  const fy = position - <f32>meshRow;
  const end = left + count;
  const mostX = <f32>(gridWidth - 1) - <f32>1e-3,
    mostY = <f32>(gridHeight - 1) - <f32>1e-3;
  const down = (<usize>gridWidth) << 4;
  for (let column = left / step; column * step < end; column++) {
    const i = meshRow * columns + column;
    const first = max(left, column * step);
    const last = min(end, (column + 1) * step);
    const inset = <f32>(first - column * step) + HALF;
    between(x, i, columns, fy, step);
    const dx = slope;
    let px = value + dx * inset;
    between(y, i, columns, fy, step);
    const dy = slope;
    let py = value + dy * inset;
    let added: f32 = 0,
      dg: f32 = 0;
    if (gained != 0) {
      between(gained, i, columns, fy, step);
      dg = slope;
      added = value + dg * inset;
    }
    for (let n = first; n < last; n++, px += dx, py += dy, added += dg) {
      const gx: f32 = px > 0 ? (px < mostX ? px : mostX) : 0;
      const gy: f32 = py > 0 ? (py < mostY ? py : mostY) : 0;
      const cx = <i32>gx,
        cy = <i32>gy;
      const fx = f32x4.splat(gx - <f32>cx),
        fy = f32x4.splat(gy - <f32>cy);
      const at = lines + ((<usize>(cy * gridWidth + cx)) << 4);
      const above = drawnTo(v128.load(at), v128.load(at, 16), fx);
      const below = drawnTo(v128.load(at + down), v128.load(at + down, 16), fx);
      const line = drawnTo(above, below, fy);
      const to = (<usize>(n - left)) << 2;
      const share =
        f32x4.extract_lane(line, 0) * (load<f32>(stops + to) - added) +
        f32x4.extract_lane(line, 1) * load<f32>(hues + to) +
        f32x4.extract_lane(line, 2);
      store<f32>(out + to, share > 0 ? (share < ONE ? share : ONE) : 0);
    }
  }
}

function drawnTo(from: v128, to: v128, share: v128): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), share));
}

/** Each of `count` values of a plane drawn to another's by its weight. */
export function mixRows(plane: usize, other: usize, weights: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const left = count - i;
    const own = loadPart(plane + at, left);
    const change = f32x4.sub(loadPart(other + at, left), own);
    storePart(plane + at, f32x4.add(own, f32x4.mul(change, loadPart(weights + at, left))), left);
  }
}
