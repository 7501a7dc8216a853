/** The last of a picture, in place and row by row: light about its edge, and grain. */
import { lightOf, loadPart, shareOf, storePart } from './vectors';

/**
 * A row of `count` values by gains, one for every eighth, between which they run straight. What is lighter than half of white is
 * spared, white by `spare` of it. `strengths`: of colours, as many as gains, before that; 0: they stay.
 */
export function shadeRow(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  gains: usize,
  spare: f32,
  strengths: usize
): void {
  const one = f32x4.splat(1);
  const first = f32x4(0, 0.125, 0.25, 0.375);
  const half = f32x4.splat(0.5);
  for (let x = 0; x < count; x += 4) {
    const at = (<usize>x) << 2;
    const left = count - x;
    const node = gains + ((<usize>(x >> 3)) << 2);
    const from = v128.load32_splat(node);
    const to = v128.load32_splat(node, 4);
    const share = x & 4 ? f32x4.add(first, half) : first;
    let gain = f32x4.add(from, f32x4.mul(f32x4.sub(to, from), share));
    let red = loadPart(r + at, left);
    let green = loadPart(g + at, left);
    let blue = loadPart(b + at, left);
    if (strengths) {
      const place = strengths + ((<usize>(x >> 3)) << 2);
      const begins = v128.load32_splat(place);
      const strength = f32x4.add(begins, f32x4.mul(f32x4.sub(v128.load32_splat(place, 4), begins), share));
      const light = lightOf(red, green, blue);
      red = f32x4.add(light, f32x4.mul(f32x4.sub(red, light), strength));
      green = f32x4.add(light, f32x4.mul(f32x4.sub(green, light), strength));
      blue = f32x4.add(light, f32x4.mul(f32x4.sub(blue, light), strength));
    }
    if (spare > 0) {
      const bright = shareOf(f32x4.sub(f32x4.mul(f32x4.splat(2), lightOf(red, green, blue)), one));
      const kept = f32x4.sub(one, f32x4.mul(f32x4.splat(spare), bright));
      gain = f32x4.add(one, f32x4.mul(f32x4.sub(gain, one), kept));
    }
    storePart(r + at, f32x4.mul(red, gain), left);
    storePart(g + at, f32x4.mul(green, gain), left);
    storePart(b + at, f32x4.mul(blue, gain), left);
  }
}

/** A value between four places of two rows of the texture, which go on at their other ends; `mask`: their width less one. */
function grainAt(mask: i32, x: f32, row: usize, below: usize, down: f32): f32 {
  const whole = <i32>x;
  const share = x - <f32>whole;
  const a = (<usize>(whole & mask)) << 2;
  const b = (<usize>((whole + 1) & mask)) << 2;
  const upper = load<f32>(row + a) + (load<f32>(row + b) - load<f32>(row + a)) * share;
  const lower = load<f32>(below + a) + (load<f32>(below + b) - load<f32>(below + a)) * share;
  return upper + (lower - upper) * down;
}

/**
 * Grain on a row of `count` values: the texture, `1 << shift` places wide and high, from (x, y) on by `step` a pixel. It is added to
 * the root of light by `amount`, most in the middle and not at all at black and white; colours keep their ratios. Places are
 * not below 0.
 */
export function addGrain(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  texture: usize,
  shift: i32,
  x: f32,
  y: f32,
  step: f32,
  amount: f32
): void {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const strength = f32x4.splat(4 * amount);
  const mask = (1 << shift) - 1;
  const whole = <i32>y;
  const down = y - <f32>whole;
  const row = texture + ((<usize>(whole & mask)) << (shift + 2));
  const below = texture + ((<usize>((whole + 1) & mask)) << (shift + 2));
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const left = count - i;
    let grain = f32x4.splat(grainAt(mask, x + <f32>i * step, row, below, down));
    grain = f32x4.replace_lane(grain, 1, grainAt(mask, x + <f32>(i + 1) * step, row, below, down));
    grain = f32x4.replace_lane(grain, 2, grainAt(mask, x + <f32>(i + 2) * step, row, below, down));
    grain = f32x4.replace_lane(grain, 3, grainAt(mask, x + <f32>(i + 3) * step, row, below, down));
    const red = loadPart(r + at, left);
    const green = loadPart(g + at, left);
    const blue = loadPart(b + at, left);
    const root = f32x4.sqrt(shareOf(lightOf(red, green, blue)));
    const change = f32x4.mul(f32x4.mul(strength, grain), f32x4.sub(one, root));
    const factor = f32x4.pmax(zero, f32x4.add(one, change));
    const gain = f32x4.mul(factor, factor);
    storePart(r + at, f32x4.mul(red, gain), left);
    storePart(g + at, f32x4.mul(green, gain), left);
    storePart(b + at, f32x4.mul(blue, gain), left);
  }
}
