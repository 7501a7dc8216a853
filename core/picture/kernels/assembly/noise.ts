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

/**
 * A plane without what noise explains of it, in place. `width` is a multiple of four. `explained`: for each of `scales`, the
 * energy of a difference that noise has. Of each difference what more energy there is about it is kept; `twice`: by the energies
 * of such a first estimate. `work`: seven planes and a row.
 */
export function shrinkNoise(
  values: usize,
  width: i32,
  height: i32,
  scales: i32,
  explained: usize,
  twice: i32,
  work: usize
): void {
  if (!twice) return keepDifferences(values, 0, width, height, scales, explained, work);
  const bytes = (<usize>width) << 2;
  const plane = <usize>height * bytes;
  const estimate = work + 5 * plane;
  memory.copy(estimate, values, plane);
  keepDifferences(estimate, 0, width, height, scales, explained, work);
  keepDifferences(values, estimate, width, height, scales, explained, work);
}

/** One pass of it: by the plane's own energies, or by those of an estimate, which is used up. */
function keepDifferences(
  values: usize,
  estimate: usize,
  width: i32,
  height: i32,
  scales: i32,
  explained: usize,
  work: usize
): void {
  const bytes = (<usize>width) << 2;
  const plane = <usize>height * bytes;
  const kept = work;
  const squared = work + plane;
  const apart = work + 2 * plane;
  const row = work + 7 * plane;
  let from = values;
  let to = work + 3 * plane;
  let estimated = estimate;
  let estimatedTo = work + 4 * plane;
  const one = f32x4.splat(1);
  const tiny = f32x4.splat(1e-20);
  memory.fill(kept, 0, plane);
  for (let scale = 0; scale < scales; scale++) {
    const by = 1 << scale;
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
  for (let at: usize = 0; at < plane; at += 16)
    v128.store(values + at, f32x4.add(v128.load(kept + at), v128.load(from + at)));
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
