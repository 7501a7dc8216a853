/** Colours graded in OKLab (Ottosson 2020): by hue, by strength, to grey, and by zones of lightness. Padded to fours. */

import { cube, cubeRoot, entry, mixed } from './vectors';

const HUE_STEPS: f32 = 720;
const ZONE_STEPS: f32 = 256;
const PER_RADIAN: f32 = 114.59155902616465;
const ONE: f32 = 1;

/** Angle of a direction, in half degrees from 0 to 720, to a thousandth of one (Abramowitz & Stegun 4.4.49). */
function halfDegrees(x: f32, y: f32): f32 {
  const ax = abs(x),
    ay = abs(y);
  const steep = ay > ax;
  const z = steep ? ax / ay : ax > 0 ? ay / ax : <f32>0;
  const z2 = z * z;
  let angle =
    z *
    (<f32>0.999866 +
      z2 * (<f32>-0.3302995 + z2 * (<f32>0.180141 + z2 * (<f32>-0.085133 + z2 * <f32>0.0208351))));
  angle *= PER_RADIAN;
  if (steep) angle = <f32>180 - angle;
  if (x < 0) angle = <f32>360 - angle;
  if (y < 0) angle = HUE_STEPS - angle;
  return angle >= HUE_STEPS ? 0 : angle;
}

/** Four numbers between two entries of a table. */
function between(table: usize, at: f32, bytes: usize, first: usize): v128 {
  const whole = <i32>at;
  const share = f32x4.splat(at - <f32>whole);
  const p = table + <usize>whole * bytes + first;
  const low = v128.load(p);
  return f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(p + bytes), low), share));
}

/**
 * `numbers`: nine to cone responses, nine from their roots to lightness, a and b, nine back to the roots, nine back to
 * colours; saturation (1 keeps), vibrance (0 keeps), the chroma from which vibrance does nothing, and the direction (a, b) of
 * the hue that it spares; three weights of grey; the chroma from which a hue's change of lightness is whole.
 * `hues`: 721 entries over the hues: a turn by cosine and sine with the change of chroma in it, and lightness to add; 0: none.
 * `zones`: 257 entries over lightness: a and b to add before all else, a and b to add after it, lightness to add, and a factor
 * of chroma; 0: none. `grey`: whether only grey is left of the colours. `work` holds 16 values.
 */
export function gradeColours(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  numbers: usize,
  hues: usize,
  zones: usize,
  grey: i32,
  work: usize
): void {
  const toRoots = numbers,
    toLab = numbers + 36,
    fromLab = numbers + 72,
    fromRoots = numbers + 108;
  const saturation = entry(numbers, 36),
    vibrance = entry(numbers, 37),
    perChroma = f32x4.div(f32x4.splat(1), entry(numbers, 38));
  const spareA = entry(numbers, 39),
    spareB = entry(numbers, 40);
  const whole = load<f32>(numbers, 176);
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
    let light = mixed(toLab, 0, l, m, s);
    let a = mixed(toLab, 3, l, m, s),
      bb = mixed(toLab, 6, l, m, s);
    const before = light;
    if (zones != 0 || hues != 0) {
      v128.store(work, light);
      v128.store(work, a, 16);
      v128.store(work, bb, 32);
      for (let k = work; k < work + 16; k += 4) {
        let ka = load<f32>(k, 16),
          kb = load<f32>(k, 32);
        if (zones != 0) {
          const cast = between(zones, zoneOf(load<f32>(k)), 32, 0);
          ka += f32x4.extract_lane(cast, 0);
          kb += f32x4.extract_lane(cast, 1);
        }
        if (hues != 0) {
          const turn = between(hues, halfDegrees(ka, kb), 16, 0);
          const cosine = f32x4.extract_lane(turn, 0),
            sine = f32x4.extract_lane(turn, 1);
          const chroma = Mathf.sqrt(ka * ka + kb * kb);
          store<f32>(k, load<f32>(k) + f32x4.extract_lane(turn, 2) * min<f32>(ONE, chroma / whole));
          const turned = ka * cosine - kb * sine;
          kb = ka * sine + kb * cosine;
          ka = turned;
        }
        store<f32>(k, ka, 16);
        store<f32>(k, kb, 32);
      }
      light = v128.load(work);
      a = v128.load(work, 16);
      bb = v128.load(work, 32);
    }
    if (grey) {
      const root = cubeRoot(f32x4.pmax(zero, mixed(numbers + 164, 0, red, green, blue)));
      light = f32x4.add(root, f32x4.sub(light, before));
      a = zero;
      bb = zero;
    } else {
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
    }
    if (zones != 0) {
      v128.store(work, light);
      v128.store(work, a, 16);
      v128.store(work, bb, 32);
      for (let k = work; k < work + 16; k += 4) {
        const zone = zoneOf(load<f32>(k));
        const shift = between(zones, zone, 32, 0);
        const rest = between(zones, zone, 32, 16);
        const factor = f32x4.extract_lane(rest, 1);
        store<f32>(k, load<f32>(k) + f32x4.extract_lane(rest, 0));
        store<f32>(k, load<f32>(k, 16) * factor + f32x4.extract_lane(shift, 2), 16);
        store<f32>(k, load<f32>(k, 32) * factor + f32x4.extract_lane(shift, 3), 32);
      }
      light = v128.load(work);
      a = v128.load(work, 16);
      bb = v128.load(work, 32);
    }
    const l3 = cube(mixed(fromLab, 0, light, a, bb)),
      m3 = cube(mixed(fromLab, 3, light, a, bb)),
      s3 = cube(mixed(fromLab, 6, light, a, bb));
    v128.store(r + at, mixed(fromRoots, 0, l3, m3, s3));
    v128.store(g + at, mixed(fromRoots, 3, l3, m3, s3));
    v128.store(b + at, mixed(fromRoots, 6, l3, m3, s3));
  }
}

/** Place of a lightness in the table of zones. */
function zoneOf(light: f32): f32 {
  return light > 0 ? min<f32>(light, ONE) * (ZONE_STEPS - <f32>0.001) : 0;
}
