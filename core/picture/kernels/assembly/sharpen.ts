/** Sharpening of a tile: of encoded values for the output (`output/sharpen-stage.ts`), and of light (`steps/finish/sharpening/`). */
import { blurDown, blurredFour, blurredOne } from './blur';
import { deconvolve } from './deconvolve';
import { lineOf, loadPart, smoothShareOf, storePart, sumOf } from './vectors';

/** By how much a value stands above both of its neighbours; 0 where it does not, as beside an edge. */
function crestOf(value: v128, one: v128, other: v128): v128 {
  return f32x4.pmax(f32x4.splat(0), f32x4.sub(value, f32x4.pmax(one, other)));
}

/** The same below both of them, below zero. */
function troughOf(value: v128, one: v128, other: v128): v128 {
  return f32x4.pmin(f32x4.splat(0), f32x4.sub(value, f32x4.pmin(one, other)));
}

/** Bytes of a plane of the work, with room for the next to begin at a multiple of 64. */
function planeBytes(width: i32, height: i32): usize {
  return (((<usize>(height * width)) << 2) + 63) & ~63;
}

/**
 * Planes of encoded values, in place. `weights`: of the blur, 2 reach + 1. `slack`: how far a value may leave its neighbours'
 * range. `work`: four planes, a row, and room for each to begin at a multiple of 64. Where there is no real pixel, the nearest of
 * its row or column stands for it.
 */
export function sharpenPlanes(
  r: usize,
  g: usize,
  b: usize,
  valid: usize,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  amount: f32,
  slack: f32,
  work: usize
): void {
  const plane = planeBytes(width, height);
  const luma = work;
  // Rec. 709.
  takeLuma(r, g, b, valid, width, height, 0.2126, 0.7152, 0.0722, luma);
  blurAcross(luma, width, 0, height, weights, reach, 1, plane);
  const blurred = luma + 4 * plane;
  const bytes = (<usize>width) << 2;
  const strength = f32x4.splat(amount);
  const over = f32x4.splat(slack);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let y = 0; y < height; y++) {
    blurDown(luma + plane, y, width, height, weights, reach, blurred);
    const here = lineOf(y, height, bytes);
    for (let x = 0; x < width; x += 4) {
      const at = (<usize>x) << 2;
      const value = v128.load(luma + here + at);
      const low = f32x4.sub(leastAbout(luma, y, at, 1, width, height, plane), over);
      const high = f32x4.add(mostAbout(luma, y, at, 1, width, height, plane), over);
      const wanted = f32x4.add(value, f32x4.mul(strength, f32x4.sub(value, v128.load(blurred + at))));
      const change = f32x4.sub(f32x4.pmin(high, f32x4.pmax(low, wanted)), value);
      const left = width - x;
      for (let c: usize = 0; c < 3; c++) {
        const to = (c == 0 ? r : c == 1 ? g : b) + here + at;
        const changed = f32x4.add(loadPart(to, left), change);
        storePart(to, f32x4.pmin(one, f32x4.pmax(zero, changed)), left);
      }
    }
  }
}

/** 0 up to a value, 1 from another on, and smooth between: `scale` is one over their distance. */
function between(values: v128, from: v128, scale: v128): v128 {
  return smoothShareOf(f32x4.mul(f32x4.sub(values, from), scale));
}

/**
 * Planes of light, in place, by the root of what lies above `-floor`, in which noise is alike everywhere. `halo`: share of the
 * range of the nine about one, `near` pixels apart, by which it may leave it; `texture`: share of what it stands out by from both of
 * its neighbours, as beside no edge, that it may gain. That range has to be more than `noise`, fully so
 * from `sure` on, and the same against the root itself for `edge` and twice as much (0: any). `work` as above. Colours keep their
 * ratios. To `show` where it acts, and not how, all three become the share of it (0..1). With `times`, what is steepened is no
 * difference from a blur, but the light that is found by so many steps of deconvolution, by the blurs of `table` (`tableReach`) and
 * `levels`; then `work` has a plane more. Rows at the top and the bottom that lack some of what they depend on stay as they are.
 */
export function sharpenLight(
  r: usize,
  g: usize,
  b: usize,
  valid: usize,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  near: i32,
  amount: f32,
  halo: f32,
  texture: f32,
  floor: f32,
  noise: f32,
  sure: f32,
  edge: f32,
  show: bool,
  levels: usize,
  table: usize,
  tableReach: i32,
  times: i32,
  work: usize
): void {
  const plane = planeBytes(width, height);
  const root = work;
  takeLuma(r, g, b, valid, width, height, 0.25, 0.5, 0.25, root);
  const bytes = (<usize>width) << 2;
  const above = f32x4.splat(floor);
  const zero = f32x4.splat(0);
  const blurred = root + 4 * plane;
  const found = blurred + planeBytes(width, 1);
  for (let at: usize = root; at < root + plane; at += 16)
    v128.store(at, f32x4.add(f32x4.pmax(zero, v128.load(at)), above));
  const margin = near + (times > 0 ? 2 * times * tableReach : reach);
  if (height <= 2 * margin) return;
  if (times > 0) deconvolve(root, found, width, height, levels, table, tableReach, times, root + plane);
  takeRoots(root, plane);
  blurAcross(root, width, margin - near - reach, height - margin + near + reach, weights, reach, near, plane);
  const strength = f32x4.splat(amount);
  const slack = f32x4.splat(halo);
  const more = f32x4.splat(texture);
  const unsure = f32x4.splat(noise);
  const certain = f32x4.splat(1 / (sure - noise));
  const sures = f32x4.splat(sure);
  const certainly = f32x4.splat(1 / sure);
  const faint = f32x4.splat(edge);
  for (let y = margin; y < height - margin; y++) {
    if (times === 0) blurDown(root + plane, y, width, height, weights, reach, blurred);
    const here = lineOf(y, height, bytes);
    for (let x = 0; x < width; x += 4) {
      const at = (<usize>x) << 2;
      const value = v128.load(root + here + at);
      const steeper =
        times > 0
          ? f32x4.sub(f32x4.sqrt(v128.load(found + here + at)), value)
          : f32x4.sub(value, v128.load(blurred + at));
      const low = leastAbout(root, y, at, near, width, height, plane);
      const high = mostAbout(root, y, at, near, width, height, plane);
      const range = f32x4.sub(high, low);
      let share = between(range, unsure, certain);
      if (edge > 0) {
        const against = f32x4.mul(value, faint);
        share = f32x4.mul(share, between(range, against, f32x4.div(f32x4.splat(1), against)));
      }
      const left = width - x;
      if (show) {
        storePart(r + here + at, share, left);
        storePart(g + here + at, share, left);
        storePart(b + here + at, share, left);
        continue;
      }
      const over = f32x4.mul(slack, range);
      let up = f32x4.add(high, over);
      let down = f32x4.sub(low, over);
      if (texture > 0) {
        const beside = (<usize>near) << 2;
        const column = root + at;
        // At the sides of a tile only what is above and below tells.
        const inside = x >= near && x + 4 + near <= width;
        const before = inside ? v128.load(root + here + at - beside) : value;
        const after = inside ? v128.load(root + here + at + beside) : value;
        const above = v128.load(column + lineOf(y - near, height, bytes));
        const below = v128.load(column + lineOf(y + near, height, bytes));
        const crest = f32x4.pmax(crestOf(value, before, after), crestOf(value, above, below));
        const trough = f32x4.pmin(troughOf(value, before, after), troughOf(value, above, below));
        const clear = f32x4.mul(more, between(range, sures, certainly));
        up = f32x4.pmax(up, f32x4.add(value, f32x4.mul(clear, crest)));
        down = f32x4.pmin(down, f32x4.add(value, f32x4.mul(clear, trough)));
      }
      const wanted = f32x4.add(value, f32x4.mul(f32x4.mul(strength, share), steeper));
      const kept = f32x4.pmin(up, f32x4.pmax(down, wanted));
      const ratio = f32x4.div(f32x4.pmax(zero, kept), value);
      const gain = f32x4.mul(ratio, ratio);
      for (let c: usize = 0; c < 3; c++) {
        const to = (c == 0 ? r : c == 1 ? g : b) + here + at;
        storePart(to, f32x4.mul(loadPart(to, left), gain), left);
      }
    }
  }
}

/** Roots of a plane, in place. */
function takeRoots(values: usize, bytes: usize): void {
  for (let at: usize = values; at < values + bytes; at += 16) v128.store(at, f32x4.sqrt(v128.load(at)));
}

/**
 * Across rows [top, bottom) of the first plane of the work, into the next three: the blur, and the least and most of three, `near` pixels
 * apart.
 */
function blurAcross(
  values: usize,
  width: i32,
  top: i32,
  bottom: i32,
  weights: usize,
  reach: i32,
  near: i32,
  plane: usize
): void {
  const far = max(reach, near);
  const beside = (<usize>near) << 2;
  const across = values + plane;
  const least = across + plane;
  const most = least + plane;
  for (let row = top; row < bottom; row++) {
    const start = (<usize>(row * width)) << 2;
    for (let x = 0; x < width;) {
      const at = values + start + ((<usize>x) << 2);
      const put = start + ((<usize>x) << 2);
      if (x >= far && x + 4 + far <= width) {
        v128.store(across + put, blurredFour(at, weights, reach));
        const before = v128.load(at - beside);
        const here = v128.load(at);
        const after = v128.load(at + beside);
        v128.store(least + put, f32x4.pmin(f32x4.pmin(before, here), after));
        v128.store(most + put, f32x4.pmax(f32x4.pmax(before, here), after));
        x += 4;
      } else {
        store<f32>(across + put, blurredOne(values + start, x, width, weights, reach));
        const before = load<f32>(values + start + ((<usize>max(0, x - near)) << 2));
        const here = load<f32>(at);
        const after = load<f32>(values + start + ((<usize>min(width - 1, x + near)) << 2));
        store<f32>(least + put, min(min(before, here), after));
        store<f32>(most + put, max(max(before, here), after));
        x++;
      }
    }
  }
}

/** The least of the nine about each of four pixels. */
function leastAbout(
  values: usize,
  y: i32,
  at: usize,
  near: i32,
  width: i32,
  height: i32,
  plane: usize
): v128 {
  const bytes = (<usize>width) << 2;
  const least = values + 2 * plane + at;
  return f32x4.pmin(
    f32x4.pmin(
      v128.load(least + lineOf(y - near, height, bytes)),
      v128.load(least + lineOf(y, height, bytes))
    ),
    v128.load(least + lineOf(y + near, height, bytes))
  );
}

/** The most of the nine about each of four pixels. */
function mostAbout(values: usize, y: i32, at: usize, near: i32, width: i32, height: i32, plane: usize): v128 {
  const bytes = (<usize>width) << 2;
  const most = values + 3 * plane + at;
  return f32x4.pmax(
    f32x4.pmax(v128.load(most + lineOf(y - near, height, bytes)), v128.load(most + lineOf(y, height, bytes))),
    v128.load(most + lineOf(y + near, height, bytes))
  );
}

/** Four pixels that there are. */
const ALL_VALID: u32 = 0x01010101;

/** Sums of the colours of each pixel; where there is none, that of the nearest in its row, or of the nearest row that has one. */
function takeLuma(
  r: usize,
  g: usize,
  b: usize,
  valid: usize,
  width: i32,
  height: i32,
  red: f32,
  green: f32,
  blue: f32,
  luma: usize
): void {
  const bytes = (<usize>width) << 2;
  const ofRed = f32x4.splat(red);
  const ofGreen = f32x4.splat(green);
  const ofBlue = f32x4.splat(blue);
  /** The last row that has a pixel, and how many before the first such row have none. */
  let lastRow = -1;
  for (let y = 0; y < height; y++) {
    const from = y * width;
    const row = luma + ((<usize>from) << 2);
    let first = -1;
    let last: f32 = 0;
    for (let x = 0; x < width; x++) {
      const at = (<usize>(from + x)) << 2;
      if (x + 4 <= width && load<u32>(valid + from + x) === ALL_VALID) {
        const sum = sumOf(ofRed, ofGreen, ofBlue, v128.load(r + at), v128.load(g + at), v128.load(b + at));
        v128.store(row + ((<usize>x) << 2), sum);
        last = f32x4.extract_lane(sum, 3);
        if (first < 0) first = x;
        x += 3;
        continue;
      }
      if (load<u8>(valid + from + x)) {
        last = red * load<f32>(r + at) + green * load<f32>(g + at) + blue * load<f32>(b + at);
        if (first < 0) first = x;
      }
      store<f32>(row + ((<usize>x) << 2), last);
    }
    if (first < 0) {
      if (lastRow >= 0) memory.copy(row, luma + <usize>lastRow * bytes, bytes);
      continue;
    }
    for (let x = 0; x < first; x++)
      store<f32>(row + ((<usize>x) << 2), load<f32>(row + ((<usize>first) << 2)));
    if (lastRow < 0)
      for (let above = 0; above < y; above++) memory.copy(luma + <usize>above * bytes, row, bytes);
    lastRow = y;
  }
}
