/** Saturation in OKLab (Ottosson 2020): chroma scaled, hue and lightness kept. Padded to a multiple of four values. */

import { cube, cubeRoot, entry, mixed } from './vectors';

/**
 * `numbers`: nine to cone responses, nine from their roots to lightness, a and b, nine back to the roots, nine back to
 * colours; then saturation (1 keeps), vibrance (0 keeps), the chroma from which vibrance does nothing, and the direction
 * (a, b) of the hue that it spares.
 */
export function vividColours(r: usize, g: usize, b: usize, count: i32, numbers: usize): void {
  const toRoots = numbers,
    toLab = numbers + 36,
    fromLab = numbers + 72,
    fromRoots = numbers + 108;
  const saturation = entry(numbers, 36),
    vibrance = entry(numbers, 37),
    perChroma = f32x4.div(f32x4.splat(1), entry(numbers, 38));
  const spareA = entry(numbers, 39),
    spareB = entry(numbers, 40);
  const zero = f32x4.splat(0),
    one = f32x4.splat(1);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const l = cubeRoot(mixed(toRoots, 0, red, green, blue)),
      m = cubeRoot(mixed(toRoots, 3, red, green, blue)),
      s = cubeRoot(mixed(toRoots, 6, red, green, blue));
    const light = mixed(toLab, 0, l, m, s);
    let a = mixed(toLab, 3, l, m, s),
      bb = mixed(toLab, 6, l, m, s);
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(a, a), f32x4.mul(bb, bb)));
    // What is pale gains most, and of the spared hue only two fifths of that.
    const pale = f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(chroma, perChroma)));
    const along = f32x4.div(
      f32x4.add(f32x4.mul(a, spareA), f32x4.mul(bb, spareB)),
      f32x4.pmax(chroma, f32x4.splat(1e-6))
    );
    const near = f32x4.pmax(zero, along);
    const square = f32x4.mul(near, near);
    const spared = f32x4.sub(one, f32x4.mul(f32x4.splat(0.6), f32x4.mul(square, square)));
    const factor = f32x4.mul(saturation, f32x4.add(one, f32x4.mul(vibrance, f32x4.mul(pale, spared))));
    a = f32x4.mul(a, factor);
    bb = f32x4.mul(bb, factor);
    const l3 = cube(mixed(fromLab, 0, light, a, bb)),
      m3 = cube(mixed(fromLab, 3, light, a, bb)),
      s3 = cube(mixed(fromLab, 6, light, a, bb));
    v128.store(r + at, mixed(fromRoots, 0, l3, m3, s3));
    v128.store(g + at, mixed(fromRoots, 3, l3, m3, s3));
    v128.store(b + at, mixed(fromRoots, 6, l3, m3, s3));
  }
}
