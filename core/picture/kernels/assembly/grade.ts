/** Colours graded in OKLab (Ottosson 2020): by hue, by strength, to grey, and by zones of lightness. Padded to fours. */

import { cube, cubeRoot, entry, mixed } from './vectors';

const ZONE_STEPS: f32 = 256;
const PER_RADIAN: f32 = 114.59155902616465;

/** Angles of four directions, in half degrees from 0 to 720, to a thousandth of one (Abramowitz & Stegun 4.4.49). */
function halfDegrees(x: v128, y: v128): v128 {
  const ax = f32x4.abs(x),
    ay = f32x4.abs(y);
  const steep = f32x4.gt(ay, ax);
  const larger = f32x4.pmax(f32x4.splat(1e-20), v128.bitselect(ay, ax, steep));
  const z = f32x4.div(v128.bitselect(ax, ay, steep), larger);
  const z2 = f32x4.mul(z, z);
  let series = f32x4.splat(<f32>0.0208351);
  series = f32x4.add(f32x4.mul(series, z2), f32x4.splat(<f32>-0.085133));
  series = f32x4.add(f32x4.mul(series, z2), f32x4.splat(<f32>0.180141));
  series = f32x4.add(f32x4.mul(series, z2), f32x4.splat(<f32>-0.3302995));
  series = f32x4.add(f32x4.mul(series, z2), f32x4.splat(<f32>0.999866));
  let angle = f32x4.mul(f32x4.mul(series, z), f32x4.splat(PER_RADIAN));
  angle = v128.bitselect(f32x4.sub(f32x4.splat(180), angle), angle, steep);
  const zero = f32x4.splat(0);
  angle = v128.bitselect(f32x4.sub(f32x4.splat(360), angle), angle, f32x4.lt(x, zero));
  angle = v128.bitselect(f32x4.sub(f32x4.splat(720), angle), angle, f32x4.lt(y, zero));
  return f32x4.pmin(angle, f32x4.splat(<f32>719.99));
}

/** Four numbers between two entries of a table, `bytes` long. */
function between(p: usize, bytes: usize, share: f32): v128 {
  const low = v128.load(p);
  return f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(p + bytes), low), f32x4.splat(share)));
}

/** The first, second, third and fourth numbers of four entries of a table, between whole places. */
let firsts: v128 = f32x4.splat(0);
let seconds: v128 = f32x4.splat(0);
let thirds: v128 = f32x4.splat(0);
let fourths: v128 = f32x4.splat(0);

function gather(table: usize, at: v128, bytes: usize): void {
  const whole = i32x4.trunc_sat_f32x4_u(at);
  const share = f32x4.sub(at, f32x4.convert_i32x4_s(whole));
  const a = between(table + <usize>i32x4.extract_lane(whole, 0) * bytes, bytes, f32x4.extract_lane(share, 0));
  const b = between(table + <usize>i32x4.extract_lane(whole, 1) * bytes, bytes, f32x4.extract_lane(share, 1));
  const c = between(table + <usize>i32x4.extract_lane(whole, 2) * bytes, bytes, f32x4.extract_lane(share, 2));
  const d = between(table + <usize>i32x4.extract_lane(whole, 3) * bytes, bytes, f32x4.extract_lane(share, 3));
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  firsts = v128.shuffle<f32>(ab, cd, 0, 1, 4, 5);
  seconds = v128.shuffle<f32>(ab, cd, 2, 3, 6, 7);
  const ab2 = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cd2 = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  thirds = v128.shuffle<f32>(ab2, cd2, 0, 1, 4, 5);
  fourths = v128.shuffle<f32>(ab2, cd2, 2, 3, 6, 7);
}

/** Places of lightnesses in the table of zones. */
function zonesOf(light: v128): v128 {
  const bounded = f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), light));
  return f32x4.mul(bounded, f32x4.splat(ZONE_STEPS - <f32>0.001));
}

/**
 * `numbers`: nine to cone responses, nine from their roots to lightness, a and b, nine back to the roots, nine back to
 * colours; saturation (1 keeps), vibrance (0 keeps), the chroma from which vibrance does nothing, and the direction (a, b) of
 * the hue that it spares; three weights of grey; the chroma from which a hue's change of lightness is whole.
 * `hues`: 721 entries over the hues: a turn by cosine and sine with the change of chroma in it, and lightness to add; 0: none.
 * `zones`: 257 entries over lightness: a and b to add before all else, a and b to add after it, lightness to add, and a factor
 * of chroma; 0: none. `casts`: whether there is any to be added before all else. `grey`: whether only grey is left.
 */
export function gradeColours(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  numbers: usize,
  hues: usize,
  zones: usize,
  casts: i32,
  grey: i32
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
  const perColour = f32x4.div(f32x4.splat(1), entry(numbers, 44));
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
    if (zones != 0 && casts != 0) {
      gather(zones, zonesOf(light), 32);
      a = f32x4.add(a, firsts);
      bb = f32x4.add(bb, seconds);
    }
    if (hues != 0) {
      gather(hues, halfDegrees(a, bb), 16);
      const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(a, a), f32x4.mul(bb, bb)));
      light = f32x4.add(light, f32x4.mul(thirds, f32x4.pmin(one, f32x4.mul(chroma, perColour))));
      const turned = f32x4.sub(f32x4.mul(a, firsts), f32x4.mul(bb, seconds));
      bb = f32x4.add(f32x4.mul(a, seconds), f32x4.mul(bb, firsts));
      a = turned;
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
      const places = zonesOf(light);
      gather(zones + 16, places, 32);
      light = f32x4.add(light, firsts);
      a = f32x4.mul(a, seconds);
      bb = f32x4.mul(bb, seconds);
      gather(zones, places, 32);
      a = f32x4.add(a, thirds);
      bb = f32x4.add(bb, fourths);
    }
    const l3 = cube(mixed(fromLab, 0, light, a, bb)),
      m3 = cube(mixed(fromLab, 3, light, a, bb)),
      s3 = cube(mixed(fromLab, 6, light, a, bb));
    v128.store(r + at, mixed(fromRoots, 0, l3, m3, s3));
    v128.store(g + at, mixed(fromRoots, 3, l3, m3, s3));
    v128.store(b + at, mixed(fromRoots, 6, l3, m3, s3));
  }
}
