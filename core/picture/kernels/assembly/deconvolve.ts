/** Richardson–Lucy deconvolution (Richardson 1972, Lucy 1974) of a plane by a blur that is not alike everywhere. */
import { enterCell, enterRow, firstColumn, pastColumn, placeX, placeY, slopeX, slopeY } from './mesh';
import { loadPart, storePart } from './vectors';

/** Groups of four pixels in a row. */
function groupsOf(width: i32): i32 {
  return (width + 3) >> 2;
}

/**
 * Which blur each four pixels of a tile have, by the square of their distance from the middle of the frame, one byte each: `most`
 * from the corners on. `x`, `y`: nodes of the mesh, as field positions.
 */
export function blurLevels(
  levels: usize,
  width: i32,
  height: i32,
  x: usize,
  y: usize,
  columns: i32,
  step: i32,
  most: f32
): void {
  const groups = groupsOf(width);
  for (let row = 0; row < height; row++) {
    enterRow(row, columns, step);
    const to = levels + <usize>(row * groups);
    for (let column = 0; column * step < width; column++) {
      enterCell(x, y, column, 0, width);
      for (let at = (firstColumn + 3) & ~3; at < pastColumn; at += 4) {
        const on = <f32>(at - firstColumn);
        const across = placeX + on * slopeX;
        const down = placeY + on * slopeY;
        const square = across * across + down * down;
        // Where no ray arrives there is no place.
        store<u8>(to + <usize>(at >> 2), square >= 0 ? <u8>min(most, square * most + <f32>0.5) : 0);
      }
    }
  }
}

/** Weights of the level of the four pixels from `x` on of a row: of the middle one, and of those to one side of it. */
function weightsAt(levels: usize, table: usize, reach: i32, groups: i32, x: i32, y: i32): usize {
  const level = <usize>load<u8>(levels + <usize>(y * groups + (x >> 2)));
  return table + ((<usize>(2 * reach + 1) * level + <usize>reach) << 2);
}

/**
 * Seven values, `step` bytes from one to the next, by the weights of the middle one and of those to one side: nearly all blurs of
 * lenses are as small, and without a loop they cost half as much.
 */
function bySeven(at: usize, step: usize, weights: usize): v128 {
  const middle = f32x4.mul(v128.load32_splat(weights), v128.load(at));
  const one = f32x4.mul(v128.load32_splat(weights, 4), f32x4.add(v128.load(at - step), v128.load(at + step)));
  const two = f32x4.mul(
    v128.load32_splat(weights, 8),
    f32x4.add(v128.load(at - 2 * step), v128.load(at + 2 * step))
  );
  const three = f32x4.mul(
    v128.load32_splat(weights, 12),
    f32x4.add(v128.load(at - 3 * step), v128.load(at + 3 * step))
  );
  return f32x4.add(f32x4.add(middle, one), f32x4.add(two, three));
}

/** Rows [top, bottom) of a plane blurred across, into another, by the weights of each pixel's level: 2 reach + 1 for each, the same on both sides. */
function blurAcrossByLevels(
  from: usize,
  to: usize,
  width: i32,
  top: i32,
  bottom: i32,
  levels: usize,
  table: usize,
  reach: i32
): void {
  const groups = groupsOf(width);
  const bytes = (<usize>width) << 2;
  const far = (<usize>reach) << 2;
  for (let y = top; y < bottom; y++) {
    const row = from + <usize>y * bytes;
    const put = to + <usize>y * bytes;
    for (let x = 0; x < width; x += 4) {
      const weights = weightsAt(levels, table, reach, groups, x, y);
      if (x >= reach && x + 4 + reach <= width) {
        const at = row + ((<usize>x) << 2);
        if (reach == 3) {
          v128.store(put + ((<usize>x) << 2), bySeven(at, 4, weights));
          continue;
        }
        let sum = f32x4.mul(v128.load32_splat(weights), v128.load(at));
        for (let k: usize = 4; k <= far; k += 4) {
          const both = f32x4.add(v128.load(at - k), v128.load(at + k));
          sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(weights + k), both));
        }
        v128.store(put + ((<usize>x) << 2), sum);
        continue;
      }
      for (let i = x; i < min(width, x + 4); i++) {
        let sum: f32 = 0;
        for (let k = -reach; k <= reach; k++)
          sum +=
            load<f32>(weights + ((<usize>abs(k)) << 2)) *
            load<f32>(row + ((<usize>max(0, min(width - 1, i + k))) << 2));
        store<f32>(put + ((<usize>i) << 2), sum);
      }
    }
  }
}

/** Four values of a plane blurred down, where `reach` rows above and below are there; rows are `bytes` long. */
function blurredDown(here: usize, bytes: usize, weights: usize, reach: i32): v128 {
  if (reach == 3) return bySeven(here, bytes, weights);
  let sum = f32x4.mul(v128.load32_splat(weights), v128.load(here));
  let above = here;
  let below = here;
  for (let k = 1; k <= reach; k++) {
    above -= bytes;
    below += bytes;
    const both = f32x4.add(v128.load(above), v128.load(below));
    sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(weights + ((<usize>k) << 2)), both));
  }
  return sum;
}

/**
 * `times` steps towards the plane whose blur `values` are, all of them above 0. The result is in `out`, but for 2 reach times rows
 * at the top and as many at the bottom: each step is made only of rows that the step before made of all that lies about them.
 * `work`: two planes, and three values more.
 */
export function deconvolve(
  values: usize,
  out: usize,
  width: i32,
  height: i32,
  levels: usize,
  table: usize,
  reach: i32,
  times: i32,
  work: usize
): void {
  const bytes = (<usize>width) << 2;
  const ratios = work;
  const across = work + <usize>height * bytes;
  const groups = groupsOf(width);
  const least = f32x4.splat(1e-9);
  let before = values;
  /** Rows at the top and the bottom that are not whole any more. */
  let margin = 0;
  for (let time = 0; time < times; time++) {
    // What there is against what the plane so far would be blurred to.
    blurAcrossByLevels(before, across, width, margin, height - margin, levels, table, reach);
    margin += reach;
    for (let y = margin; y < height - margin; y++)
      for (let x = 0; x < width; x += 4) {
        const place = <usize>y * bytes + ((<usize>x) << 2);
        const weights = weightsAt(levels, table, reach, groups, x, y);
        const against = f32x4.pmax(least, blurredDown(across + place, bytes, weights, reach));
        storePart(ratios + place, f32x4.div(loadPart(values + place, width - x), against), width - x);
      }
    blurAcrossByLevels(ratios, across, width, margin, height - margin, levels, table, reach);
    margin += reach;
    for (let y = margin; y < height - margin; y++)
      for (let x = 0; x < width; x += 4) {
        const place = <usize>y * bytes + ((<usize>x) << 2);
        const weights = weightsAt(levels, table, reach, groups, x, y);
        const factor = blurredDown(across + place, bytes, weights, reach);
        storePart(out + place, f32x4.mul(loadPart(before + place, width - x), factor), width - x);
      }
    before = out;
  }
}
