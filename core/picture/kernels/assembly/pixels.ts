/** What is done to pixels one by one: three planes of `count` values each, in place. Padded to a multiple of four values. */

import { entry, mixed as row, smoothShareOf, sumOf, tableBetween } from './vectors';

/** Colours by a matrix; values above `most` count as that. */
export function mixColours(r: usize, g: usize, b: usize, count: i32, matrix: usize, most: f32): void {
  const top = f32x4.splat(most);
  const m0 = entry(matrix, 0),
    m1 = entry(matrix, 1),
    m2 = entry(matrix, 2);
  const m3 = entry(matrix, 3),
    m4 = entry(matrix, 4),
    m5 = entry(matrix, 5);
  const m6 = entry(matrix, 6),
    m7 = entry(matrix, 7),
    m8 = entry(matrix, 8);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = f32x4.pmin(v128.load(r + at), top);
    const green = f32x4.pmin(v128.load(g + at), top);
    const blue = f32x4.pmin(v128.load(b + at), top);
    v128.store(r + at, sumOf(m0, m1, m2, red, green, blue));
    v128.store(g + at, sumOf(m3, m4, m5, red, green, blue));
    v128.store(b + at, sumOf(m6, m7, m8, red, green, blue));
  }
}

/** Four values of a table of `steps` + 2 entries over the roots of 0..1, between its entries. */
function looked(table: usize, values: v128, steps: v128): v128 {
  const bounded = f32x4.pmin(f32x4.pmax(values, f32x4.splat(0)), f32x4.splat(1));
  const position = f32x4.mul(f32x4.sqrt(bounded), steps);
  const whole = i32x4.trunc_sat_f32x4_s(position);
  const share = f32x4.sub(position, f32x4.convert_i32x4_s(whole));
  return tableBetween(table, whole, share);
}

/** Each value of a plane by a table over the roots of 0..1; with `odd`, values below zero by the table of their size, and stay below. */
export function lookUpPlane(plane: usize, count: i32, table: usize, steps: f32, odd: i32): void {
  const all = f32x4.splat(steps);
  const sign = i32x4.splat(odd ? 0x8000_0000 : 0);
  const bytes = (<usize>count) << 2;
  for (let at = plane; at < plane + bytes; at += 16) {
    const value = v128.load(at);
    const turned = v128.and(value, sign);
    v128.store(at, v128.xor(looked(table, v128.xor(value, turned), all), turned));
  }
}

/**
 * Each value of a plane by a table over the roots of 0..1, which goes on straight above 1 by a slope; below 0 values stay as far from
 * the table's first, or with `odd` go by the table of their size, and stay below.
 */
export function bendPlane(plane: usize, count: i32, table: usize, steps: f32, above: f32, odd: i32): void {
  const all = f32x4.splat(steps);
  const slope = f32x4.splat(above);
  const zero = f32x4.splat(0),
    one = f32x4.splat(1);
  const sign = i32x4.splat(odd ? 0x8000_0000 : 0);
  const bytes = (<usize>count) << 2;
  for (let at = plane; at < plane + bytes; at += 16) {
    const signed = v128.load(at);
    const turned = v128.and(signed, sign);
    const value = v128.xor(signed, turned);
    const bounded = f32x4.pmin(f32x4.pmax(value, zero), one);
    const rest = f32x4.sub(value, bounded);
    const beside = v128.bitselect(f32x4.mul(rest, slope), rest, f32x4.gt(rest, zero));
    v128.store(at, v128.xor(f32x4.add(looked(table, bounded, all), beside), turned));
  }
}

/** Three weights of light, as they stand in memory. */
function luminanceOf(weights: usize, r: v128, g: v128, b: v128): v128 {
  return row(weights, 0, r, g, b);
}

/** Colours times a gain by their luminance: a table of `steps` + 2 gains over the roots of the shares of `most`. */
export function scaleByLuminance(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  weights: usize,
  table: usize,
  steps: f32,
  most: f32
): void {
  const all = f32x4.splat(steps);
  const share = f32x4.splat(1 / most);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const gain = looked(table, f32x4.mul(luminanceOf(weights, red, green, blue), share), all);
    v128.store(r + at, f32x4.mul(red, gain));
    v128.store(g + at, f32x4.mul(green, gain));
    v128.store(b + at, f32x4.mul(blue, gain));
  }
}

/**
 * Colours times a gain by how light their strongest parts are: the sum of their cubes by that of their squares, in the
 * primaries that `matrix` leads to. A grey counts as it is, and a strong colour nearly as its largest part. `table` is as for
 * `scaleByLuminance`.
 */
export function scaleByNorm(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  matrix: usize,
  table: usize,
  steps: f32,
  most: f32
): void {
  const all = f32x4.splat(steps);
  const share = f32x4.splat(1 / most);
  const zero = f32x4.splat(0),
    speck = f32x4.splat(1e-12);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const x = f32x4.pmax(zero, row(matrix, 0, red, green, blue)),
      y = f32x4.pmax(zero, row(matrix, 3, red, green, blue)),
      z = f32x4.pmax(zero, row(matrix, 6, red, green, blue));
    const xx = f32x4.mul(x, x),
      yy = f32x4.mul(y, y),
      zz = f32x4.mul(z, z);
    const norm = f32x4.div(
      f32x4.add(f32x4.add(f32x4.mul(xx, x), f32x4.mul(yy, y)), f32x4.mul(zz, z)),
      f32x4.add(f32x4.add(f32x4.add(xx, yy), zz), speck)
    );
    const gain = looked(table, f32x4.mul(norm, share), all);
    v128.store(r + at, f32x4.mul(red, gain));
    v128.store(g + at, f32x4.mul(green, gain));
    v128.store(b + at, f32x4.mul(blue, gain));
  }
}

/** Colours of which one is above 1, drawn towards the grey of their luminance until none is: their hue stays. */
export function fadeToWhite(r: usize, g: usize, b: usize, count: i32, weights: usize): void {
  const one = f32x4.splat(1);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const most = f32x4.pmax(f32x4.pmax(red, green), blue);
    const beyond = f32x4.gt(most, one);
    if (!v128.any_true(beyond)) continue;
    const grey = f32x4.pmin(luminanceOf(weights, red, green, blue), one);
    const kept = f32x4.div(f32x4.sub(one, grey), f32x4.pmax(f32x4.sub(most, grey), f32x4.splat(1e-6)));
    const share = v128.bitselect(kept, one, beyond);
    v128.store(r + at, f32x4.add(grey, f32x4.mul(f32x4.sub(red, grey), share)));
    v128.store(g + at, f32x4.add(grey, f32x4.mul(f32x4.sub(green, grey), share)));
    v128.store(b + at, f32x4.add(grey, f32x4.mul(f32x4.sub(blue, grey), share)));
  }
}

/**
 * Colours that are clipped drawn towards one colour at their green. `numbers` are that colour by its green, the share of it that
 * is taken at most, the clipping levels of the three, and the share of a level from which clipping begins. They count as clipped
 * when two of the three are, or with `all` when the third is as well.
 */
export function drawClipped(r: usize, g: usize, b: usize, count: i32, numbers: usize, all: i32): void {
  const most = entry(numbers, 3);
  const perRed = f32x4.div(f32x4.splat(1), entry(numbers, 4)),
    perGreen = f32x4.div(f32x4.splat(1), entry(numbers, 5)),
    perBlue = f32x4.div(f32x4.splat(1), entry(numbers, 6));
  const begins = entry(numbers, 7);
  const one = f32x4.splat(1);
  const perRise = f32x4.div(one, f32x4.sub(one, begins));
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const x = f32x4.mul(red, perRed),
      y = f32x4.mul(green, perGreen),
      z = f32x4.mul(blue, perBlue);
    const low = f32x4.pmin(x, y);
    const level = all ? f32x4.pmin(low, z) : f32x4.pmax(low, f32x4.pmin(f32x4.pmax(x, y), z));
    if (!v128.any_true(f32x4.gt(level, begins))) continue;
    const share = f32x4.mul(smoothShareOf(f32x4.mul(f32x4.sub(level, begins), perRise)), most);
    // As light as green, or as red and blue where both are lighter.
    const light = f32x4.pmax(green, f32x4.pmin(red, blue));
    v128.store(r + at, f32x4.add(red, f32x4.mul(f32x4.sub(f32x4.mul(light, entry(numbers, 0)), red), share)));
    v128.store(
      g + at,
      f32x4.add(green, f32x4.mul(f32x4.sub(f32x4.mul(light, entry(numbers, 1)), green), share))
    );
    v128.store(
      b + at,
      f32x4.add(blue, f32x4.mul(f32x4.sub(f32x4.mul(light, entry(numbers, 2)), blue), share))
    );
  }
}

/** Values of a plane times those of gains between a mesh's nodes: `count` pixels from column `left` on of mesh row `fy`. */
export function multiplyBetween(
  plane: usize,
  count: i32,
  nodes: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32
): void {
  const position = (<f64>row + 0.5) / <f64>step;
  const meshRow = <i32>position;
  const fy = <f32>(position - <f64>meshRow);
  const end = left + count;
  const ramp = f32x4(0, 1, 2, 3);
  for (let column = left / step; column * step < end; column++) {
    const above = nodes + ((<usize>(meshRow * columns + column)) << 2);
    const below = above + ((<usize>columns) << 2);
    const start = load<f32>(above) * (1 - fy) + load<f32>(below) * fy;
    const slope = (load<f32>(above, 4) * (1 - fy) + load<f32>(below, 4) * fy - start) / <f32>step;
    const first = max(left, column * step);
    const last = min(end, (column + 1) * step);
    const value = start + slope * (<f32>(first - column * step) + 0.5);
    let at = plane + ((<usize>(first - left)) << 2);
    let n = first;
    let gains = f32x4.add(f32x4.splat(value), f32x4.mul(f32x4.splat(slope), ramp));
    const four = f32x4.splat(slope * 4);
    for (; n + 4 <= last; n += 4, at += 16) {
      v128.store(at, f32x4.mul(v128.load(at), gains));
      gains = f32x4.add(gains, four);
    }
    for (; n < last; n++, at += 4) store<f32>(at, load<f32>(at) * (value + slope * <f32>(n - first)));
  }
}
