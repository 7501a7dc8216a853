/** Output sharpening (`output/sharpen.ts` says what it does), rows of interleaved RGB of 8 or 16 bits. */

function number(pixels: usize, i: usize, deep: bool): f32 {
  return deep ? <f32>load<u16>(pixels + (i << 1)) : <f32>load<u8>(pixels + i);
}

/**
 * Rows [from, to) of a picture into `out`. `weights`: of the blur, 2 reach + 1. `work`: four planes of the rows
 * [from - reach, to + reach) within the picture, and one row more. `slack`: how far a value may leave its neighbours' range.
 */
export function sharpenRows(
  pixels: usize,
  width: i32,
  height: i32,
  out: usize,
  deep: bool,
  weights: usize,
  reach: i32,
  amount: f32,
  slack: f32,
  from: i32,
  to: i32,
  work: usize
): void {
  const first = max(0, from - reach);
  const last = min(height, to + reach);
  const rows = last - first;
  const plane = (((<usize>(rows * width)) << 2) + 63) & ~63;
  const luma = work;
  const across = luma + plane;
  const least = across + plane;
  const most = least + plane;
  const blurred = most + plane;
  const begin = <usize>first * <usize>width * 3;
  for (let i = 0; i < rows * width; i++) {
    const p = begin + <usize>i * 3;
    store<f32>(
      luma + ((<usize>i) << 2),
      0.2126 * number(pixels, p, deep) +
        0.7152 * number(pixels, p + 1, deep) +
        0.0722 * number(pixels, p + 2, deep)
    );
  }
  // Across first: the blur, and the least and most of three neighbours.
  for (let row = 0; row < rows; row++) {
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
  const full: f32 = deep ? 65535 : 255;
  const bytes = (<usize>width) << 2;
  for (let y = from; y < to; y++) {
    memory.fill(blurred, 0, bytes);
    for (let k = -reach; k <= reach; k++) {
      const weight = v128.load32_splat(weights + ((<usize>(k + reach)) << 2));
      const start = across + lineOf(y + k, first, last, bytes);
      for (let at: usize = 0; at < bytes; at += 16)
        v128.store(
          blurred + at,
          f32x4.add(v128.load(blurred + at), f32x4.mul(weight, v128.load(start + at)))
        );
    }
    const above = lineOf(y - 1, first, last, bytes);
    const here = lineOf(y, first, last, bytes);
    const below = lineOf(y + 1, first, last, bytes);
    let p = <usize>y * <usize>width * 3;
    for (let at: usize = 0; at < bytes; at += 4) {
      const value = load<f32>(luma + here + at);
      const low =
        min(min(load<f32>(least + above + at), load<f32>(least + here + at)), load<f32>(least + below + at)) -
        slack;
      const high =
        max(max(load<f32>(most + above + at), load<f32>(most + here + at)), load<f32>(most + below + at)) +
        slack;
      const wanted = value + amount * (value - load<f32>(blurred + at));
      const change = min(high, max(low, wanted)) - value;
      for (let c: usize = 0; c < 3; c++, p++) {
        const changed = min(full, max<f32>(0, number(pixels, p, deep) + change)) + 0.5;
        if (deep) store<u16>(out + (p << 1), <u16>changed);
        else store<u8>(out + p, <u8>changed);
      }
    }
  }
}

function lineOf(y: i32, first: i32, last: i32, bytes: usize): usize {
  return <usize>(max(first, min(last - 1, y)) - first) * bytes;
}
