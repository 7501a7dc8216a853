/** Means over squares, and the guided filter made of them (He, Sun & Tang 2013). */

/** Mean within squares of 2 radius + 1 pixels, cut off at the border. `across` is worked in. */
export function boxMean(plane: usize, width: i32, height: i32, radius: i32, across: usize, out: usize): void {
  for (let y = 0; y < height; y++) {
    const row = (<usize>(y * width)) << 2;
    let total: f64 = 0;
    for (let x = 0; x < min(radius, width); x++) total += load<f32>(plane + row + ((<usize>x) << 2));
    for (let x = 0; x < width; x++) {
      if (x + radius < width) total += load<f32>(plane + row + ((<usize>(x + radius)) << 2));
      if (x - radius > 0) total -= load<f32>(plane + row + ((<usize>(x - radius - 1)) << 2));
      const count = min(width - 1, x + radius) - max(0, x - radius) + 1;
      store<f32>(across + row + ((<usize>x) << 2), <f32>(total / count));
    }
  }
  // Columns four at a time, each in double precision, so that nothing is left over after many rows.
  for (let x = 0; x < width; x += 4) {
    let low = f64x2.splat(0);
    let high = f64x2.splat(0);
    const column = (<usize>x) << 2;
    for (let y = 0; y < height + radius; y++) {
      if (y < height) {
        const values = v128.load(across + column + ((<usize>(y * width)) << 2));
        low = f64x2.add(low, f64x2.promote_low_f32x4(values));
        high = f64x2.add(high, f64x2.promote_low_f32x4(v128.shuffle<f32>(values, values, 2, 3, 2, 3)));
      }
      const at = y - radius;
      if (at < 0) continue;
      if (at - radius > 0) {
        const values = v128.load(across + column + ((<usize>((at - radius - 1) * width)) << 2));
        low = f64x2.sub(low, f64x2.promote_low_f32x4(values));
        high = f64x2.sub(high, f64x2.promote_low_f32x4(v128.shuffle<f32>(values, values, 2, 3, 2, 3)));
      }
      const count = f64x2.splat(<f64>(min(height - 1, at + radius) - max(0, at - radius) + 1));
      const mean = v128.shuffle<f32>(
        f32x4.demote_f64x2_zero(f64x2.div(low, count)),
        f32x4.demote_f64x2_zero(f64x2.div(high, count)),
        0,
        1,
        4,
        5
      );
      const to = out + column + ((<usize>(at * width)) << 2);
      if (x + 4 <= width) v128.store(to, mean);
      else {
        store<f32>(to, f32x4.extract_lane(mean, 0));
        if (width - x > 1) store<f32>(to, f32x4.extract_lane(mean, 1), 4);
        if (width - x > 2) store<f32>(to, f32x4.extract_lane(mean, 2), 8);
      }
    }
  }
}

/** Product of two planes. */
export function multiplyPlanes(one: usize, other: usize, count: i32, out: usize): void {
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16)
    v128.store(out + at, f32x4.mul(v128.load(one + at), v128.load(other + at)));
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
