/** One picture mixed into another by weights. */
import {
  enterCell,
  enterRow,
  firstColumn,
  fromNodes,
  pastColumn,
  placeX,
  placeY,
  slope,
  slopeX,
  slopeY,
  value
} from './mesh';
import { drawnTo, entry, loadPart, storePart, sumOf } from './vectors';

const ONE: f32 = 1;

/** Places of four pixels from one on, kept within a grid: whole parts, and shares of the way to the next cell. */
let wholeX: v128 = i32x4.splat(0);
let wholeY: v128 = i32x4.splat(0);
let shareX: v128 = i32x4.splat(0);
let shareY: v128 = i32x4.splat(0);

function placeFour(px: f32, py: f32, dx: f32, dy: f32, mostX: v128, mostY: v128): void {
  const steps = f32x4(0, 1, 2, 3);
  const zero = f32x4.splat(0);
  const x = f32x4.pmin(
    f32x4.pmax(f32x4.add(f32x4.splat(px), f32x4.mul(f32x4.splat(dx), steps)), zero),
    mostX
  );
  const y = f32x4.pmin(
    f32x4.pmax(f32x4.add(f32x4.splat(py), f32x4.mul(f32x4.splat(dy), steps)), zero),
    mostY
  );
  wholeX = i32x4.trunc_sat_f32x4_s(x);
  wholeY = i32x4.trunc_sat_f32x4_s(y);
  shareX = f32x4.sub(x, f32x4.convert_i32x4_s(wholeX));
  shareY = f32x4.sub(y, f32x4.convert_i32x4_s(wholeY));
}

/** Two bytes side by side at the places of four, as they stand in a row of the grid. */
function pairs(grid: usize, cells: v128): v128 {
  let two = i32x4.splat(<i32>load<u16>(grid + <usize>i32x4.extract_lane(cells, 0)));
  two = i32x4.replace_lane(two, 1, <i32>load<u16>(grid + <usize>i32x4.extract_lane(cells, 1)));
  two = i32x4.replace_lane(two, 2, <i32>load<u16>(grid + <usize>i32x4.extract_lane(cells, 2)));
  return i32x4.replace_lane(two, 3, <i32>load<u16>(grid + <usize>i32x4.extract_lane(cells, 3)));
}

/** What lies between both bytes of each pair. */
function betweenPair(two: v128): v128 {
  const first = f32x4.convert_i32x4_s(v128.and(two, i32x4.splat(255)));
  const second = f32x4.convert_i32x4_s(i32x4.shr_u(two, 8));
  return drawnTo(first, second, shareX);
}

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
  enterRow(row, columns, step);
  const end = left + count;
  const mostX = f32x4.splat(<f32>(gridWidth - 1) - <f32>1e-3),
    mostY = f32x4.splat(<f32>(gridHeight - 1) - <f32>1e-3);
  const perByte = f32x4.splat(ONE / <f32>255);
  const pitch = i32x4.splat(gridWidth);
  for (let column = left / step; column * step < end; column++) {
    enterCell(x, y, column, left, end);
    const first = firstColumn,
      last = pastColumn,
      dx = slopeX,
      dy = slopeY;
    let px = placeX,
      py = placeY;
    for (let n = first; n < last; n += 4, px += dx * 4, py += dy * 4) {
      placeFour(px, py, dx, dy, mostX, mostY);
      const cells = i32x4.add(i32x4.mul(wholeY, pitch), wholeX);
      const above = betweenPair(pairs(grid, cells));
      const below = betweenPair(pairs(grid, i32x4.add(cells, pitch)));
      const weights = f32x4.mul(drawnTo(above, below, shareY), perByte);
      storePart(out + ((<usize>(n - left)) << 2), weights, last - n);
    }
  }
}

/**
 * Weights of a row of pixels, 0..1, as `weighRow` wrote them, drawn to what the pixels' own colours say: each cell of `lines`
 * holds slopes over stops of luminance and of blue against red, an offset, and how much of the weight as it was is kept.
 * `stops` and `hues` are those of the pixels; `gained`: nodes of the stops of luminance that were added since the lines were
 * fitted, or 0. Between every fourth pixel lines are straight.
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
  enterRow(row, columns, step);
  const end = left + count;
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    steps = f32x4(0, 0.25, 0.5, 0.75);
  placeLines(lines, gridWidth, gridHeight);
  for (let column = left / step; column * step < end; column++) {
    enterCell(x, y, column, left, end);
    const first = firstColumn,
      last = pastColumn,
      dx = slopeX,
      dy = slopeY;
    let px = placeX,
      py = placeY;
    let added: f32 = 0,
      dg: f32 = 0;
    if (gained != 0) {
      fromNodes(gained);
      dg = slope;
      added = value;
    }
    let line = lineAt(px, py);
    for (let n = first; n < last; n += 4) {
      px += dx * 4;
      py += dy * 4;
      const next = lineAt(px, py);
      const change = f32x4.sub(next, line);
      const tilt = along(f32x4.extract_lane(line, 0), f32x4.extract_lane(change, 0), steps),
        turn = along(f32x4.extract_lane(line, 1), f32x4.extract_lane(change, 1), steps),
        offset = along(f32x4.extract_lane(line, 2), f32x4.extract_lane(change, 2), steps),
        keep = along(f32x4.extract_lane(line, 3), f32x4.extract_lane(change, 3), steps);
      const to = (<usize>(n - left)) << 2;
      const rest = last - n;
      const gains = f32x4.add(f32x4.splat(added), f32x4.mul(f32x4.splat(dg * 4), steps));
      const light = f32x4.sub(loadPart(stops + to, rest), gains);
      let share = f32x4.add(f32x4.mul(tilt, light), offset);
      share = f32x4.add(share, f32x4.mul(turn, loadPart(hues + to, rest)));
      share = f32x4.add(share, f32x4.mul(keep, loadPart(out + to, rest)));
      storePart(out + to, f32x4.pmin(f32x4.pmax(share, zero), one), rest);
      line = next;
      added += dg * 4;
    }
  }
}

/** A number at four pixels, from one line to the next. */
function along(from: f32, change: f32, steps: v128): v128 {
  return f32x4.add(f32x4.splat(from), f32x4.mul(f32x4.splat(change), steps));
}

let lineGrid: usize = 0;
let linePitch: usize = 0;
let lineMostX: f32 = 0;
let lineMostY: f32 = 0;

/** Lines that `lineAt` reads: four numbers of each cell of a grid. */
export function placeLines(grid: usize, gridWidth: i32, gridHeight: i32): void {
  lineGrid = grid;
  linePitch = (<usize>gridWidth) << 4;
  lineMostX = <f32>(gridWidth - 1) - <f32>1e-3;
  lineMostY = <f32>(gridHeight - 1) - <f32>1e-3;
}

/** The four numbers of a line at a place in cells. */
export function lineAt(px: f32, py: f32): v128 {
  const gx: f32 = px > 0 ? (px < lineMostX ? px : lineMostX) : 0;
  const gy: f32 = py > 0 ? (py < lineMostY ? py : lineMostY) : 0;
  const cx = <i32>gx,
    cy = <i32>gy;
  const fx = f32x4.splat(gx - <f32>cx),
    fy = f32x4.splat(gy - <f32>cy);
  const at = lineGrid + <usize>cy * linePitch + ((<usize>cx) << 4);
  const above = drawnTo(v128.load(at), v128.load(at, 16), fx);
  const below = drawnTo(v128.load(at + linePitch), v128.load(at + linePitch, 16), fx);
  return drawnTo(above, below, fy);
}

/** Rows of one plane to their places in another; a pitch is the values from one row to the next. */
export function copyRows(from: usize, pitch: i32, to: usize, otherPitch: i32, columns: i32, rows: i32): void {
  for (let row = 0; row < rows; row++)
    memory.copy(
      to + ((<usize>(row * otherPitch)) << 2),
      from + ((<usize>(row * pitch)) << 2),
      (<usize>columns) << 2
    );
}

/**
 * Each of `count` colours drawn by its weight to what a matrix makes of another, or of itself: `r2`, `g2` and `b2` may be the planes
 * themselves.
 */
export function mixRows(
  r: usize,
  g: usize,
  b: usize,
  r2: usize,
  g2: usize,
  b2: usize,
  matrix: usize,
  weights: usize,
  count: i32
): void {
  const m0 = entry(matrix, 0),
    m1 = entry(matrix, 1),
    m2 = entry(matrix, 2);
  const m3 = entry(matrix, 3),
    m4 = entry(matrix, 4),
    m5 = entry(matrix, 5);
  const m6 = entry(matrix, 6),
    m7 = entry(matrix, 7),
    m8 = entry(matrix, 8);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const left = count - i;
    const red = loadPart(r2 + at, left),
      green = loadPart(g2 + at, left),
      blue = loadPart(b2 + at, left),
      weight = loadPart(weights + at, left);
    drawPart(r + at, sumOf(m0, m1, m2, red, green, blue), weight, left);
    drawPart(g + at, sumOf(m3, m4, m5, red, green, blue), weight, left);
    drawPart(b + at, sumOf(m6, m7, m8, red, green, blue), weight, left);
  }
}

function drawPart(at: usize, to: v128, weight: v128, left: i32): void {
  storePart(at, drawnTo(loadPart(at, left), to, weight), left);
}
