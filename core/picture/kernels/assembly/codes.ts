/** Interleaved 16-bit codes to planes by a table of 65,536 values, and planes to stored codes. */

/** `count` pixels from `codes` on to `count` values of each plane. */
export function fillFromCodes(codes: usize, count: i32, table: usize, r: usize, g: usize, b: usize): void {
  for (let i = 0; i < count; i++) {
    store<f32>(r, load<f32>(table + ((<usize>load<u16>(codes)) << 2)));
    store<f32>(g, load<f32>(table + ((<usize>load<u16>(codes, 2)) << 2)));
    store<f32>(b, load<f32>(table + ((<usize>load<u16>(codes, 4)) << 2)));
    codes += 6;
    r += 4;
    g += 4;
    b += 4;
  }
}

/** code = √value · scale, rounded, 0 to 65535. */
export function storeCodes(r: usize, g: usize, b: usize, count: i32, out: usize, scale: f32): void {
  const factor = f32x4.splat(scale);
  const half = f32x4.splat(0.5);
  const zero = f32x4.splat(0);
  const most = f32x4.splat(65535.5);
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const red = encoded(v128.load(r), zero, factor, half, most);
    const green = encoded(v128.load(g), zero, factor, half, most);
    const blue = encoded(v128.load(b), zero, factor, half, most);
    store<u16>(out, <u16>i32x4.extract_lane(red, 0), 0);
    store<u16>(out, <u16>i32x4.extract_lane(green, 0), 2);
    store<u16>(out, <u16>i32x4.extract_lane(blue, 0), 4);
    store<u16>(out, <u16>i32x4.extract_lane(red, 1), 6);
    store<u16>(out, <u16>i32x4.extract_lane(green, 1), 8);
    store<u16>(out, <u16>i32x4.extract_lane(blue, 1), 10);
    store<u16>(out, <u16>i32x4.extract_lane(red, 2), 12);
    store<u16>(out, <u16>i32x4.extract_lane(green, 2), 14);
    store<u16>(out, <u16>i32x4.extract_lane(blue, 2), 16);
    store<u16>(out, <u16>i32x4.extract_lane(red, 3), 18);
    store<u16>(out, <u16>i32x4.extract_lane(green, 3), 20);
    store<u16>(out, <u16>i32x4.extract_lane(blue, 3), 22);
    out += 24;
    r += 16;
    g += 16;
    b += 16;
  }
  for (; i < count; i++) {
    store<u16>(out, encodedOne(load<f32>(r), scale));
    store<u16>(out, encodedOne(load<f32>(g), scale), 2);
    store<u16>(out, encodedOne(load<f32>(b), scale), 4);
    out += 6;
    r += 4;
    g += 4;
    b += 4;
  }
}

function encoded(value: v128, zero: v128, factor: v128, half: v128, most: v128): v128 {
  const root = f32x4.sqrt(f32x4.pmax(value, zero));
  return i32x4.trunc_sat_f32x4_u(f32x4.pmin(f32x4.add(f32x4.mul(root, factor), half), most));
}

function encodedOne(value: f32, scale: f32): u16 {
  return value > 0 ? <u16>min<f32>(65535, Mathf.sqrt(value) * scale + 0.5) : 0;
}
