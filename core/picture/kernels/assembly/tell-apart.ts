/** Lines that tell inside from outside of a mask by two features of the picture (Fisher's linear discriminant), cell by cell. */

const ONE: f32 = 1;

/** Planes of a side, one after another, each of `stride` bytes: weight, light, hue, their squares, and their product. */
const LIGHT: usize = 1;
const HUE: usize = 2;
const LIGHT_SQUARE: usize = 3;
const HUE_SQUARE: usize = 4;
const BOTH: usize = 5;

/**
 * Weighs what each cell has by how surely it is inside, or outside: w = p (p² + speck), of a share p. `count` is a multiple of four,
 * as far as memory reaches.
 */
export function weighSide(
  share: usize,
  light: usize,
  hue: usize,
  count: i32,
  outside: i32,
  speck: f32,
  side: usize,
  stride: usize
): void {
  const one = f32x4.splat(ONE),
    least = f32x4.splat(speck);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    let part = v128.load(share + at);
    if (outside) part = f32x4.sub(one, part);
    const weight = f32x4.mul(part, f32x4.add(f32x4.mul(part, part), least));
    const l = v128.load(light + at),
      h = v128.load(hue + at);
    const wl = f32x4.mul(weight, l),
      wh = f32x4.mul(weight, h);
    const to = side + at;
    v128.store(to, weight);
    v128.store(to + LIGHT * stride, wl);
    v128.store(to + HUE * stride, wh);
    v128.store(to + LIGHT_SQUARE * stride, f32x4.mul(wl, l));
    v128.store(to + HUE_SQUARE * stride, f32x4.mul(wh, h));
    v128.store(to + BOTH * stride, f32x4.mul(wl, h));
  }
}

/**
 * The line about each cell, from means of both sides: two slopes, an offset, and how much of the mask is kept, one cell after another in
 * `out`; what the line makes of the cell itself to `share`. `numbers`: the variance that each feature has at least, the separation that a
 * line is half trusted at, how far it is drawn out, and the difference of the mask within reach from which on there is an edge.
 */
export function tellApart(
  inside: usize,
  outside: usize,
  stride: usize,
  mask: usize,
  lowest: usize,
  highest: usize,
  light: usize,
  hue: usize,
  count: i32,
  numbers: usize,
  out: usize,
  share: usize
): void {
  const least = v128.load32_splat(numbers),
    half = v128.load32_splat(numbers + 4),
    drawn = v128.load32_splat(numbers + 8),
    edge = v128.load32_splat(numbers + 12);
  const zero = f32x4.splat(0),
    one = f32x4.splat(ONE),
    point5 = f32x4.splat(0.5),
    speck = f32x4.splat(1e-9);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const kept = v128.load(mask + at);
    const near = f32x4.ge(f32x4.sub(v128.load(highest + at), v128.load(lowest + at)), edge);
    let tilt = zero,
      turn = zero,
      offset = zero,
      keep = one;
    if (v128.any_true(near)) {
      const i = inside + at,
        o = outside + at;
      const perIn = f32x4.div(one, f32x4.pmax(speck, v128.load(i)));
      const perOut = f32x4.div(one, f32x4.pmax(speck, v128.load(o)));
      const lightIn = f32x4.mul(v128.load(i + LIGHT * stride), perIn),
        lightOut = f32x4.mul(v128.load(o + LIGHT * stride), perOut);
      const hueIn = f32x4.mul(v128.load(i + HUE * stride), perIn),
        hueOut = f32x4.mul(v128.load(o + HUE * stride), perOut);
      const lightSpread = spread(
        i,
        o,
        LIGHT_SQUARE * stride,
        perIn,
        perOut,
        lightIn,
        lightIn,
        lightOut,
        lightOut
      );
      const hueSpread = spread(i, o, HUE_SQUARE * stride, perIn, perOut, hueIn, hueIn, hueOut, hueOut);
      const both = spread(i, o, BOTH * stride, perIn, perOut, lightIn, hueIn, lightOut, hueOut);
      const a = f32x4.add(least, f32x4.pmax(zero, lightSpread)),
        b = f32x4.add(least, f32x4.pmax(zero, hueSpread));
      const determinant = f32x4.pmax(speck, f32x4.sub(f32x4.mul(a, b), f32x4.mul(both, both)));
      const dx = f32x4.sub(lightIn, lightOut),
        dy = f32x4.sub(hueIn, hueOut);
      const x = f32x4.div(f32x4.sub(f32x4.mul(b, dx), f32x4.mul(both, dy)), determinant);
      const y = f32x4.div(f32x4.sub(f32x4.mul(a, dy), f32x4.mul(both, dx)), determinant);
      // Squared distance of the two, in deviations (Mahalanobis).
      const apart = f32x4.add(f32x4.mul(x, dx), f32x4.mul(y, dy));
      const sure = f32x4.pmax(zero, f32x4.div(apart, f32x4.add(apart, half)));
      const scale = f32x4.div(f32x4.mul(sure, drawn), f32x4.pmax(f32x4.splat(1e-6), apart));
      const middle = f32x4.add(
        f32x4.mul(x, f32x4.add(lightIn, lightOut)),
        f32x4.mul(y, f32x4.add(hueIn, hueOut))
      );
      tilt = v128.and(f32x4.mul(x, scale), near);
      turn = v128.and(f32x4.mul(y, scale), near);
      offset = v128.and(f32x4.mul(point5, f32x4.sub(sure, f32x4.mul(scale, middle))), near);
      keep = f32x4.sub(one, v128.and(sure, near));
    }
    let told = f32x4.add(f32x4.mul(tilt, v128.load(light + at)), f32x4.mul(turn, v128.load(hue + at)));
    told = f32x4.add(f32x4.add(told, offset), f32x4.mul(keep, kept));
    v128.store(share + at, f32x4.pmin(one, f32x4.pmax(zero, told)));
    storeFours(out + (at << 2), tilt, turn, offset, keep);
  }
}

/** Half the sum of a spread on both sides: mean of products less the product of means. */
function spread(
  inside: usize,
  outside: usize,
  plane: usize,
  perIn: v128,
  perOut: v128,
  oneIn: v128,
  otherIn: v128,
  oneOut: v128,
  otherOut: v128
): v128 {
  const within = f32x4.sub(f32x4.mul(v128.load(inside + plane), perIn), f32x4.mul(oneIn, otherIn));
  const without = f32x4.sub(f32x4.mul(v128.load(outside + plane), perOut), f32x4.mul(oneOut, otherOut));
  return f32x4.mul(f32x4.splat(0.5), f32x4.add(within, without));
}

/** Four numbers of each of four cells, cell by cell. */
function storeFours(to: usize, a: v128, b: v128, c: v128, d: v128): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5),
    cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const abHigh = v128.shuffle<f32>(a, b, 2, 6, 3, 7),
    cdHigh = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  v128.store(to, v128.shuffle<f32>(ab, cd, 0, 1, 4, 5));
  v128.store(to, v128.shuffle<f32>(ab, cd, 2, 3, 6, 7), 16);
  v128.store(to, v128.shuffle<f32>(abHigh, cdHigh, 0, 1, 4, 5), 32);
  v128.store(to, v128.shuffle<f32>(abHigh, cdHigh, 2, 3, 6, 7), 48);
}
