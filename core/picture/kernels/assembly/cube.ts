/**
 * Colours through a look. `numbers`: the values of the first node of red, green and blue, nodes for each unit of them, nodes
 * of each side, and the amount. A table holds red, green and blue of each node. What lies outside of the nodes counts as the
 * nearest of them; with `beyond` the table goes on there as it came, as far as a place lies outside.
 */

import { entry } from './vectors';

function placed(value: f32, from: f32, per: f32, last: f32): f32 {
  const at = (value - from) * per;
  return at > 0 ? (at < last ? at : last) : 0;
}

let strideG: usize = 0;
let strideB: usize = 0;

/**
 * Red, green and blue at a place of a cell, between its corners by tetrahedra: the cell is walked from its dark to its light
 * corner along the colours in the order of their shares. The fourth number is the next node's.
 */
function within(low: usize, fx: f32, fy: f32, fz: f32): v128 {
  const stepR: usize = 12;
  const most = max(max(fx, fy), fz),
    least = min(min(fx, fy), fz);
  const middle = fx + fy + fz - most - least;
  const forward = select(select(stepR, strideB, fx >= fz), select(strideG, strideB, fy >= fz), fx >= fy);
  const last = select(select(strideG, strideB, fy <= fz), select(stepR, strideB, fx <= fz), fx >= fy);
  const high = low + stepR + strideG + strideB;
  return f32x4.add(
    f32x4.add(
      f32x4.mul(f32x4.splat(<f32>1 - most), v128.load(low)),
      f32x4.mul(f32x4.splat(most - middle), v128.load(low + forward))
    ),
    f32x4.add(
      f32x4.mul(f32x4.splat(middle - least), v128.load(high - last)),
      f32x4.mul(f32x4.splat(least), v128.load(high))
    )
  );
}

/** Places of four values among nodes, from the first to the last. */
function placedOfFour(values: v128, from: v128, per: v128, last: v128): v128 {
  return f32x4.pmin(f32x4.pmax(f32x4.mul(f32x4.sub(values, from), per), f32x4.splat(0)), last);
}

/** Red, green and blue of four places in a cube. */
let outR: v128 = f32x4.splat(0);
let outG: v128 = f32x4.splat(0);
let outB: v128 = f32x4.splat(0);

function ofFour(table: usize, size: i32, x: v128, y: v128, z: v128): void {
  const whole = i32x4.splat(size - 2);
  const cx = i32x4.min_s(i32x4.trunc_sat_f32x4_s(x), whole),
    cy = i32x4.min_s(i32x4.trunc_sat_f32x4_s(y), whole),
    cz = i32x4.min_s(i32x4.trunc_sat_f32x4_s(z), whole);
  const fx = f32x4.sub(x, f32x4.convert_i32x4_s(cx)),
    fy = f32x4.sub(y, f32x4.convert_i32x4_s(cy)),
    fz = f32x4.sub(z, f32x4.convert_i32x4_s(cz));
  const at = i32x4.add(
    i32x4.mul(cx, i32x4.splat(12)),
    i32x4.add(i32x4.mul(cy, i32x4.splat(<i32>strideG)), i32x4.mul(cz, i32x4.splat(<i32>strideB)))
  );
  const one = within(
    table + <usize>i32x4.extract_lane(at, 0),
    f32x4.extract_lane(fx, 0),
    f32x4.extract_lane(fy, 0),
    f32x4.extract_lane(fz, 0)
  );
  const two = within(
    table + <usize>i32x4.extract_lane(at, 1),
    f32x4.extract_lane(fx, 1),
    f32x4.extract_lane(fy, 1),
    f32x4.extract_lane(fz, 1)
  );
  const three = within(
    table + <usize>i32x4.extract_lane(at, 2),
    f32x4.extract_lane(fx, 2),
    f32x4.extract_lane(fy, 2),
    f32x4.extract_lane(fz, 2)
  );
  const four = within(
    table + <usize>i32x4.extract_lane(at, 3),
    f32x4.extract_lane(fx, 3),
    f32x4.extract_lane(fy, 3),
    f32x4.extract_lane(fz, 3)
  );
  const early = v128.shuffle<f32>(one, two, 0, 4, 1, 5),
    late = v128.shuffle<f32>(three, four, 0, 4, 1, 5);
  outR = v128.shuffle<f32>(early, late, 0, 1, 4, 5);
  outG = v128.shuffle<f32>(early, late, 2, 3, 6, 7);
  outB = v128.shuffle<f32>(
    v128.shuffle<f32>(one, two, 2, 6, 2, 6),
    v128.shuffle<f32>(three, four, 2, 6, 2, 6),
    0,
    1,
    4,
    5
  );
}

/** A place as far within the nodes as another is outside of them; one within stays. */
function mirrored(value: v128, from: v128, per: v128, place: v128, last: v128): v128 {
  const asked = f32x4.mul(f32x4.sub(value, from), per);
  const back = f32x4.sub(f32x4.add(place, place), asked);
  return f32x4.pmin(f32x4.pmax(back, f32x4.splat(0)), last);
}

/** By a cube in which red changes fastest (Kasson et al., J. Electronic Imaging 4, 1995). Padded to fours. */
export function throughCube(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  table: usize,
  numbers: usize,
  beyond: i32
): void {
  const fromR = entry(numbers, 0),
    fromG = entry(numbers, 1),
    fromB = entry(numbers, 2);
  const perR = entry(numbers, 3),
    perG = entry(numbers, 4),
    perB = entry(numbers, 5);
  const size = <i32>load<f32>(numbers, 24);
  const amount = entry(numbers, 7);
  const last = f32x4.splat(<f32>(size - 1));
  strideG = <usize>size * 12;
  strideB = <usize>(size * size) * 12;
  for (let i: usize = 0, bytes = (<usize>count) << 2; i < bytes; i += 16) {
    const red = v128.load(r + i),
      green = v128.load(g + i),
      blue = v128.load(b + i);
    const x = placedOfFour(red, fromR, perR, last),
      y = placedOfFour(green, fromG, perG, last),
      z = placedOfFour(blue, fromB, perB, last);
    ofFour(table, size, x, y, z);
    let reds = outR,
      greens = outG,
      blues = outB;
    if (beyond) {
      const mx = mirrored(red, fromR, perR, x, last),
        my = mirrored(green, fromG, perG, y, last),
        mz = mirrored(blue, fromB, perB, z, last);
      const outside = v128.or(v128.or(f32x4.ne(mx, x), f32x4.ne(my, y)), f32x4.ne(mz, z));
      if (v128.any_true(outside)) {
        ofFour(table, size, mx, my, mz);
        reds = v128.bitselect(f32x4.sub(f32x4.add(reds, reds), outR), reds, outside);
        greens = v128.bitselect(f32x4.sub(f32x4.add(greens, greens), outG), greens, outside);
        blues = v128.bitselect(f32x4.sub(f32x4.add(blues, blues), outB), blues, outside);
      }
    }
    v128.store(r + i, f32x4.add(red, f32x4.mul(f32x4.sub(reds, red), amount)));
    v128.store(g + i, f32x4.add(green, f32x4.mul(f32x4.sub(greens, green), amount)));
    v128.store(b + i, f32x4.add(blue, f32x4.mul(f32x4.sub(blues, blue), amount)));
  }
}

/** A value of a curve at a place among its nodes. */
function onCurve(table: usize, at: f32, size: i32): f32 {
  const whole = min(size - 2, <i32>at);
  const low = load<f32>(table + <usize>whole * 12);
  const high = load<f32>(table + <usize>whole * 12, 12);
  return low + (high - low) * (at - <f32>whole);
}

/** Each colour by a curve of its own, straight between its nodes. */
export function throughCurves(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  table: usize,
  numbers: usize,
  beyond: i32
): void {
  const size = <i32>load<f32>(numbers, 24);
  const amount = load<f32>(numbers, 28);
  const last = <f32>(size - 1);
  for (let c = 0; c < 3; c++) {
    const plane = c == 0 ? r : c == 1 ? g : b;
    const own = (<usize>c) << 2;
    const from = load<f32>(numbers + own),
      per = load<f32>(numbers + own, 12);
    for (let i: usize = 0, bytes = (<usize>count) << 2; i < bytes; i += 4) {
      const value = load<f32>(plane + i);
      const at = placed(value, from, per, last);
      let out = onCurve(table + own, at, size);
      if (beyond) {
        const back = at + at - (value - from) * per;
        const bounded: f32 = back > 0 ? (back < last ? back : last) : 0;
        if (bounded != at) out = out + out - onCurve(table + own, bounded, size);
      }
      store<f32>(plane + i, value + (out - value) * amount);
    }
  }
}
