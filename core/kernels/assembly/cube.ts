/**
 * Colours through a look. `numbers`: the values of the first node of red, green and blue, nodes for each unit of them, nodes
 * of each side, and the amount. A table holds red, green and blue of each node.
 */

function placed(value: f32, from: f32, per: f32, last: f32): f32 {
  const at = (value - from) * per;
  return at > 0 ? (at < last ? at : last) : 0;
}

/** By a cube in which red changes fastest, between its nodes by tetrahedra (Kasson et al., J. Electronic Imaging 4, 1995). */
export function throughCube(r: usize, g: usize, b: usize, count: i32, table: usize, numbers: usize): void {
  const fromR = load<f32>(numbers),
    fromG = load<f32>(numbers, 4),
    fromB = load<f32>(numbers, 8);
  const perR = load<f32>(numbers, 12),
    perG = load<f32>(numbers, 16),
    perB = load<f32>(numbers, 20);
  const size = <i32>load<f32>(numbers, 24);
  const amount = load<f32>(numbers, 28);
  const last = <f32>(size - 1);
  const stepR: usize = 12,
    stepG = <usize>size * 12,
    stepB = <usize>(size * size) * 12;
  for (let i: usize = 0, bytes = (<usize>count) << 2; i < bytes; i += 4) {
    const red = load<f32>(r + i),
      green = load<f32>(g + i),
      blue = load<f32>(b + i);
    const x = placed(red, fromR, perR, last),
      y = placed(green, fromG, perG, last),
      z = placed(blue, fromB, perB, last);
    const cx = min(size - 2, <i32>x),
      cy = min(size - 2, <i32>y),
      cz = min(size - 2, <i32>z);
    const fx = x - <f32>cx,
      fy = y - <f32>cy,
      fz = z - <f32>cz;
    const low = table + <usize>((cz * size + cy) * size + cx) * 12;
    const high = low + stepR + stepG + stepB;
    // The cell is walked from its dark to its light corner along the colours in the order of their shares.
    let first: f32, second: f32, third: f32;
    let one: usize, two: usize;
    if (fx >= fy) {
      if (fy >= fz) {
        first = fx;
        second = fy;
        third = fz;
        one = low + stepR;
        two = one + stepG;
      } else if (fx >= fz) {
        first = fx;
        second = fz;
        third = fy;
        one = low + stepR;
        two = one + stepB;
      } else {
        first = fz;
        second = fx;
        third = fy;
        one = low + stepB;
        two = one + stepR;
      }
    } else if (fz >= fy) {
      first = fz;
      second = fy;
      third = fx;
      one = low + stepB;
      two = one + stepG;
    } else if (fz >= fx) {
      first = fy;
      second = fz;
      third = fx;
      one = low + stepG;
      two = one + stepB;
    } else {
      first = fy;
      second = fx;
      third = fz;
      one = low + stepG;
      two = one + stepR;
    }
    const w0: f32 = <f32>1 - first,
      w1 = first - second,
      w2 = second - third;
    // Red, green and blue together; the fourth number is the next node's, and is let go.
    const out = f32x4.add(
      f32x4.add(f32x4.mul(f32x4.splat(w0), v128.load(low)), f32x4.mul(f32x4.splat(w1), v128.load(one))),
      f32x4.add(f32x4.mul(f32x4.splat(w2), v128.load(two)), f32x4.mul(f32x4.splat(third), v128.load(high)))
    );
    store<f32>(r + i, red + (f32x4.extract_lane(out, 0) - red) * amount);
    store<f32>(g + i, green + (f32x4.extract_lane(out, 1) - green) * amount);
    store<f32>(b + i, blue + (f32x4.extract_lane(out, 2) - blue) * amount);
  }
}

/** Each colour by a curve of its own, straight between its nodes. */
export function throughCurves(r: usize, g: usize, b: usize, count: i32, table: usize, numbers: usize): void {
  const size = <i32>load<f32>(numbers, 24);
  const amount = load<f32>(numbers, 28);
  for (let c = 0; c < 3; c++) {
    const plane = c == 0 ? r : c == 1 ? g : b;
    const own = (<usize>c) << 2;
    const from = load<f32>(numbers + own),
      per = load<f32>(numbers + own, 12);
    for (let i: usize = 0, bytes = (<usize>count) << 2; i < bytes; i += 4) {
      const value = load<f32>(plane + i);
      const at = placed(value, from, per, <f32>(size - 1));
      const whole = min(size - 2, <i32>at);
      const low = load<f32>(table + <usize>whole * 12 + own);
      const high = load<f32>(table + <usize>whole * 12 + own, 12);
      const out = low + (high - low) * (at - <f32>whole);
      store<f32>(plane + i, value + (out - value) * amount);
    }
  }
}
