/** Half a plane's size by the mean of 2 x 2 pixels; an odd last row or column is repeated. Rows [from, to) of the half. */
export function halve(
  source: usize,
  width: i32,
  height: i32,
  out: usize,
  outWidth: i32,
  from: i32,
  to: i32
): void {
  const quarter = f32x4.splat(0.25);
  for (let y = from; y < to; y++) {
    const above = source + ((<usize>(y * 2) * <usize>width) << 2);
    const below = source + ((<usize>min(y * 2 + 1, height - 1) * <usize>width) << 2);
    const target = out + ((<usize>y * <usize>outWidth) << 2);
    let x = 0;
    for (; x + 4 <= outWidth && x * 2 + 8 <= width; x += 4) {
      const at = (<usize>x) << 3;
      const low = f32x4.add(v128.load(above + at), v128.load(below + at));
      const high = f32x4.add(v128.load(above + at, 16), v128.load(below + at, 16));
      const even = v128.shuffle<f32>(low, high, 0, 2, 4, 6);
      const odd = v128.shuffle<f32>(low, high, 1, 3, 5, 7);
      v128.store(target + ((<usize>x) << 2), f32x4.mul(f32x4.add(even, odd), quarter));
    }
    for (; x < outWidth; x++) {
      const left = (<usize>(x * 2)) << 2;
      const right = (<usize>min(x * 2 + 1, width - 1)) << 2;
      const sum =
        load<f32>(above + left) +
        load<f32>(above + right) +
        load<f32>(below + left) +
        load<f32>(below + right);
      store<f32>(target + ((<usize>x) << 2), sum * 0.25);
    }
  }
}
