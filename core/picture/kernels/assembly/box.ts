/** Means over squares, and the guided filter made of them (He, Sun & Tang 2013). */

import { loadPart, storePart } from './vectors';

/**
 * Mean within squares of 2 radius + 1 pixels, cut off at the border; `out` may be the plane itself. `across` is worked in: a
 * plane, then a row in double precision.
 */
export function boxMean(plane: usize, width: i32, height: i32, radius: i32, across: usize, out: usize): void {
  for (let y = 0; y < height; y++) {
    const row = (<usize>(y * width)) << 2;
    let total: f64 = 0;
    for (let x = 0; x < min(radius, width); x++) total += load<f32>(plane + row + ((<usize>x) << 2));
    const from = plane + row;
    const to = across + row;
    const inner = max(0, min(width, width - radius));
    let x = 0;
    for (; x < min(radius + 1, inner); x++) {
      total += load<f32>(from + ((<usize>(x + radius)) << 2));
      store<f32>(to + ((<usize>x) << 2), <f32>(total / <f64>(x + radius + 1)));
    }
    // Away from the borders one sum follows from the last.
    const share = 1 / <f64>(2 * radius + 1);
    const reach = (<usize>radius) << 2;
    for (; x < inner; x++) {
      const at = from + ((<usize>x) << 2);
      total += <f64>load<f32>(at + reach) - <f64>load<f32>(at - reach - 4);
      store<f32>(to + ((<usize>x) << 2), <f32>(total * share));
    }
    for (; x < width; x++) {
      if (x - radius > 0) total -= load<f32>(from + ((<usize>(x - radius - 1)) << 2));
      const count = width - max(0, x - radius);
      store<f32>(to + ((<usize>x) << 2), <f32>(total / <f64>count));
    }
  }
  // Sums of columns row by row, in double precision, so that nothing is left over after many rows.
  const sums = across + ((((<usize>(width * height)) << 2) + 15) & ~15);
  memory.fill(sums, 0, ((<usize>width) << 3) + 32);
  for (let y = 0; y < height + radius; y++) {
    if (y < height) addRow(sums, across + ((<usize>(y * width)) << 2), width, 1);
    const at = y - radius;
    if (at < 0) continue;
    if (at - radius > 0) addRow(sums, across + ((<usize>((at - radius - 1) * width)) << 2), width, -1);
    const share = f64x2.splat(1 / <f64>(min(height - 1, at + radius) - max(0, at - radius) + 1));
    const to = out + ((<usize>(at * width)) << 2);
    for (let x = 0; x < width; x += 4) {
      const low = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(sums + ((<usize>x) << 3)), share));
      const high = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(sums + ((<usize>x) << 3), 16), share));
      const mean = v128.shuffle<f32>(low, high, 0, 1, 4, 5);
      storePart(to + ((<usize>x) << 2), mean, width - x);
    }
  }
}

/** Adds a row of single precision to sums in double, or takes it away. Up to three values beyond its end come along. */
function addRow(sums: usize, row: usize, width: i32, sign: f64): void {
  const signs = f64x2.splat(sign);
  for (let x = 0; x < width; x += 4) {
    const values = v128.load(row + ((<usize>x) << 2));
    const at = sums + ((<usize>x) << 3);
    const low = f64x2.promote_low_f32x4(values);
    const high = f64x2.promote_low_f32x4(v128.shuffle<f32>(values, values, 2, 3, 2, 3));
    v128.store(at, f64x2.add(v128.load(at), f64x2.mul(low, signs)));
    v128.store(at, f64x2.add(v128.load(at, 16), f64x2.mul(high, signs)), 16);
  }
}

/** Product of two planes. */
export function multiplyPlanes(one: usize, other: usize, count: i32, out: usize): void {
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16)
    v128.store(out + at, f32x4.mul(v128.load(one + at), v128.load(other + at)));
}

/** Adds `factor` of a plane to another. */
export function addScaled(plane: usize, count: i32, factor: f32, out: usize): void {
  const factors = f32x4.splat(factor);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const values = f32x4.mul(factors, loadPart(plane + at, count - i));
    storePart(out + at, f32x4.add(loadPart(out + at, count - i), values), count - i);
  }
}

/**
 * Slope and offset of the line that tells the input from the guide about each pixel, from the means of guide, input, their
 * product, and the guide's square; slopes to `squares`, offsets to `products`.
 */
export function guidedLines(
  guide: usize,
  input: usize,
  products: usize,
  squares: usize,
  count: i32,
  epsilon: f32
): void {
  const bytes = (<usize>count) << 2;
  const least = f32x4.splat(epsilon);
  for (let at: usize = 0; at < bytes; at += 16) {
    const i = v128.load(guide + at);
    const p = v128.load(input + at);
    const covariance = f32x4.sub(v128.load(products + at), f32x4.mul(i, p));
    const variance = f32x4.pmax(f32x4.splat(0), f32x4.sub(v128.load(squares + at), f32x4.mul(i, i)));
    const slope = f32x4.div(covariance, f32x4.add(variance, least));
    v128.store(squares + at, slope);
    v128.store(products + at, f32x4.sub(p, f32x4.mul(slope, i)));
  }
}
