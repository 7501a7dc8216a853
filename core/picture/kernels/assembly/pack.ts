/** Rows of encoded values as a picture's numbers, rounded; black, or clear, where there is no real pixel. */

function whole(values: v128, most: v128): v128 {
  const bounded = f32x4.pmin(f32x4.pmax(values, f32x4.splat(0)), f32x4.splat(1));
  return i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(bounded, most), f32x4.splat(0.5)));
}

/** 8 bits: interleaved RGB. */
export function packRgb8(r: usize, g: usize, b: usize, valid: usize, count: i32, out: usize): void {
  const most = f32x4.splat(255);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const red = whole(v128.load(r + at), most);
    const green = whole(v128.load(g + at), most);
    const blue = whole(v128.load(b + at), most);
    const packed = v128.or(red, v128.or(i32x4.shl(green, 8), i32x4.shl(blue, 16)));
    put8(out, <u32>i32x4.extract_lane(packed, 0) * load<u8>(valid + i));
    if (i + 1 < count) put8(out + 3, <u32>i32x4.extract_lane(packed, 1) * load<u8>(valid + i, 1));
    if (i + 2 < count) put8(out + 6, <u32>i32x4.extract_lane(packed, 2) * load<u8>(valid + i, 2));
    if (i + 3 < count) put8(out + 9, <u32>i32x4.extract_lane(packed, 3) * load<u8>(valid + i, 3));
    out += 12;
  }
}

function put8(out: usize, packed: u32): void {
  store<u16>(out, <u16>packed);
  store<u8>(out, <u8>(packed >>> 16), 2);
}

/** 16 bits: interleaved RGB. */
export function packRgb16(r: usize, g: usize, b: usize, valid: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2;
    const real = <f32>load<u8>(valid + i) * 65535;
    store<u16>(out, <u16>(bounded(load<f32>(r + at)) * real + 0.5));
    store<u16>(out, <u16>(bounded(load<f32>(g + at)) * real + 0.5), 2);
    store<u16>(out, <u16>(bounded(load<f32>(b + at)) * real + 0.5), 4);
    out += 6;
  }
}

function bounded(value: f32): f32 {
  return max<f32>(0, min<f32>(1, value));
}

/** 8 bits with how far a pixel is real as the fourth, for a canvas. */
export function packRgba8(r: usize, g: usize, b: usize, valid: usize, count: i32, out: usize): void {
  const most = f32x4.splat(255);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const red = whole(v128.load(r + at), most);
    const green = whole(v128.load(g + at), most);
    const blue = whole(v128.load(b + at), most);
    const packed = v128.or(red, v128.or(i32x4.shl(green, 8), i32x4.shl(blue, 16)));
    // 1 becomes 255, in the highest byte.
    const real = v128.load32_zero(valid + i);
    const lanes = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(real));
    const alpha = i32x4.shl(i32x4.neg(lanes), 24);
    const pixels = v128.or(packed, alpha);
    if (i + 4 <= count) v128.store(out, pixels);
    else {
      store<u32>(out, i32x4.extract_lane(pixels, 0));
      if (i + 1 < count) store<u32>(out, i32x4.extract_lane(pixels, 1), 4);
      if (i + 2 < count) store<u32>(out, i32x4.extract_lane(pixels, 2), 8);
    }
    out += 16;
  }
}
