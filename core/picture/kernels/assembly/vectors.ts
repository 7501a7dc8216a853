/** What several kernels do to four values at once. */

/** Cube root of four values, by Halley's method from a guess that a third of the exponent gives. */
export function cubeRoot(value: v128): v128 {
  const sign = v128.and(value, i32x4.splat(0x8000_0000));
  const x = v128.andnot(value, i32x4.splat(0x8000_0000));
  const bits = f32x4.convert_i32x4_s(x);
  let y = i32x4.add(
    i32x4.trunc_sat_f32x4_s(f32x4.mul(bits, f32x4.splat(<f32>(1.0 / 3.0)))),
    i32x4.splat(709_921_077)
  );
  const two = f32x4.splat(2);
  for (let k = 0; k < 2; k++) {
    const cube = f32x4.mul(f32x4.mul(y, y), y);
    y = f32x4.mul(y, f32x4.div(f32x4.add(cube, f32x4.mul(two, x)), f32x4.add(f32x4.mul(two, cube), x)));
  }
  // The root of nothing is nothing; the guess would leave a speck.
  return v128.or(v128.and(y, f32x4.gt(x, f32x4.splat(1e-30))), sign);
}

/** A number of a table in all four places. */
export function entry(matrix: usize, i: usize): v128 {
  return v128.load32_splat(matrix + (i << 2));
}

/** A row of a matrix, from its first entry on, on three values. */
export function mixed(matrix: usize, i: usize, r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(entry(matrix, i), r), f32x4.mul(entry(matrix, i + 1), g)),
    f32x4.mul(entry(matrix, i + 2), b)
  );
}

/** Three values by three factors, summed. */
export function sumOf(m0: v128, m1: v128, m2: v128, r: v128, g: v128, b: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(m0, r), f32x4.mul(m1, g)), f32x4.mul(m2, b));
}

/** Four values of a table, each a share of the way from its whole place to the next. */
export function tableBetween(table: usize, whole: v128, share: v128): v128 {
  const a = v128.load64_zero(table + ((<usize>i32x4.extract_lane(whole, 0)) << 2));
  const b = v128.load64_zero(table + ((<usize>i32x4.extract_lane(whole, 1)) << 2));
  const c = v128.load64_zero(table + ((<usize>i32x4.extract_lane(whole, 2)) << 2));
  const d = v128.load64_zero(table + ((<usize>i32x4.extract_lane(whole, 3)) << 2));
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const low = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5);
  const high = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  return f32x4.add(low, f32x4.mul(f32x4.sub(high, low), share));
}

export function cube(x: v128): v128 {
  return f32x4.mul(f32x4.mul(x, x), x);
}

/** How far into a plane a row begins, in bytes; beyond the plane it is the last that is there. */
export function lineOf(y: i32, height: i32, bytes: usize): usize {
  return <usize>max(0, min(height - 1, y)) * bytes;
}

/** Four values from an address, of which only the first `left` may be read. */
export function loadPart(at: usize, left: i32): v128 {
  if (left >= 4) return v128.load(at);
  let values = f32x4.splat(load<f32>(at));
  if (left > 1) values = f32x4.replace_lane(values, 1, load<f32>(at, 4));
  if (left > 2) values = f32x4.replace_lane(values, 2, load<f32>(at, 8));
  return values;
}

/** Four values to an address, of which only the first `left` may be written. */
export function storePart(at: usize, values: v128, left: i32): void {
  if (left >= 4) return v128.store(at, values);
  store<f32>(at, f32x4.extract_lane(values, 0));
  if (left > 1) store<f32>(at, f32x4.extract_lane(values, 1), 4);
  if (left > 2) store<f32>(at, f32x4.extract_lane(values, 2), 8);
}

/** Shares that the colours of linear Rec. 2020 have in its light. */
export const OF_RED: f32 = 0.2627;
export const OF_GREEN: f32 = 0.678;
export const OF_BLUE: f32 = 0.0593;

/** Light of four colours of linear Rec. 2020. */
export function lightOf(r: v128, g: v128, b: v128): v128 {
  return sumOf(f32x4.splat(OF_RED), f32x4.splat(OF_GREEN), f32x4.splat(OF_BLUE), r, g, b);
}

/** Values as far as 0 below and 1 above. */
export function shareOf(values: v128): v128 {
  return f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), values));
}

/** The same, level at both ends and smooth between. */
export function smoothShareOf(values: v128): v128 {
  const share = shareOf(values);
  return f32x4.mul(f32x4.mul(share, share), f32x4.sub(f32x4.splat(3), f32x4.mul(f32x4.splat(2), share)));
}

/** Four values a share of the way to four others. */
export function drawnTo(from: v128, to: v128, share: v128): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), share));
}
