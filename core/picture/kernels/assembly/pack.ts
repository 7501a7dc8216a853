/** Rows of encoded values as a picture's numbers, rounded; black, or clear, where there is no real pixel. */

function whole(values: v128, most: v128): v128 {
  const bounded = f32x4.pmin(f32x4.pmax(values, f32x4.splat(0)), f32x4.splat(1));
  return i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(bounded, most), f32x4.splat(0.5)));
}

/** Numbers that are near enough to whole ones to stay as they are: what is even is left even. */
const WHOLE: f32 = 1.0 / 64.0;

/** Four numbers of 32 bits without a pattern that could be seen, of four places: always the same of the same. */
function scattered(places: v128): v128 {
  let h = i32x4.mul(v128.xor(places, i32x4.shr_u(places, 15)), i32x4.splat(0x2c1b_3c6d));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 12)), i32x4.splat(0x297a_2d39));
  return v128.xor(h, i32x4.shr_u(h, 15));
}

/** Other numbers of the same places. */
function scatteredAgain(h: v128): v128 {
  const other = i32x4.mul(h, i32x4.splat(<i32>0x9e37_79b1));
  return v128.xor(other, i32x4.shr_u(other, 16));
}

/** Values in codes, which of them differ by less than one from the next ones, and are not whole. */
let value: v128 = f32x4.splat(0);
let open: v128 = f32x4.splat(0);

/** `last`: lanes without a next one. */
function look(plane: usize, last: v128, most: v128): void {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1);
  value = f32x4.mul(f32x4.pmin(f32x4.pmax(v128.load(plane), zero), one), most);
  const next = f32x4.mul(f32x4.pmin(f32x4.pmax(v128.load(plane, 4), zero), one), most);
  const even = v128.or(last, f32x4.lt(f32x4.abs(f32x4.sub(next, value)), one));
  const apart = f32x4.abs(f32x4.sub(value, f32x4.nearest(value)));
  open = v128.and(even, f32x4.gt(apart, f32x4.splat(WHOLE)));
}

/**
 * Values as whole numbers up to `most`, the open ones with a triangular dither of one code, by the sum of the lower two bytes of a
 * random number: steps of an even gradient cannot be seen then, and its mean stays (Lipshitz, Wannamaker & Vanderkooy 1992).
 */
function dithered(values: v128, opened: v128, random: v128, most: v128): v128 {
  const bytes = i32x4.splat(0xff);
  const sum = i32x4.add(v128.and(random, bytes), v128.and(i32x4.shr_u(random, 8), bytes));
  const triangle = f32x4.mul(
    f32x4.sub(f32x4.convert_i32x4_s(sum), f32x4.splat(255)),
    f32x4.splat(1.0 / 256.0)
  );
  const moved = f32x4.add(values, v128.and(triangle, opened));
  return i32x4.trunc_sat_f32x4_u(
    f32x4.add(f32x4.pmin(f32x4.pmax(moved, f32x4.splat(0)), most), f32x4.splat(0.5))
  );
}

/** 8 bits: interleaved RGB of some rows of a picture, of which the first is row `top`. */
export function packRgb8(
  r: usize,
  g: usize,
  b: usize,
  valid: usize,
  width: i32,
  height: i32,
  top: i32,
  out: usize
): void {
  const most = f32x4.splat(255);
  const ramp = i32x4(0, 1, 2, 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x += 4) {
      const i = y * width + x;
      const at = (<usize>i) << 2;
      const columns = i32x4.add(i32x4.splat(x), ramp);
      const last = i32x4.ge_s(columns, i32x4.splat(width - 1));
      look(r + at, last, most);
      const reds = value,
        openR = open;
      look(g + at, last, most);
      const greens = value,
        openG = open;
      look(b + at, last, most);
      const blues = value,
        openB = open;
      let first = i32x4.splat(0),
        second = first;
      if (v128.any_true(v128.or(openR, v128.or(openG, openB)))) {
        first = scattered(
          i32x4.add(
            i32x4.mul(columns, i32x4.splat(<i32>0x9e37_79b1)),
            i32x4.splat((top + y) * <i32>0x85eb_ca77)
          )
        );
        second = scatteredAgain(first);
      }
      const red = dithered(reds, openR, first, most);
      const green = dithered(greens, openG, i32x4.shr_u(first, 16), most);
      const blue = dithered(blues, openB, second, most);
      const packed = v128.or(red, v128.or(i32x4.shl(green, 8), i32x4.shl(blue, 16)));
      if (x + 4 <= width) {
        const real = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(valid + i)));
        const seen = v128.and(packed, i32x4.neg(real));
        const close = v128.shuffle<u8>(seen, seen, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 0, 0, 0, 0);
        v128.store64_lane(out, close, 0);
        v128.store32_lane(out, close, 2, 8);
        out += 12;
        continue;
      }
      put8(out, <u32>i32x4.extract_lane(packed, 0) * load<u8>(valid + i));
      if (x + 1 < width) put8(out + 3, <u32>i32x4.extract_lane(packed, 1) * load<u8>(valid + i, 1));
      if (x + 2 < width) put8(out + 6, <u32>i32x4.extract_lane(packed, 2) * load<u8>(valid + i, 2));
      out += 3 * (width - x);
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
