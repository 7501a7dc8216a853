/**
 * The one resampling: rows of an output from the source planes through the mesh (`geometry/resample.ts` says what is what).
 *
 * Places are reckoned in double precision, values in single, four pixels at a time. Tables of weights stand one after
 * another as addresses at `tables`, the n-th for a kernel widened by n eighths; a table begins with its number of taps, and
 * its weights, `stride` for each phase, follow 16 bytes later.
 */
import { unfold } from './highlights';

const PHASES: f64 = 512;
/** How far apart, in source pixels, the three colours of one place may lie before the careful path is taken. */
const COLOUR_MARGIN: f64 = 8;

/** Where a run of output pixels lies in the source: the first one's place and the step to the next. */
let startX: f64 = 0;
let startY: f64 = 0;
let dx: f64 = 0;
let dy: f64 = 0;

/** The source's placing. */
let originX: f64 = 0;
let originY: f64 = 0;
let scaleX: f64 = 0;
let scaleY: f64 = 0;
let width: i32 = 0;
let height: i32 = 0;

export function placeSource(
  x: f64,
  y: f64,
  across: f64,
  down: f64,
  sourceWidth: i32,
  sourceHeight: i32
): void {
  originX = x;
  originY = y;
  scaleX = across;
  scaleY = down;
  width = sourceWidth;
  height = sourceHeight;
}

function node(at: usize, i: i32): f64 {
  return <f64>load<f32>(at + ((<usize>i) << 2));
}

/** Places the part of an output row that lies in mesh cell `i`, a share `fy` of the way down it. */
function place(x: usize, y: usize, i: i32, below: i32, fy: f64, step: i32): void {
  const ax = node(x, i) * (1 - fy) + node(x, below) * fy;
  const bx = node(x, i + 1) * (1 - fy) + node(x, below + 1) * fy;
  const ay = node(y, i) * (1 - fy) + node(y, below) * fy;
  const by = node(y, i + 1) * (1 - fy) + node(y, below + 1) * fy;
  dx = ((bx - ax) / <f64>step) * scaleX;
  dy = ((by - ay) / <f64>step) * scaleY;
  startX = (ax - originX) * scaleX - 0.5 + dx / 2;
  startY = (ay - originY) * scaleY - 0.5 + dy / 2;
}

/**
 * Rows [from, to) of an output `outWidth` wide; row `from` goes to the beginning of the planes. `redX` is 0 where all colours
 * lie at one place; `sourceR` and `sourceB` are 0 where green alone is wanted. `plain`: four taps whatever the reduction. Light above white is unfolded,
 * unless it is to stay `folded`.
 */
export function resampleRows(
  sourceR: usize,
  sourceG: usize,
  sourceB: usize,
  x: usize,
  y: usize,
  redX: usize,
  redY: usize,
  blueX: usize,
  blueY: usize,
  columns: i32,
  step: i32,
  outWidth: i32,
  from: i32,
  to: i32,
  outR: usize,
  outG: usize,
  outB: usize,
  valid: usize,
  tables: usize,
  widest: i32,
  plain: i32,
  folded: i32
): void {
  const colours = redX != 0;
  const all = sourceR != 0;
  for (let row = from; row < to; row++) {
    const position = (<f64>row + 0.5) / <f64>step;
    const meshRow = <i32>Math.floor(position);
    const fy = position - <f64>meshRow;
    const base = meshRow * columns;
    const target = (row - from) * outWidth;
    for (let column = 0; column * step < outWidth; column++) {
      const i = base + column;
      const below = i + columns;
      const first = column * step;
      const count = min(step, outWidth - first);
      const to = target + first;
      const byteTo = (<usize>to) << 2;
      place(x, y, i, below, fy, step);
      const greenX = startX;
      const greenY = startY;
      const greenDx = dx;
      const greenDy = dy;
      const endX = startX + dx * <f64>count;
      const endY = startY + dy * <f64>count;
      // A position counts as real up to half a source pixel beyond the outermost centres.
      if (
        !(max(startX, endX) >= -0.5 && max(startY, endY) >= -0.5) ||
        min(startX, endX) > <f64>width - 0.5 ||
        min(startY, endY) > <f64>height - 0.5
      ) {
        const bytes = (<usize>count) << 2;
        if (all) memory.fill(outR + byteTo, 0, bytes);
        memory.fill(outG + byteTo, 0, bytes);
        if (all) memory.fill(outB + byteTo, 0, bytes);
        memory.fill(valid + <usize>to, 0, <usize>count);
        continue;
      }
      memory.fill(valid + <usize>to, 1, <usize>count);
      const downX = ((node(x, below) - node(x, i)) / <f64>step) * scaleX;
      const downY = ((node(y, below) - node(y, i)) / <f64>step) * scaleY;
      const reduction = max(Math.sqrt(dx * dx + dy * dy), Math.sqrt(downX * downX + downY * downY));
      const width8 = plain ? 8 : widthOf(reduction, widest);
      const table = <usize>load<u32>(tables + ((<usize>width8) << 2));
      const taps = load<i32>(table);
      const weights = table + 16;
      const reach = <f64>(taps / 2) + (colours ? COLOUR_MARGIN : 0);
      // Made smaller, edges are sharper than the glass left them: a kernel that swings would draw lines beside them.
      const limited = !plain && (scaleX < 0.99 || reduction > 1.25);
      const interior =
        min(startX, endX) >= reach &&
        min(startY, endY) >= reach &&
        max(startX, endX) < <f64>width - reach - 1 &&
        max(startY, endY) < <f64>height - reach - 1;
      if (interior) {
        if (all && !colours && taps == 4) {
          threeOfFour(sourceR, sourceG, sourceB, weights, count, outR + byteTo, outG + byteTo, outB + byteTo);
          if (limited) {
            limitThree(sourceR, sourceG, sourceB, count, outR + byteTo, outG + byteTo, outB + byteTo);
          }
        } else {
          inside(sourceG, weights, taps, count, outG + byteTo);
          if (limited) limitInside(sourceG, taps, count, outG + byteTo);
          if (!all) continue;
          if (colours) place(redX, redY, i, below, fy, step);
          inside(sourceR, weights, taps, count, outR + byteTo);
          if (limited) limitInside(sourceR, taps, count, outR + byteTo);
          if (colours) place(blueX, blueY, i, below, fy, step);
          inside(sourceB, weights, taps, count, outB + byteTo);
          if (limited) limitInside(sourceB, taps, count, outB + byteTo);
        }
      } else {
        atBorder(sourceG, weights, taps, count, outG + byteTo);
        if (limited) limit(sourceG, taps, count, outG + byteTo);
        if (all) {
          if (colours) place(redX, redY, i, below, fy, step);
          atBorder(sourceR, weights, taps, count, outR + byteTo);
          if (limited) limit(sourceR, taps, count, outR + byteTo);
          if (colours) place(blueX, blueY, i, below, fy, step);
          atBorder(sourceB, weights, taps, count, outB + byteTo);
          if (limited) limit(sourceB, taps, count, outB + byteTo);
        }
        // A pixel is real only where its green is.
        for (let n = 0; n < count; n++) {
          const px = greenX + greenDx * <f64>n;
          const py = greenY + greenDy * <f64>n;
          if (px >= -0.5 && py >= -0.5 && px <= <f64>width - 0.5 && py <= <f64>height - 0.5) continue;
          const at = (<usize>n) << 2;
          store<f32>(outG + byteTo + at, 0);
          if (all) {
            store<f32>(outR + byteTo + at, 0);
            store<f32>(outB + byteTo + at, 0);
          }
          store<u8>(valid + <usize>(to + n), 0);
        }
      }
    }
  }
  if (folded) return;
  const pixels = (to - from) * outWidth;
  unfold(outG, pixels);
  if (!all) return;
  unfold(outR, pixels);
  unfold(outB, pixels);
}

/**
 * Eighths by which the kernel is widened for a reduction. Up to a quarter more source than output pixels the plain kernel
 * has no more to lose to aliasing than a wider one would to blur, in a third of the time.
 */
function widthOf(reduction: f64, widest: i32): i32 {
  return reduction <= 1.25 ? 8 : min(widest, <i32>Math.ceil(reduction * 8 - 0.5));
}

function phaseOf(share: f64): i32 {
  return <i32>(share * PHASES + 0.5);
}

/** Weighted sums of four taps across and down about a pixel, still apart by column. */
function fourRows(
  plane: usize,
  at: usize,
  pitch: usize,
  wx: v128,
  w0: v128,
  w1: v128,
  w2: v128,
  w3: v128
): v128 {
  const first = plane + at;
  const top = f32x4.add(f32x4.mul(v128.load(first), w0), f32x4.mul(v128.load(first + pitch), w1));
  const third = first + pitch + pitch;
  const bottom = f32x4.add(f32x4.mul(v128.load(third), w2), f32x4.mul(v128.load(third + pitch), w3));
  return f32x4.mul(f32x4.add(top, bottom), wx);
}

/** The sums of four vectors' lanes, one lane each, none below zero. */
function sums(a: v128, b: v128, c: v128, d: v128): v128 {
  const ab = f32x4.add(v128.shuffle<f32>(a, b, 0, 1, 4, 5), v128.shuffle<f32>(a, b, 2, 3, 6, 7));
  const cd = f32x4.add(v128.shuffle<f32>(c, d, 0, 1, 4, 5), v128.shuffle<f32>(c, d, 2, 3, 6, 7));
  const sum = f32x4.add(v128.shuffle<f32>(ab, cd, 0, 2, 4, 6), v128.shuffle<f32>(ab, cd, 1, 3, 5, 7));
  return f32x4.pmax(sum, f32x4.splat(0));
}

/** A vector's four lanes, summed, not below zero. */
function sum(a: v128): f32 {
  const two = f32x4.add(a, v128.shuffle<f32>(a, a, 2, 3, 0, 1));
  return max<f32>(0, f32x4.extract_lane(two, 0) + f32x4.extract_lane(two, 1));
}

/** Whole part and table offset of the share of two places each along x and y: places n and n + 1 of the run. */
let wholeX: v128 = i32x4.splat(0);
let wholeY: v128 = i32x4.splat(0);
let shareX: v128 = i32x4.splat(0);
let shareY: v128 = i32x4.splat(0);

/** Four places from the n-th on: whole parts, and byte offsets of their weights in tables of vectors. */
function fourPlaces(n: i32): void {
  const low = f64x2(<f64>n, <f64>(n + 1));
  const high = f64x2(<f64>(n + 2), <f64>(n + 3));
  const stepX = f64x2.splat(dx);
  const stepY = f64x2.splat(dy);
  const fromX = f64x2.splat(startX);
  const fromY = f64x2.splat(startY);
  const x0 = f64x2.add(fromX, f64x2.mul(stepX, low));
  const x1 = f64x2.add(fromX, f64x2.mul(stepX, high));
  const y0 = f64x2.add(fromY, f64x2.mul(stepY, low));
  const y1 = f64x2.add(fromY, f64x2.mul(stepY, high));
  wholeX = joined(i32x4.trunc_sat_f64x2_s_zero(x0), i32x4.trunc_sat_f64x2_s_zero(x1));
  wholeY = joined(i32x4.trunc_sat_f64x2_s_zero(y0), i32x4.trunc_sat_f64x2_s_zero(y1));
  shareX = i32x4.shl(
    joined(phases(x0, wholeX), phases(x1, v128.shuffle<i32>(wholeX, wholeX, 2, 3, 2, 3))),
    4
  );
  shareY = i32x4.shl(
    joined(phases(y0, wholeY), phases(y1, v128.shuffle<i32>(wholeY, wholeY, 2, 3, 2, 3))),
    4
  );
}

function joined(low: v128, high: v128): v128 {
  return v128.shuffle<i32>(low, high, 0, 1, 4, 5);
}

function phases(places: v128, whole: v128): v128 {
  const share = f64x2.sub(places, f64x2.convert_low_i32x4_s(whole));
  return i32x4.trunc_sat_f64x2_s_zero(f64x2.add(f64x2.mul(share, f64x2.splat(PHASES)), f64x2.splat(0.5)));
}

/** Sixteen taps about one place, still apart by column. */
function fourTaps(plane: usize, pitch: usize, weights: usize, ix: i32, iy: i32, px: i32, py: i32): v128 {
  const wx = v128.load(weights + <usize>px);
  const rows = weights + <usize>py;
  const at = (<usize>((iy - 1) * width + ix - 1)) << 2;
  return fourRows(
    plane,
    at,
    pitch,
    wx,
    v128.load32_splat(rows),
    v128.load32_splat(rows, 4),
    v128.load32_splat(rows, 8),
    v128.load32_splat(rows, 12)
  );
}

/** Sums at the four places. */
function atFourPlaces(plane: usize, pitch: usize, weights: usize): v128 {
  return sums(
    fourTaps(
      plane,
      pitch,
      weights,
      i32x4.extract_lane(wholeX, 0),
      i32x4.extract_lane(wholeY, 0),
      i32x4.extract_lane(shareX, 0),
      i32x4.extract_lane(shareY, 0)
    ),
    fourTaps(
      plane,
      pitch,
      weights,
      i32x4.extract_lane(wholeX, 1),
      i32x4.extract_lane(wholeY, 1),
      i32x4.extract_lane(shareX, 1),
      i32x4.extract_lane(shareY, 1)
    ),
    fourTaps(
      plane,
      pitch,
      weights,
      i32x4.extract_lane(wholeX, 2),
      i32x4.extract_lane(wholeY, 2),
      i32x4.extract_lane(shareX, 2),
      i32x4.extract_lane(shareY, 2)
    ),
    fourTaps(
      plane,
      pitch,
      weights,
      i32x4.extract_lane(wholeX, 3),
      i32x4.extract_lane(wholeY, 3),
      i32x4.extract_lane(shareX, 3),
      i32x4.extract_lane(shareY, 3)
    )
  );
}

/** The sum at the n-th place of the run. */
function atOnePlace(plane: usize, pitch: usize, weights: usize, n: i32): f32 {
  const px = startX + dx * <f64>n;
  const py = startY + dy * <f64>n;
  const ix = <i32>px;
  const iy = <i32>py;
  return sum(fourTaps(plane, pitch, weights, ix, iy, phaseOf(px - <f64>ix) << 4, phaseOf(py - <f64>iy) << 4));
}

/** Three planes at one place, away from the border, four by four taps: nearly all pixels at 1:1. */
function threeOfFour(
  r: usize,
  g: usize,
  b: usize,
  weights: usize,
  count: i32,
  outR: usize,
  outG: usize,
  outB: usize
): void {
  const pitch = (<usize>width) << 2;
  let n = 0;
  for (; n + 4 <= count; n += 4) {
    const to = (<usize>n) << 2;
    fourPlaces(n);
    v128.store(outR + to, atFourPlaces(r, pitch, weights));
    v128.store(outG + to, atFourPlaces(g, pitch, weights));
    v128.store(outB + to, atFourPlaces(b, pitch, weights));
  }
  for (; n < count; n++) {
    const to = (<usize>n) << 2;
    store<f32>(outR + to, atOnePlace(r, pitch, weights, n));
    store<f32>(outG + to, atOnePlace(g, pitch, weights, n));
    store<f32>(outB + to, atOnePlace(b, pitch, weights, n));
  }
}

/** One plane away from the border, any even number of taps; weights stand in vectors of four, filled up with zeros. */
function inside(plane: usize, weights: usize, taps: i32, count: i32, out: usize): void {
  const pitch = (<usize>width) << 2;
  if (taps == 4) {
    let n = 0;
    for (; n + 4 <= count; n += 4) {
      fourPlaces(n);
      v128.store(out + ((<usize>n) << 2), atFourPlaces(plane, pitch, weights));
    }
    for (; n < count; n++) store<f32>(out + ((<usize>n) << 2), atOnePlace(plane, pitch, weights, n));
    return;
  }
  const vectors = (taps + 3) >> 2;
  const stride = (<usize>vectors) << 4;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const px = startX + dx * <f64>n;
    const py = startY + dy * <f64>n;
    const ix = <i32>px;
    const iy = <i32>py;
    const wx = weights + <usize>phaseOf(px - <f64>ix) * stride;
    const wy = weights + <usize>phaseOf(py - <f64>iy) * stride;
    let at = plane + ((<usize>((iy - lead) * width + ix - lead)) << 2);
    let all = f32x4.splat(0);
    if (vectors == 2) {
      const x0 = v128.load(wx);
      const x1 = v128.load(wx, 16);
      for (let j = 0; j < taps; j++, at += pitch) {
        const line = f32x4.add(f32x4.mul(v128.load(at), x0), f32x4.mul(v128.load(at, 16), x1));
        all = f32x4.add(all, f32x4.mul(line, v128.load32_splat(wy + ((<usize>j) << 2))));
      }
    } else {
      for (let j = 0; j < taps; j++, at += pitch) {
        let line = f32x4.mul(v128.load(at), v128.load(wx));
        for (let k = 1; k < vectors; k++) {
          const by = (<usize>k) << 4;
          line = f32x4.add(line, f32x4.mul(v128.load(at + by), v128.load(wx + by)));
        }
        all = f32x4.add(all, f32x4.mul(line, v128.load32_splat(wy + ((<usize>j) << 2))));
      }
    }
    store<f32>(out + ((<usize>n) << 2), sum(all));
  }
}

/** One value between the least and the greatest of the four pixels about its place. */
function limitOne(plane: usize, at: usize, pitch: usize, to: usize): void {
  const above = v128.load64_zero(plane + at),
    below = v128.load64_zero(plane + at + pitch);
  const low = f32x4.pmin(above, below),
    high = f32x4.pmax(above, below);
  const least = f32x4.pmin(low, v128.shuffle<f32>(low, low, 1, 0, 1, 0)),
    greatest = f32x4.pmax(high, v128.shuffle<f32>(high, high, 1, 0, 1, 0));
  const value = f32x4.pmin(f32x4.pmax(v128.load32_zero(to), least), greatest);
  store<f32>(to, f32x4.extract_lane(value, 0));
}

/** The same as `limit` for three planes at one place, away from the border and of four taps: nearly all pixels of a proxy. */
function limitThree(r: usize, g: usize, b: usize, count: i32, outR: usize, outG: usize, outB: usize): void {
  const pitch = (<usize>width) << 2;
  for (let n = 0; n < count; n++) {
    const ix = <i32>(startX + dx * <f64>n);
    const iy = <i32>(startY + dy * <f64>n);
    const at = (<usize>(iy * width + ix)) << 2;
    const to = (<usize>n) << 2;
    limitOne(r, at, pitch, outR + to);
    limitOne(g, at, pitch, outG + to);
    limitOne(b, at, pitch, outB + to);
  }
}

/** The same as `limit` away from the border. */
function limitInside(plane: usize, taps: i32, count: i32, out: usize): void {
  if (taps == 4) return limit(plane, taps, count, out);
  const pitch = (<usize>width) << 2;
  for (let n = 0; n < count; n++) {
    const ix = <i32>(startX + dx * <f64>n);
    const iy = <i32>(startY + dy * <f64>n);
    const at = plane + ((<usize>((iy - 1) * width + ix - 1)) << 2);
    const a = v128.load(at),
      b = v128.load(at + pitch),
      c = v128.load(at + pitch + pitch),
      d = v128.load(at + pitch + pitch + pitch);
    let low = f32x4.pmin(f32x4.pmin(a, b), f32x4.pmin(c, d)),
      high = f32x4.pmax(f32x4.pmax(a, b), f32x4.pmax(c, d));
    low = f32x4.pmin(low, v128.shuffle<f32>(low, low, 2, 3, 0, 1));
    low = f32x4.pmin(low, v128.shuffle<f32>(low, low, 1, 0, 3, 2));
    high = f32x4.pmax(high, v128.shuffle<f32>(high, high, 2, 3, 0, 1));
    high = f32x4.pmax(high, v128.shuffle<f32>(high, high, 1, 0, 3, 2));
    const to = out + ((<usize>n) << 2);
    store<f32>(to, f32x4.extract_lane(f32x4.pmin(f32x4.pmax(v128.load32_zero(to), low), high), 0));
  }
}

/**
 * Values of a run brought between the least and the greatest of the four pixels about each place, or of sixteen where there are more
 * taps than four. */
function limit(plane: usize, taps: i32, count: i32, out: usize): void {
  const half = taps == 4 ? 1 : 2;
  const pitch = (<usize>width) << 2;
  for (let n = 0; n < count; n++) {
    const ix = <i32>Math.floor(min(<f64>width - 0.5, max(-0.5, startX + dx * <f64>n)));
    const iy = <i32>Math.floor(min(<f64>height - 0.5, max(-0.5, startY + dy * <f64>n)));
    const left = max(0, ix - half + 1),
      right = min(width - 1, ix + half),
      top = max(0, iy - half + 1),
      bottom = min(height - 1, iy + half);
    let line = plane + <usize>top * pitch;
    let least = load<f32>(line + ((<usize>left) << 2));
    let greatest = least;
    if (right - left == 3) {
      let low = f32x4.splat(least),
        high = low;
      for (let y = top; y <= bottom; y++, line += pitch) {
        const values = v128.load(line + ((<usize>left) << 2));
        low = f32x4.pmin(low, values);
        high = f32x4.pmax(high, values);
      }
      low = f32x4.pmin(low, v128.shuffle<f32>(low, low, 2, 3, 0, 1));
      high = f32x4.pmax(high, v128.shuffle<f32>(high, high, 2, 3, 0, 1));
      least = min(f32x4.extract_lane(low, 0), f32x4.extract_lane(low, 1));
      greatest = max(f32x4.extract_lane(high, 0), f32x4.extract_lane(high, 1));
    } else {
      for (let y = top; y <= bottom; y++, line += pitch)
        for (let x = left; x <= right; x++) {
          const value = load<f32>(line + ((<usize>x) << 2));
          least = value < least ? value : least;
          greatest = value > greatest ? value : greatest;
        }
    }
    const to = out + ((<usize>n) << 2);
    const value = load<f32>(to);
    store<f32>(to, value < least ? least : value > greatest ? greatest : value);
  }
}

/** One plane near the border: places and taps beyond it repeat the outermost pixel. */
function atBorder(plane: usize, weights: usize, taps: i32, count: i32, out: usize): void {
  const stride = (taps + 3) & ~3;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const px = min(<f64>width - 0.5, max(-0.5, startX + dx * <f64>n));
    const py = min(<f64>height - 0.5, max(-0.5, startY + dy * <f64>n));
    const ix = <i32>Math.floor(px);
    const iy = <i32>Math.floor(py);
    const wx = weights + ((<usize>(phaseOf(px - <f64>ix) * stride)) << 2);
    const wy = weights + ((<usize>(phaseOf(py - <f64>iy) * stride)) << 2);
    let all: f32 = 0;
    for (let j = 0; j < taps; j++) {
      const line = min(height - 1, max(0, iy - lead + j)) * width;
      let across: f32 = 0;
      for (let i = 0; i < taps; i++) {
        const at = line + min(width - 1, max(0, ix - lead + i));
        across += load<f32>(wx + ((<usize>i) << 2)) * load<f32>(plane + ((<usize>at) << 2));
      }
      all += load<f32>(wy + ((<usize>j) << 2)) * across;
    }
    store<f32>(out + ((<usize>n) << 2), max<f32>(0, all));
  }
}
