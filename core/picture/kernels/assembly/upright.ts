/** Developed pixels put into the planes of the upright picture. */
import { height, width } from './mosaic';
import { expanded, regainedBlue, regainedRed } from './root';

let outR: usize = 0;
let outG: usize = 0;
let outB: usize = 0;
let turns: i32 = 0;
let most: f32 = 0;

/** The planes, the quarter turns that set the picture upright, and the highest value. */
export function putInto(r: usize, g: usize, b: usize, quarterTurns: i32, highest: f32): void {
  outR = r;
  outG = g;
  outB = b;
  turns = quarterTurns;
  most = highest;
}

/** Four pixels from picture place (x, y) on, turned upright; none at or beyond column `end`. */
export function put(r: v128, g: v128, b: v128, x: i32, y: i32, end: i32): void {
  const highest = f32x4.splat(most);
  const red = f32x4.pmin(regainedRed(r), highest);
  const green = f32x4.pmin(expanded(g), highest);
  const blue = f32x4.pmin(regainedBlue(b), highest);
  if (turns == 0 && x + 4 <= end) {
    const at = (<usize>y * <usize>width + <usize>x) << 2;
    v128.store(outR + at, red);
    v128.store(outG + at, green);
    v128.store(outB + at, blue);
    return;
  }
  putOne(f32x4.extract_lane(red, 0), f32x4.extract_lane(green, 0), f32x4.extract_lane(blue, 0), x, y);
  if (x + 1 < end)
    putOne(f32x4.extract_lane(red, 1), f32x4.extract_lane(green, 1), f32x4.extract_lane(blue, 1), x + 1, y);
  if (x + 2 < end)
    putOne(f32x4.extract_lane(red, 2), f32x4.extract_lane(green, 2), f32x4.extract_lane(blue, 2), x + 2, y);
  if (x + 3 < end)
    putOne(f32x4.extract_lane(red, 3), f32x4.extract_lane(green, 3), f32x4.extract_lane(blue, 3), x + 3, y);
}

function putOne(r: f32, g: f32, b: f32, x: i32, y: i32): void {
  let i: i32;
  if (turns == 0) i = y * width + x;
  else if (turns == 1) i = x * height + (height - 1 - y);
  else if (turns == 2) i = (height - 1 - y) * width + (width - 1 - x);
  else i = (width - 1 - x) * height + y;
  const at = (<usize>i) << 2;
  store<f32>(outR + at, r);
  store<f32>(outG + at, g);
  store<f32>(outB + at, b);
}
