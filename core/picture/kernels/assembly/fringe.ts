/**
 * Removal of thin coloured borders (`fringe/remove-fringe.ts` says what it does): to Oklab, a morphological opening of the
 * chroma in a fringe's hues, the change of lightness about each pixel, and back. Planes stand one after another in `work`,
 * `size` values each: lightness, a, b, share taken, change of lightness, and three more to work in.
 */

import { cube, cubeRoot, entry, mixed, storePart } from './vectors';

/** Oklab of linear colours: `toLms` from the planes' own to cone responses, `toLab` from their roots. */
export function toOklab(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  toLms: usize,
  toLab: usize,
  lightness: usize,
  a: usize,
  bb: usize
): void {
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at);
    const green = v128.load(g + at);
    const blue = v128.load(b + at);
    const l = cubeRoot(mixed(toLms, 0, red, green, blue));
    const m = cubeRoot(mixed(toLms, 3, red, green, blue));
    const s = cubeRoot(mixed(toLms, 6, red, green, blue));
    v128.store(lightness + at, mixed(toLab, 0, l, m, s));
    v128.store(a + at, mixed(toLab, 3, l, m, s));
    v128.store(bb + at, mixed(toLab, 6, l, m, s));
  }
}

/** Least or greatest values within squares of 2 radius + 1 pixels, cut off at the border. `across` is worked in. */
export function extremes(
  plane: usize,
  width: i32,
  height: i32,
  radius: i32,
  greatest: i32,
  across: usize,
  out: usize
): void {
  for (let y = 0; y < height; y++) {
    const row = (<usize>(y * width)) << 2;
    const from = plane + row;
    const to = across + row;
    for (let x = 0; x < width;) {
      if (x >= radius && x + 4 + radius <= width) {
        let at = from + ((<usize>(x - radius)) << 2);
        let found = v128.load(at);
        for (let k = 0; k < 2 * radius; k++) {
          at += 4;
          found = greatest ? f32x4.pmax(found, v128.load(at)) : f32x4.pmin(found, v128.load(at));
        }
        v128.store(to + ((<usize>x) << 2), found);
        x += 4;
      } else {
        const last = min(width - 1, x + radius);
        let found = load<f32>(from + ((<usize>x) << 2));
        for (let k = max(0, x - radius); k <= last; k++) {
          const value = load<f32>(from + ((<usize>k) << 2));
          found = greatest ? max(found, value) : min(found, value);
        }
        store<f32>(to + ((<usize>x) << 2), found);
        x++;
      }
    }
  }
  for (let y = 0; y < height; y++) {
    const first = max(0, y - radius);
    const last = min(height - 1, y + radius);
    const to = out + ((<usize>(y * width)) << 2);
    for (let x = 0; x < width; x += 4) {
      let at = across + ((<usize>(first * width + x)) << 2);
      let found = v128.load(at);
      for (let k = first; k < last; k++) {
        at += (<usize>width) << 2;
        found = greatest ? f32x4.pmax(found, v128.load(at)) : f32x4.pmin(found, v128.load(at));
      }
      storePart(to + ((<usize>x) << 2), found, width - x);
    }
  }
}

function smooth(value: f32, low: f32, high: f32): f32 {
  const t = min<f32>(1, max<f32>(0, (value - low) / (high - low)));
  return t * t * (3 - 2 * t);
}

/**
 * Chroma of each pixel as far as its hue belongs to a fringe colour: in full within `half` radians of the middle, not at all
 * from `soft` further on; 0 below `least`.
 */
export function chromaOfHue(
  a: usize,
  b: usize,
  count: i32,
  cosine: f32,
  sine: f32,
  half: f32,
  soft: f32,
  least: f32,
  out: usize
): void {
  const widest = <f32>Math.cos(min<f64>(<f64>half + <f64>soft, Math.PI));
  const all = half + soft >= <f32>Math.PI;
  const c = f32x4.splat(cosine);
  const s = f32x4.splat(sine);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const x = v128.load(a + at);
    const y = v128.load(b + at);
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)));
    const along = f32x4.add(f32x4.mul(x, c), f32x4.mul(y, s));
    let in_ = f32x4.gt(chroma, f32x4.splat(least));
    if (!all) in_ = v128.and(in_, f32x4.gt(along, f32x4.mul(chroma, f32x4.splat(widest))));
    v128.store(out + at, v128.and(chroma, in_));
    if (!v128.any_true(in_)) continue;
    for (let k: usize = 0; k < 16; k += 4) {
      const own = load<f32>(out + at + k);
      if (own == 0) continue;
      const px = load<f32>(a + at + k);
      const py = load<f32>(b + at + k);
      const apart = Mathf.abs(Mathf.atan2(py * cosine - px * sine, px * cosine + py * sine));
      store<f32>(out + at + k, own * (1 - smooth(apart, half, half + soft)));
    }
  }
}

/** Share of its colour that each pixel loses: what is thin of its chroma, next to a strong change of lightness. */
export function takeThin(
  chroma: usize,
  opened: usize,
  change: usize,
  a: usize,
  b: usize,
  count: i32,
  amount: f32,
  weak: f32,
  strong: f32,
  taken: usize
): void {
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const thin = f32x4.sub(v128.load(chroma + at), v128.load(opened + at));
    if (!v128.any_true(f32x4.gt(thin, f32x4.splat(0)))) continue;
    for (let k = at; k < min(at + 16, bytes); k += 4) {
      const own = load<f32>(chroma + k) - load<f32>(opened + k);
      if (own <= 0) continue;
      const px = load<f32>(a + k);
      const py = load<f32>(b + k);
      const edge = smooth(load<f32>(change + k), weak, strong);
      const share = (amount * edge * own) / Mathf.sqrt(px * px + py * py);
      store<f32>(taken + k, min<f32>(1, load<f32>(taken + k) + share));
    }
  }
}

/** Difference of two planes. */
export function subtract(from: usize, what: usize, count: i32, out: usize): void {
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16)
    v128.store(out + at, f32x4.sub(v128.load(from + at), v128.load(what + at)));
}

/** Colours without the share of their chroma that is taken, back in the planes' own; others stay as they are. */
export function loseChroma(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  lightness: usize,
  a: usize,
  bb: usize,
  taken: usize,
  toRoots: usize,
  fromLms: usize
): void {
  const bytes = (<usize>count) << 2;
  const zero = f32x4.splat(0);
  for (let at: usize = 0; at < bytes; at += 16) {
    const share = v128.load(taken + at);
    const some = f32x4.gt(share, zero);
    if (!v128.any_true(some)) continue;
    const left = f32x4.sub(f32x4.splat(1), share);
    const light = v128.load(lightness + at);
    const x = f32x4.mul(v128.load(a + at), left);
    const y = f32x4.mul(v128.load(bb + at), left);
    const l = cube(mixed(toRoots, 0, light, x, y));
    const m = cube(mixed(toRoots, 3, light, x, y));
    const s = cube(mixed(toRoots, 6, light, x, y));
    put(r + at, f32x4.pmax(zero, mixed(fromLms, 0, l, m, s)), some);
    put(g + at, f32x4.pmax(zero, mixed(fromLms, 3, l, m, s)), some);
    put(b + at, f32x4.pmax(zero, mixed(fromLms, 6, l, m, s)), some);
  }
}

function put(at: usize, values: v128, where: v128): void {
  v128.store(at, v128.bitselect(values, v128.load(at), where));
}
