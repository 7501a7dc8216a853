/** Richardson–Lucy deconvolution (Richardson 1972, Lucy 1974) of a plane by a blur that is not alike everywhere. */
import { enterCell, enterRow, firstColumn, pastColumn, placeX, placeY, slopeX, slopeY } from './mesh';
import { lineOf, loadPart, storePart } from './vectors';

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

/** A plane blurred into another, across and down, by the weights of each pixel's level: 2 reach + 1 for each. */
function blurByLevels(
  from: usize,
  to: usize,
  across: usize,
  width: i32,
  height: i32,
  levels: usize,
  table: usize,
  reach: i32
): void {
  const groups = groupsOf(width);
  const bytes = (<usize>width) << 2;
  const each = (<usize>(2 * reach + 1)) << 2;
  for (let y = 0; y < height; y++) {
    const row = from + <usize>y * bytes;
    const put = across + <usize>y * bytes;
    for (let x = 0; x < width; x += 4) {
      const weights = table + each * <usize>load<u8>(levels + <usize>(y * groups + (x >> 2)));
      if (x >= reach && x + 4 + reach <= width) {
        let sum = f32x4.splat(0);
        for (let k = -reach; k <= reach; k++)
          sum = f32x4.add(
            sum,
            f32x4.mul(
              v128.load32_splat(weights + ((<usize>(k + reach)) << 2)),
              v128.load(row + ((<usize>(x + k)) << 2))
            )
          );
        v128.store(put + ((<usize>x) << 2), sum);
        continue;
      }
      for (let i = x; i < min(width, x + 4); i++) {
        let sum: f32 = 0;
        for (let k = -reach; k <= reach; k++)
          sum +=
            load<f32>(weights + ((<usize>(k + reach)) << 2)) *
            load<f32>(row + ((<usize>max(0, min(width - 1, i + k))) << 2));
        store<f32>(put + ((<usize>i) << 2), sum);
      }
    }
  }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x += 4) {
      const weights = table + each * <usize>load<u8>(levels + <usize>(y * groups + (x >> 2)));
      const at = (<usize>x) << 2;
      let sum = f32x4.splat(0);
      // What is read beyond a row's end is not stored.
      for (let k = -reach; k <= reach; k++)
        sum = f32x4.add(
          sum,
          f32x4.mul(
            v128.load32_splat(weights + ((<usize>(k + reach)) << 2)),
            v128.load(across + lineOf(y + k, height, bytes) + at)
          )
        );
      storePart(to + <usize>y * bytes + at, sum, width - x);
    }
}

/**
 * `times` steps towards the plane whose blur `values` are, all of them above 0; the result is in `out`. `work`: two planes, and
 * three values more.
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
  const bytes = (<usize>(width * height)) << 2;
  const blurred = work;
  const across = work + bytes;
  const least = f32x4.splat(1e-9);
  memory.copy(out, values, bytes);
  for (let time = 0; time < times; time++) {
    blurByLevels(out, blurred, across, width, height, levels, table, reach);
    for (let at: usize = 0; at < bytes; at += 16) {
      const left = <i32>((bytes - at) >> 2);
      const against = f32x4.pmax(least, loadPart(blurred + at, left));
      storePart(blurred + at, f32x4.div(loadPart(values + at, left), against), left);
    }
    blurByLevels(blurred, blurred, across, width, height, levels, table, reach);
    for (let at: usize = 0; at < bytes; at += 16) {
      const left = <i32>((bytes - at) >> 2);
      storePart(out + at, f32x4.mul(loadPart(out + at, left), loadPart(blurred + at, left)), left);
    }
  }
}
