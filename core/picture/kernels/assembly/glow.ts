/** Light that spreads about bright parts. */
import { folded } from './highlights';
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
import { OF_BLUE, OF_GREEN, OF_RED } from './vectors';

const ONE: f32 = 1;

/** Luminance of linear Rec. 2020. */
function luminance(r: f32, g: f32, b: f32): f32 {
  return OF_RED * r + OF_GREEN * g + OF_BLUE * b;
}

/** Share of a light that is bright: none up to `low`, all from `high` on. */
function brightShare(light: f32, low: f32, high: f32): f32 {
  const share = min(ONE, max(<f32>0, (light - low) / (high - low)));
  return share * share * (<f32>3 - <f32>2 * share);
}

/** Planes of light to that of their bright parts, folded above white. */
export function keepBright(r: usize, g: usize, b: usize, count: i32, low: f32, high: f32): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2;
    const red = load<f32>(r + at);
    const green = load<f32>(g + at);
    const blue = load<f32>(b + at);
    const share = brightShare(luminance(red, green, blue), low, high);
    store<f32>(r + at, folded(share * max(<f32>0, red)));
    store<f32>(g + at, folded(share * max(<f32>0, green)));
    store<f32>(b + at, folded(share * max(<f32>0, blue)));
  }
}

/** Four values of a cell drawn to those of the next. */
function drawn(from: v128, to: v128, share: f32): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), f32x4.splat(share)));
}

/**
 * Adds to `count` colours of a row of a tile, from column `left` on, `amount` of the light that `grid` has spread there: red, green,
 * blue and nothing in each of its cells over the frame. What is as bright as that light gains none. `x`, `y`: nodes of the mesh, as
 * places in cells; `gains`: by what light was multiplied since (0: by nothing). `weights`: one for each colour (0: all).
 */
export function addGlow(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  x: usize,
  y: usize,
  gains: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32,
  grid: usize,
  gridWidth: i32,
  gridHeight: i32,
  low: f32,
  high: f32,
  amount: f32,
  weights: usize
): void {
  enterRow(row, columns, step);
  const end = left + count;
  const pitch = (<usize>gridWidth) << 4;
  const mostX = <f32>(gridWidth - 1) - <f32>1e-3;
  const mostY = <f32>(gridHeight - 1) - <f32>1e-3;
  for (let column = left / step; column * step < end; column++) {
    enterCell(x, y, column, left, end);
    const first = firstColumn,
      last = pastColumn,
      dx = slopeX,
      dy = slopeY;
    let px = placeX,
      py = placeY;
    let gained = ONE;
    let more: f32 = 0;
    if (gains) {
      fromNodes(gains);
      more = slope;
      gained = value;
    }
    for (let n = first; n < last; n++, px += dx, py += dy, gained += more) {
      // Where no ray arrives the places are no numbers, and nothing is seen there.
      const cx = px > 0 ? min(px, mostX) : <f32>0;
      const cy = py > 0 ? min(py, mostY) : <f32>0;
      const wholeX = <i32>cx;
      const wholeY = <i32>cy;
      const cell = grid + <usize>wholeY * pitch + ((<usize>wholeX) << 4);
      const shareX = cx - <f32>wholeX;
      const spread = drawn(
        drawn(v128.load(cell), v128.load(cell, 16), shareX),
        drawn(v128.load(cell + pitch), v128.load(cell + pitch, 16), shareX),
        cy - <f32>wholeY
      );
      const red = gained * f32x4.extract_lane(spread, 0);
      const green = gained * f32x4.extract_lane(spread, 1);
      const blue = gained * f32x4.extract_lane(spread, 2);
      const about = luminance(red, green, blue);
      if (!(about > 0)) continue;
      const at = (<usize>(n - left)) << 2;
      const light = luminance(load<f32>(r + at), load<f32>(g + at), load<f32>(b + at));
      const own = brightShare(light, low, high) * light;
      if (own >= about) continue;
      let share = amount * (ONE - own / about);
      if (weights) share *= load<f32>(weights + at);
      store<f32>(r + at, load<f32>(r + at) + share * red);
      store<f32>(g + at, load<f32>(g + at) + share * green);
      store<f32>(b + at, load<f32>(b + at) + share * blue);
    }
  }
}
