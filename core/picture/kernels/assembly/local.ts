/**
 * Local contrast: what a picture would gain if all that is near a light were drawn away from it (local Laplacian filters, Paris,
 * Hasinoff & Kautz 2011, at a few lights between which is interpolated: Aubry et al. 2014), and what a pixel takes of it.
 */
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
import { lineAt, placeLines } from './mix';
import { loadPart, smoothShareOf, storePart } from './vectors';

const ONE: f32 = 1;
const HALF: f32 = 0.5;

/**
 * Distances of stops from a light: up to `whole` as they are, from there on less and less, and none from `none` on, where there is an
 * edge.
 */
export function detailsAbout(stops: usize, count: i32, light: f32, whole: f32, none: f32, out: usize): void {
  const about = f32x4.splat(light);
  const most = f32x4.splat(whole);
  const range = f32x4.splat(none - whole);
  const one = f32x4.splat(1);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const away = f32x4.sub(loadPart(stops + at, count - i), about);
    const size = f32x4.abs(away);
    const left = f32x4.sub(one, smoothShareOf(f32x4.div(f32x4.sub(size, most), range)));
    const kept = f32x4.mul(f32x4.pmin(size, most), left);
    const sign = v128.and(away, i32x4.splat(0x8000_0000));
    storePart(out + at, v128.or(kept, sign), count - i);
  }
}

/**
 * Gives what lies across an edge to the nearer side of it: the `least` or the `most` light about each place, where these are more than
 * `some` stops apart in part, from `all` on wholly.
 */
export function partAtEdges(least: usize, most: usize, count: i32, some: f32, all: f32, stops: usize): void {
  const start = f32x4.splat(some);
  const range = f32x4.splat(all - some);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const low = loadPart(least + at, count - i);
    const high = loadPart(most + at, count - i);
    const own = loadPart(stops + at, count - i);
    const share = smoothShareOf(f32x4.div(f32x4.sub(f32x4.sub(high, low), start), range));
    const side = v128.bitselect(low, high, f32x4.lt(f32x4.sub(own, low), f32x4.sub(high, own)));
    storePart(stops + at, f32x4.add(own, f32x4.mul(share, f32x4.sub(side, own))), count - i);
  }
}

/** Twice a plane's size, between its values: what `halve` made half. Values beyond the last are as it. */
export function enlarge(
  plane: usize,
  width: i32,
  height: i32,
  out: usize,
  outWidth: i32,
  outHeight: i32
): void {
  for (let y = 0; y < outHeight; y++) {
    const near = y >> 1;
    const far = max(0, min(height - 1, (y & 1) == 1 ? near + 1 : near - 1));
    const one = plane + ((<usize>(near * width)) << 2);
    const other = plane + ((<usize>(far * width)) << 2);
    const target = out + ((<usize>(y * outWidth)) << 2);
    let before = mostly(load<f32>(one), load<f32>(other));
    let here = before;
    for (let x = 0; x < width; x++) {
      const next = (<usize>min(width - 1, x + 1)) << 2;
      const after = mostly(load<f32>(one + next), load<f32>(other + next));
      const at = target + ((<usize>x) << 3);
      store<f32>(at, mostly(here, before));
      if (2 * x + 1 < outWidth) store<f32>(at, mostly(here, after), 4);
      before = here;
      here = after;
    }
  }
}

/** Three quarters of one and a quarter of another. */
function mostly(one: f32, other: f32): f32 {
  return one + (other - one) * <f32>0.25;
}

/**
 * Adds of a plane that was made about one light what each place has of that: all of it where its own light is the same, nothing where
 * it is a `step` away. Lights beyond the lowest and the highest are as these.
 */
export function addAtLight(
  lights: usize,
  plane: usize,
  count: i32,
  light: f32,
  step: f32,
  lowest: f32,
  highest: f32,
  out: usize
): void {
  const about = f32x4.splat(light);
  const share = f32x4.splat(ONE / step);
  const low = f32x4.splat(lowest);
  const high = f32x4.splat(highest);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const own = f32x4.pmin(high, f32x4.pmax(low, loadPart(lights + at, count - i)));
    const weight = f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(share, f32x4.abs(f32x4.sub(own, about)))));
    if (!v128.any_true(f32x4.gt(weight, zero))) continue;
    const values = f32x4.mul(weight, loadPart(plane + at, count - i));
    storePart(out + at, f32x4.add(loadPart(out + at, count - i), values), count - i);
  }
}

/**
 * Stops of local contrast for a row of pixels, to `out`. `stops`: their own. `x`, `y`, `falloff`: nodes of the mesh, the places in
 * cells of `fine` and the stops that were added to the light since that was measured. `fine`: stops of each cell; 0: none are wanted.
 * `lines`: two slopes and their two offsets for each cell of another grid, from a pixel's own stops to those of middle and of broad contrast;
 * 0: none. `amounts`: of the three; then how many cells of the lines there are to one of `fine`.
 */
export function detailRow(
  stops: usize,
  count: i32,
  x: usize,
  y: usize,
  falloff: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32,
  fine: usize,
  fineWidth: i32,
  fineHeight: i32,
  lines: usize,
  linesWidth: i32,
  linesHeight: i32,
  amounts: usize,
  out: usize
): void {
  const amount = load<f32>(amounts);
  const middle = load<f32>(amounts, 4);
  const broad = load<f32>(amounts, 8);
  const cells = load<f32>(amounts, 12);
  const offsets = f32x4(0, 0, middle, broad);
  const slopes = f32x4(middle, broad, 0, 0);
  const end = left + count;
  const fineX = <f32>(fineWidth - 1) - <f32>1e-3,
    fineY = <f32>(fineHeight - 1) - <f32>1e-3;
  const finePitch = (<usize>fineWidth) << 2;
  placeLines(lines, linesWidth, linesHeight);
  enterRow(row, columns, step);
  for (let column = left / step; column * step < end; column++) {
    enterCell(x, y, column, left, end);
    const first = firstColumn,
      last = pastColumn,
      dx = slopeX,
      dy = slopeY;
    let px = placeX,
      py = placeY;
    fromNodes(falloff);
    const more = slope;
    let gained = value;
    for (let n = first; n < last; n++, px += dx, py += dy, gained += more) {
      const at = (<usize>(n - left)) << 2;
      let sum: f32 = 0;
      if (fine != 0) {
        // Where no ray arrives the place is no number; nothing is seen there.
        const gx: f32 = px > 0 ? (px < fineX ? px : fineX) : 0;
        const gy: f32 = py > 0 ? (py < fineY ? py : fineY) : 0;
        const cx = <i32>gx,
          cy = <i32>gy;
        const fx = gx - <f32>cx,
          fy = gy - <f32>cy;
        const cell = fine + <usize>cy * finePitch + ((<usize>cx) << 2);
        const below = cell + finePitch;
        const above = load<f32>(cell) + (load<f32>(cell, 4) - load<f32>(cell)) * fx;
        const under = load<f32>(below) + (load<f32>(below, 4) - load<f32>(below)) * fx;
        sum = amount * (above + (under - above) * fy);
      }
      if (lines != 0) {
        const hx = (px + HALF) * cells - HALF,
          hy = (py + HALF) * cells - HALF;
        const line = lineAt(hx, hy);
        const own = load<f32>(stops + at) - gained;
        const parts = f32x4.mul(line, f32x4.add(offsets, f32x4.mul(slopes, f32x4.splat(own))));
        const halves = f32x4.add(parts, v128.shuffle<f32>(parts, parts, 2, 3, 0, 1));
        sum += f32x4.extract_lane(halves, 0) + f32x4.extract_lane(halves, 1);
      }
      store<f32>(out + at, sum);
    }
  }
}
