/** Output sharpening (`output/sharpen-stage.ts` says what it does) of planes of encoded values, in place. */
import { loadPart, storePart } from './vectors';

/**
 * `weights`: of the blur, 2 reach + 1. `slack`: how far a value may leave its neighbours' range. `work`: four planes, a row,
 * and room for each to begin at a multiple of 64. Where there is no real pixel, the nearest of its row or column stands for it.
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
  const plane = (((<usize>(height * width)) << 2) + 63) & ~63;
  const luma = work;
  const across = luma + plane;
  const least = across + plane;
  const most = least + plane;
  const blurred = most + plane;
  takeLuma(r, g, b, valid, width, height, luma);
  // Across first: the blur, and the least and most of three neighbours.
  for (let row = 0; row < height; row++) {
    const start = (<usize>(row * width)) << 2;
    for (let x = 0; x < width;) {
      const at = luma + start + ((<usize>x) << 2);
      const put = start + ((<usize>x) << 2);
      if (x >= reach && x + 4 + reach <= width) {
        let sum = f32x4.splat(0);
        for (let k = -reach; k <= reach; k++)
          sum = f32x4.add(
            sum,
            f32x4.mul(
              v128.load32_splat(weights + ((<usize>(k + reach)) << 2)),
              v128.load(at + ((<isize>k) << 2))
            )
          );
        v128.store(across + put, sum);
        const before = v128.load(at - 4);
        const here = v128.load(at);
        const after = v128.load(at + 4);
        v128.store(least + put, f32x4.pmin(f32x4.pmin(before, here), after));
        v128.store(most + put, f32x4.pmax(f32x4.pmax(before, here), after));
        x += 4;
      } else {
        let sum: f32 = 0;
        for (let k = -reach; k <= reach; k++)
          sum +=
            load<f32>(weights + ((<usize>(k + reach)) << 2)) *
            load<f32>(luma + start + ((<usize>max(0, min(width - 1, x + k))) << 2));
        store<f32>(across + put, sum);
        const before = load<f32>(luma + start + ((<usize>max(0, x - 1)) << 2));
        const here = load<f32>(at);
        const after = load<f32>(luma + start + ((<usize>min(width - 1, x + 1)) << 2));
        store<f32>(least + put, min(min(before, here), after));
        store<f32>(most + put, max(max(before, here), after));
        x++;
      }
    }
  }
  const bytes = (<usize>width) << 2;
  const strength = f32x4.splat(amount);
  const over = f32x4.splat(slack);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let y = 0; y < height; y++) {
    memory.fill(blurred, 0, bytes);
    for (let k = -reach; k <= reach; k++) {
      const weight = v128.load32_splat(weights + ((<usize>(k + reach)) << 2));
      const start = across + lineOf(y + k, height, bytes);
      for (let at: usize = 0; at < bytes; at += 16)
        v128.store(
          blurred + at,
          f32x4.add(v128.load(blurred + at), f32x4.mul(weight, v128.load(start + at)))
        );
    }
    const above = lineOf(y - 1, height, bytes);
    const here = lineOf(y, height, bytes);
    const below = lineOf(y + 1, height, bytes);
    for (let x = 0; x < width; x += 4) {
      const at = (<usize>x) << 2;
      const value = v128.load(luma + here + at);
      const low = f32x4.sub(
        f32x4.pmin(
          f32x4.pmin(v128.load(least + above + at), v128.load(least + here + at)),
          v128.load(least + below + at)
        ),
        over
      );
      const high = f32x4.add(
        f32x4.pmax(
          f32x4.pmax(v128.load(most + above + at), v128.load(most + here + at)),
          v128.load(most + below + at)
        ),
        over
      );
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

/** Luma of each pixel; where there is none, that of the nearest in its row, or of the nearest row that has one. */
function takeLuma(r: usize, g: usize, b: usize, valid: usize, width: i32, height: i32, luma: usize): void {
  const bytes = (<usize>width) << 2;
  /** The last row that has a pixel, and how many before the first such row have none. */
  let lastRow = -1;
  for (let y = 0; y < height; y++) {
    const from = y * width;
    const row = luma + ((<usize>from) << 2);
    let first = -1;
    let last: f32 = 0;
    for (let x = 0; x < width; x++) {
      const at = (<usize>(from + x)) << 2;
      if (load<u8>(valid + from + x)) {
        last =
          <f32>0.2126 * load<f32>(r + at) + <f32>0.7152 * load<f32>(g + at) + <f32>0.0722 * load<f32>(b + at);
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

function lineOf(y: i32, height: i32, bytes: usize): usize {
  return <usize>max(0, min(height - 1, y)) * bytes;
}
