/** Gaussian blur, by weights along one direction after the other: 2 reach + 1 of them. */
import { lineOf } from './vectors';

/** Four values of a row, blurred along it, of which all that they are made of is there. */
export function blurredFour(at: usize, weights: usize, reach: i32): v128 {
  let sum = f32x4.splat(0);
  for (let k = -reach; k <= reach; k++)
    sum = f32x4.add(
      sum,
      f32x4.mul(v128.load32_splat(weights + ((<usize>(k + reach)) << 2)), v128.load(at + ((<isize>k) << 2)))
    );
  return sum;
}

/** A value of a row, blurred along it; what lies beyond its ends is as they are. */
export function blurredOne(row: usize, x: i32, width: i32, weights: usize, reach: i32): f32 {
  let sum: f32 = 0;
  for (let k = -reach; k <= reach; k++)
    sum +=
      load<f32>(weights + ((<usize>(k + reach)) << 2)) *
      load<f32>(row + ((<usize>max(0, min(width - 1, x + k))) << 2));
  return sum;
}

/** A row of a plane, blurred across its rows, into `out`, which has room for a multiple of four. */
export function blurDown(
  plane: usize,
  y: i32,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  out: usize
): void {
  const bytes = (<usize>width) << 2;
  memory.fill(out, 0, bytes);
  for (let k = -reach; k <= reach; k++) {
    const weight = v128.load32_splat(weights + ((<usize>(k + reach)) << 2));
    const start = plane + lineOf(y + k, height, bytes);
    for (let at: usize = 0; at < bytes; at += 16)
      v128.store(out + at, f32x4.add(v128.load(out + at), f32x4.mul(weight, v128.load(start + at))));
  }
}

/** A plane, in place. `work`: a plane, and a row that has room for a multiple of four. */
export function blurPlane(
  plane: usize,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  work: usize
): void {
  const bytes = (<usize>width) << 2;
  for (let y = 0; y < height; y++) {
    const from = plane + <usize>y * bytes;
    const to = work + <usize>y * bytes;
    for (let x = 0; x < width;) {
      const at = (<usize>x) << 2;
      if (x >= reach && x + 4 + reach <= width) {
        v128.store(to + at, blurredFour(from + at, weights, reach));
        x += 4;
      } else {
        store<f32>(to + at, blurredOne(from, x, width, weights, reach));
        x++;
      }
    }
  }
  const row = work + <usize>height * bytes;
  for (let y = 0; y < height; y++) {
    blurDown(work, y, width, height, weights, reach, row);
    memory.copy(plane + <usize>y * bytes, row, bytes);
  }
}
