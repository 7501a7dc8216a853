/**
 * Noise of a plane, taken out: an undecimated transform of B3 splines (Starck & Murtagh 1994), whose differences from one scale to the
 * next are kept by as much of their energy about them as noise does not explain (Wiener; Mihçak et al. 1999).
 */
import { lineOf } from './vectors';

/** Four values of a row at a column and beside it, at its ends as at the last that is there. */
function beside(row: usize, x: i32, width: i32): v128 {
  if (x >= 0 && x + 4 <= width) return v128.load(row + ((<usize>x) << 2));
  const last = width - 1;
  let values = f32x4.splat(load<f32>(row + ((<usize>max(0, min(last, x))) << 2)));
  values = f32x4.replace_lane(values, 1, load<f32>(row + ((<usize>max(0, min(last, x + 1))) << 2)));
  values = f32x4.replace_lane(values, 2, load<f32>(row + ((<usize>max(0, min(last, x + 2))) << 2)));
  return f32x4.replace_lane(values, 3, load<f32>(row + ((<usize>max(0, min(last, x + 3))) << 2)));
}

/** Five values by the weights of a B3 spline: 1, 4, 6, 4, 1 of sixteen. */
function spline(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const outer = f32x4.mul(f32x4.add(a, e), f32x4.splat(0.0625));
  const inner = f32x4.mul(f32x4.add(b, d), f32x4.splat(0.25));
  return f32x4.add(f32x4.add(outer, inner), f32x4.mul(c, f32x4.splat(0.375)));
}

/** The next scale of a plane, whose places lie `by` from each other, and in `apart` what it lacks of the plane. `row`: of work. */
export function partScale(
  values: usize,
  next: usize,
  apart: usize,
  width: i32,
  height: i32,
  by: i32,
  row: usize
): void {
  const bytes = (<usize>width) << 2;
  const step = (<usize>by) << 2;
  // Columns whose neighbours are all there.
  const first = min(width, (2 * by + 3) & ~3);
  const last = max(first, (width - 2 * by) & ~3);
  for (let y = 0; y < height; y++) {
    const a = values + lineOf(y - 2 * by, height, bytes);
    const b = values + lineOf(y - by, height, bytes);
    const c = values + lineOf(y, height, bytes);
    const d = values + lineOf(y + by, height, bytes);
    const e = values + lineOf(y + 2 * by, height, bytes);
    for (let at: usize = 0; at < bytes; at += 16)
      v128.store(
        row + at,
        spline(v128.load(a + at), v128.load(b + at), v128.load(c + at), v128.load(d + at), v128.load(e + at))
      );
    const to = next + <usize>y * bytes;
    const put = apart + <usize>y * bytes;
    for (let x = 0; x < width; x += 4) {
      if (x == first) x = last;
      if (x >= width) break;
      const at = (<usize>x) << 2;
      const blurred = spline(
        beside(row, x - 2 * by, width),
        beside(row, x - by, width),
        beside(row, x, width),
        beside(row, x + by, width),
        beside(row, x + 2 * by, width)
      );
      v128.store(to + at, blurred);
      v128.store(put + at, f32x4.sub(v128.load(c + at), blurred));
    }
    const end = (<usize>last) << 2;
    for (let at = (<usize>first) << 2; at < end; at += 16) {
      const near = row + at;
      const blurred = spline(
        v128.load(near - 2 * step),
        v128.load(near - step),
        v128.load(near),
        v128.load(near + step),
        v128.load(near + 2 * step)
      );
      v128.store(to + at, blurred);
      v128.store(put + at, f32x4.sub(v128.load(c + at), blurred));
    }
  }
}

/** Of each value of a row, the squares of it and of those beside it, summed. */
function squaresAcross(row: usize, to: usize, width: i32, by: i32): void {
  const step = (<usize>by) << 2;
  const first = min(width, (by + 3) & ~3);
  const last = max(first, (width - by) & ~3);
  for (let x = 0; x < width; x += 4) {
    if (x == first) x = last;
    if (x >= width) break;
    const left = beside(row, x - by, width);
    const here = beside(row, x, width);
    const right = beside(row, x + by, width);
    v128.store(to + ((<usize>x) << 2), squares(left, here, right));
  }
  const end = (<usize>last) << 2;
  for (let at = (<usize>first) << 2; at < end; at += 16) {
    const near = row + at;
    v128.store(to + at, squares(v128.load(near - step), v128.load(near), v128.load(near + step)));
  }
}

function squares(a: v128, b: v128, c: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(a, a), f32x4.mul(b, b)), f32x4.mul(c, c));
}

/** The mean energy of nine from the squares of three rows. */
function energyOf(squared: usize, y: i32, at: usize, height: i32, by: i32, bytes: usize): v128 {
  return f32x4.mul(
    f32x4.splat(<f32>(1.0 / 9.0)),
    f32x4.add(
      f32x4.add(
        v128.load(squared + lineOf(y - by, height, bytes) + at),
        v128.load(squared + lineOf(y, height, bytes) + at)
      ),
      v128.load(squared + lineOf(y + by, height, bytes) + at)
    )
  );
}

/** Room of a plane of every second pixel, whose width is a multiple of four. */
function halfWidth(width: i32): i32 {
  return (((width + 1) >> 1) + 3) & ~3;
}
function halfHeight(height: i32): i32 {
  return (height + 1) >> 1;
}

/** Every second pixel of every second row, the last one repeated. */
function takeHalf(values: usize, width: i32, height: i32, half: usize): void {
  const wide = halfWidth(width);
  for (let y = 0; y < halfHeight(height); y++) {
    const from = values + ((<usize>(2 * y * width)) << 2);
    const to = half + ((<usize>(y * wide)) << 2);
    for (let x = 0; x < wide; x++)
      store<f32>(to + ((<usize>x) << 2), load<f32>(from + ((<usize>min(width - 1, 2 * x)) << 2)));
  }
}

/** Values half way between the second and the third of four: the cubic through all of them. */
function halfWay(a: v128, b: v128, c: v128, d: v128): v128 {
  const near = f32x4.mul(f32x4.add(b, c), f32x4.splat(0.5625));
  return f32x4.sub(near, f32x4.mul(f32x4.add(a, d), f32x4.splat(0.0625)));
}

/** Adds to a plane what lies at every second pixel of it, and between them the cubic. `line`: of work, a row and 16 values. */
function addFromHalf(half: usize, values: usize, width: i32, height: i32, line: usize): void {
  const wide = halfWidth(width);
  const tall = halfHeight(height);
  const bytes = (<usize>wide) << 2;
  const own = line + 16;
  for (let y = 0; y < height; y++) {
    const at = y >> 1;
    const b = half + <usize>at * bytes;
    if (y & 1) {
      const a = half + lineOf(at - 1, tall, bytes);
      const c = half + lineOf(at + 1, tall, bytes);
      const d = half + lineOf(at + 2, tall, bytes);
      for (let x: usize = 0; x < bytes; x += 16)
        v128.store(own + x, halfWay(v128.load(a + x), v128.load(b + x), v128.load(c + x), v128.load(d + x)));
    } else memory.copy(own, b, bytes);
    store<f32>(own - 4, load<f32>(own));
    v128.store(own + bytes, v128.load32_splat(own + bytes - 4));
    const to = values + ((<usize>(y * width)) << 2);
    // Of the last four, those beyond the row are not stored.
    for (let x = 0; x < width; x += 8) {
      const from = own + ((<usize>x) << 1);
      const here = v128.load(from);
      const between = halfWay(v128.load(from - 4), here, v128.load(from + 4), v128.load(from + 8));
      const put = to + ((<usize>x) << 2);
      v128.store(put, f32x4.add(v128.load(put), v128.shuffle<f32>(here, between, 0, 4, 1, 5)));
      if (x + 4 < width)
        v128.store(put + 16, f32x4.add(v128.load(put + 16), v128.shuffle<f32>(here, between, 2, 6, 3, 7)));
    }
  }
}

/**
 * A plane without what noise explains of it, in place. `width` is a multiple of four. `explained`: for each of `scales`, the
 * energy of a difference that noise has. Of each difference what more energy there is about it is kept; `twice`: by the energies
 * of such a first estimate. From `fine` scales on, every second pixel of every second row is worked on: what is taken out there
 * is smooth over more than two pixels, and is added between them by a cubic. `work`: six planes and a row, nine planes of the
 * half (`halfWidth`, `halfHeight`) and a row of it, and 32 values more.
 */
export function shrinkNoise(
  values: usize,
  width: i32,
  height: i32,
  scales: i32,
  fine: i32,
  explained: usize,
  twice: i32,
  work: usize
): void {
  if (!twice) return keepDifferences(values, 0, width, height, 1, scales, fine, explained, work);
  const bytes = (<usize>width) << 2;
  const plane = <usize>height * bytes;
  const estimate = work + 5 * plane;
  memory.copy(estimate, values, plane);
  keepDifferences(estimate, 0, width, height, 1, scales, fine, explained, work);
  keepDifferences(values, estimate, width, height, 1, scales, fine, explained, work);
}

/**
 * One pass of it: by the plane's own energies, or by those of an estimate, which is used up. `first`: how far the places of the
 * finest of its scales lie from each other.
 */
function keepDifferences(
  values: usize,
  estimate: usize,
  width: i32,
  height: i32,
  first: i32,
  scales: i32,
  fine: i32,
  explained: usize,
  work: usize
): void {
  const bytes = (<usize>width) << 2;
  const plane = <usize>height * bytes;
  const kept = work;
  const squared = work + plane;
  const apart = work + 2 * plane;
  const row = work + 6 * plane;
  let from = values;
  let to = work + 3 * plane;
  let estimated = estimate;
  let estimatedTo = work + 4 * plane;
  const one = f32x4.splat(1);
  const tiny = f32x4.splat(1e-20);
  memory.fill(kept, 0, plane);
  for (let scale = 0; scale < min(fine, scales); scale++) {
    const by = first << scale;
    if (estimate) {
      partScale(estimated, estimatedTo, apart, width, height, by, row);
      for (let y = 0; y < height; y++)
        squaresAcross(apart + <usize>y * bytes, squared + <usize>y * bytes, width, by);
      const used = estimated;
      estimated = estimatedTo;
      estimatedTo = used;
    }
    partScale(from, to, apart, width, height, by, row);
    if (!estimate)
      for (let y = 0; y < height; y++)
        squaresAcross(apart + <usize>y * bytes, squared + <usize>y * bytes, width, by);
    // What noise explains of a difference: of what is left in an estimate, half.
    const part: f32 = estimate ? 0.5 : 1;
    const noise = f32x4.splat(part * load<f32>(explained + ((<usize>scale) << 2)));
    for (let y = 0; y < height; y++) {
      const start = <usize>y * bytes;
      for (let at: usize = 0; at < bytes; at += 16) {
        const energy = energyOf(squared, y, at, height, by, bytes);
        const share = estimate
          ? f32x4.div(energy, f32x4.add(f32x4.add(energy, noise), tiny))
          : f32x4.sub(one, f32x4.pmin(one, f32x4.div(noise, f32x4.add(energy, tiny))));
        const place = start + at;
        v128.store(
          kept + place,
          f32x4.add(v128.load(kept + place), f32x4.mul(v128.load(apart + place), share))
        );
      }
    }
    // The plane itself is not needed any more: scales take turns.
    const used = from;
    from = to;
    to = used;
  }
  // A row of the half, and what is read beside it.
  const half = row + bytes + 64;
  if (fine < scales)
    keepInHalf(
      from,
      estimate ? estimated : 0,
      width,
      height,
      (first << fine) >> 1,
      scales - fine,
      explained + ((<usize>fine) << 2),
      half
    );
  for (let at: usize = 0; at < plane; at += 16)
    v128.store(values + at, f32x4.add(v128.load(kept + at), v128.load(from + at)));
  if (fine < scales) addFromHalf(half, values, width, height, row);
}

/** In `half`: what the rest of the scales of a plane lose of every second pixel of every second row. */
function keepInHalf(
  values: usize,
  estimate: usize,
  width: i32,
  height: i32,
  first: i32,
  scales: i32,
  explained: usize,
  half: usize
): void {
  const wide = halfWidth(width);
  const tall = halfHeight(height);
  const plane = (<usize>(wide * tall)) << 2;
  const changed = half + plane;
  const estimated = changed + plane;
  takeHalf(values, width, height, half);
  memory.copy(changed, half, plane);
  if (estimate) takeHalf(estimate, width, height, estimated);
  keepDifferences(
    changed,
    estimate ? estimated : 0,
    wide,
    tall,
    first,
    scales,
    scales,
    explained,
    estimated + plane
  );
  for (let at: usize = 0; at < plane; at += 16)
    v128.store(half + at, f32x4.sub(v128.load(changed + at), v128.load(half + at)));
}

/**
 * Three planes of light to the roots of light above `-floors`, made into their mean (green twice), and red and blue less green; and
 * back, with `gained` added to each colour.
 */
export function toRootsApart(r: usize, g: usize, b: usize, count: i32, floors: usize): void {
  const zero = f32x4.splat(0);
  const bytes = (<usize>count) << 2;
  const fr = v128.load32_splat(floors);
  const fg = v128.load32_splat(floors, 4);
  const fb = v128.load32_splat(floors, 8);
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = f32x4.sqrt(f32x4.pmax(zero, f32x4.add(v128.load(r + at), fr)));
    const green = f32x4.sqrt(f32x4.pmax(zero, f32x4.add(v128.load(g + at), fg)));
    const blue = f32x4.sqrt(f32x4.pmax(zero, f32x4.add(v128.load(b + at), fb)));
    const mean = f32x4.mul(f32x4.splat(0.25), f32x4.add(f32x4.add(red, blue), f32x4.add(green, green)));
    v128.store(r + at, f32x4.sub(red, green));
    v128.store(g + at, mean);
    v128.store(b + at, f32x4.sub(blue, green));
  }
}

export function fromRootsApart(r: usize, g: usize, b: usize, count: i32, floors: usize, gained: usize): void {
  const zero = f32x4.splat(0);
  const bytes = (<usize>count) << 2;
  const fr = f32x4.sub(v128.load32_splat(gained), v128.load32_splat(floors));
  const fg = f32x4.sub(v128.load32_splat(gained, 4), v128.load32_splat(floors, 4));
  const fb = f32x4.sub(v128.load32_splat(gained, 8), v128.load32_splat(floors, 8));
  for (let at: usize = 0; at < bytes; at += 16) {
    const u = v128.load(r + at);
    const v = v128.load(b + at);
    const green = f32x4.sub(v128.load(g + at), f32x4.mul(f32x4.splat(0.25), f32x4.add(u, v)));
    const red = f32x4.pmax(zero, f32x4.add(green, u));
    const blue = f32x4.pmax(zero, f32x4.add(green, v));
    const own = f32x4.pmax(zero, green);
    v128.store(r + at, f32x4.add(f32x4.mul(red, red), fr));
    v128.store(g + at, f32x4.add(f32x4.mul(own, own), fg));
    v128.store(b + at, f32x4.add(f32x4.mul(blue, blue), fb));
  }
}
