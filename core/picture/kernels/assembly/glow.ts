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
import { OF_BLUE, OF_GREEN, OF_RED, drawnTo, lightOf, loadPart, smoothShareOf, storePart } from './vectors';

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

/** What four values of a cell are between it and the three next to it. */
function betweenFour(cell: usize, pitch: usize, right: f32, below: f32): v128 {
  const across = f32x4.splat(right);
  const down = f32x4.splat(below);
  const above = drawnTo(v128.load(cell), v128.load(cell, 16), across);
  return drawnTo(above, drawnTo(v128.load(cell + pitch), v128.load(cell + pitch, 16), across), down);
}

/** `brightShare` of four lights. */
function brightShares(light: v128, low: f32, high: f32): v128 {
  return smoothShareOf(f32x4.div(f32x4.sub(light, f32x4.splat(low)), f32x4.splat(high - low)));
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
  const mostX = f32x4.splat(<f32>(gridWidth - 1) - <f32>1e-3);
  const mostY = f32x4.splat(<f32>(gridHeight - 1) - <f32>1e-3);
  const on = f32x4(0, 1, 2, 3);
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const added = f32x4.splat(amount);
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
    for (let n = first; n < last; n += 4) {
      // Where no ray arrives the places are no numbers, and nothing is seen there.
      const cx = f32x4.pmin(
        mostX,
        f32x4.pmax(zero, f32x4.add(f32x4.splat(px), f32x4.mul(f32x4.splat(dx), on)))
      );
      const cy = f32x4.pmin(
        mostY,
        f32x4.pmax(zero, f32x4.add(f32x4.splat(py), f32x4.mul(f32x4.splat(dy), on)))
      );
      const wholeX = i32x4.trunc_sat_f32x4_s(cx);
      const wholeY = i32x4.trunc_sat_f32x4_s(cy);
      const fx = f32x4.sub(cx, f32x4.convert_i32x4_s(wholeX));
      const fy = f32x4.sub(cy, f32x4.convert_i32x4_s(wholeY));
      const cells = i32x4.shl(i32x4.add(i32x4.mul(wholeY, i32x4.splat(gridWidth)), wholeX), 4);
      const s0 = betweenFour(
        grid + <usize>i32x4.extract_lane(cells, 0),
        pitch,
        f32x4.extract_lane(fx, 0),
        f32x4.extract_lane(fy, 0)
      );
      const s1 = betweenFour(
        grid + <usize>i32x4.extract_lane(cells, 1),
        pitch,
        f32x4.extract_lane(fx, 1),
        f32x4.extract_lane(fy, 1)
      );
      const s2 = betweenFour(
        grid + <usize>i32x4.extract_lane(cells, 2),
        pitch,
        f32x4.extract_lane(fx, 2),
        f32x4.extract_lane(fy, 2)
      );
      const s3 = betweenFour(
        grid + <usize>i32x4.extract_lane(cells, 3),
        pitch,
        f32x4.extract_lane(fx, 3),
        f32x4.extract_lane(fy, 3)
      );
      const gain = f32x4.add(f32x4.splat(gained), f32x4.mul(f32x4.splat(more), on));
      px += 4 * dx;
      py += 4 * dy;
      gained += 4 * more;
      const early = v128.shuffle<f32>(s0, s1, 0, 4, 1, 5);
      const late = v128.shuffle<f32>(s2, s3, 0, 4, 1, 5);
      const blues = v128.shuffle<f32>(s0, s1, 2, 6, 2, 6);
      const others = v128.shuffle<f32>(s2, s3, 2, 6, 2, 6);
      const red = f32x4.mul(gain, v128.shuffle<f32>(early, late, 0, 1, 4, 5));
      const green = f32x4.mul(gain, v128.shuffle<f32>(early, late, 2, 3, 6, 7));
      const blue = f32x4.mul(gain, v128.shuffle<f32>(blues, others, 0, 1, 4, 5));
      const about = lightOf(red, green, blue);
      const at = (<usize>(n - left)) << 2;
      const there = last - n;
      const ownRed = loadPart(r + at, there);
      const ownGreen = loadPart(g + at, there);
      const ownBlue = loadPart(b + at, there);
      const light = lightOf(ownRed, ownGreen, ownBlue);
      const own = f32x4.mul(brightShares(light, low, high), light);
      const some = v128.and(f32x4.gt(about, zero), f32x4.lt(own, about));
      let share = f32x4.mul(added, f32x4.sub(one, f32x4.div(own, about)));
      if (weights) share = f32x4.mul(share, loadPart(weights + at, there));
      storePart(r + at, f32x4.add(ownRed, v128.and(some, f32x4.mul(share, red))), there);
      storePart(g + at, f32x4.add(ownGreen, v128.and(some, f32x4.mul(share, green))), there);
      storePart(b + at, f32x4.add(ownBlue, v128.and(some, f32x4.mul(share, blue))), there);
    }
  }
}
