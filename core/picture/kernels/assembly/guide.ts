/** Red, green and blue brought to one size, where the lens lays them beside each other. */
import { greenLanes } from './green';
import { colourAt, height, pitch, rows, span, width } from './mosaic';

/** Pixels that share one shift of the guide: it changes by a few hundredths of a pixel over them. */
const RUN: i32 = 16;

/**
 * Red and blue sites as they would be if their pictures had green's size: Catmull-Rom among sites of their own colour at
 * p (1 + size). Green is estimated from these, for else it would follow the edges of colours that the lens laid elsewhere.
 */
export function alignColours(y: i32, a: usize, out: usize, guide: usize, x0: i32, y0: i32): void {
  memory.copy(out, a, <usize>rows * pitch);
  const cx = <f64>width / 2;
  const cy = <f64>height / 2;
  const unit = Math.sqrt(cx * cx + cy * cy);
  for (let row = 10; row < rows - 10; row++) {
    const green = greenLanes(row + y);
    const red = colourAt(row + y, 0) == 0 || colourAt(row + y, 1) == 0;
    const sizes = red ? guide : guide + 64;
    const py = <f64>(y0 + row) + 0.5 - cy;
    for (let x = 12; x < span - 12;) {
      const begin = (x0 + x) & ~(RUN - 1);
      const last = min(span - 12, begin + RUN - x0);
      const px = <f64>begin + <f64>(RUN / 2) - cx;
      const size = sizeAt(sizes, Math.sqrt(px * px + py * py) / unit);
      // Sites of a colour are two pixels apart.
      const sx = (px * size) / 2;
      const sy = (py * size) / 2;
      const ix = <i32>Math.floor(sx);
      const iy = <i32>Math.floor(sy);
      const fx = <f32>(sx - <f64>ix);
      const fy = <f32>(sy - <f64>iy);
      const x0w = f32x4.splat(outer(fx));
      const x1w = f32x4.splat(nearer(fx));
      const x2w = f32x4.splat(nearer(1 - fx));
      const x3w = f32x4.splat(outer(1 - fx));
      for (; x < last; x += 4) {
        const at = a + ((<usize>((row + 2 * (iy - 1)) * span + x + 2 * (ix - 1))) << 2);
        const two = pitch << 1;
        const sum = f32x4.add(
          f32x4.add(
            f32x4.mul(f32x4.splat(outer(fy)), everySecond(at, x0w, x1w, x2w, x3w)),
            f32x4.mul(f32x4.splat(nearer(fy)), everySecond(at + two, x0w, x1w, x2w, x3w))
          ),
          f32x4.add(
            f32x4.mul(f32x4.splat(nearer(1 - fy)), everySecond(at + two * 2, x0w, x1w, x2w, x3w)),
            f32x4.mul(f32x4.splat(outer(1 - fy)), everySecond(at + two * 3, x0w, x1w, x2w, x3w))
          )
        );
        const place = (<usize>(row * span + x)) << 2;
        v128.store(out + place, v128.bitselect(v128.load(a + place), sum, green));
      }
    }
  }
}

/** A colour's size against green's, less 1, at a radius. */
function sizeAt(sizes: usize, radius: f64): f64 {
  let size: f64 = 0;
  for (let k = 7; k >= 0; k--) size = size * radius + load<f64>(sizes + ((<usize>k) << 3));
  return size;
}

function everySecond(at: usize, a: v128, b: v128, c: v128, d: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(a, v128.load(at)), f32x4.mul(b, v128.load(at, 8))),
    f32x4.add(f32x4.mul(c, v128.load(at, 16)), f32x4.mul(d, v128.load(at, 24)))
  );
}

/**
 * The green picture as it would lie if it had another colour's size: Catmull-Rom at p / (1 + size), with one shift for a run
 * of pixels. `x0`, `y0`: picture place of the first value.
 */
export function shiftGreen(green: usize, out: usize, sizes: usize, x0: i32, y0: i32): void {
  const cx = <f64>width / 2;
  const cy = <f64>height / 2;
  const unit = Math.sqrt(cx * cx + cy * cy);
  for (let row = 18; row < rows - 18; row++) {
    const py = <f64>(y0 + row) + 0.5 - cy;
    for (let x = 16; x < span - 16;) {
      // Runs begin at whole multiples of their length in the picture, so that tiles agree.
      const begin = (x0 + x) & ~(RUN - 1);
      const last = min(span - 16, begin + RUN - x0);
      const px = <f64>begin + <f64>(RUN / 2) - cx;
      const size = sizeAt(sizes, Math.sqrt(px * px + py * py) / unit);
      const back = -size / (1 + size);
      const sx = px * back;
      const sy = py * back;
      const ix = <i32>Math.floor(sx);
      const iy = <i32>Math.floor(sy);
      const fx = <f32>(sx - <f64>ix);
      const fy = <f32>(sy - <f64>iy);
      const x0w = f32x4.splat(outer(fx)),
        x1w = f32x4.splat(nearer(fx));
      const x2w = f32x4.splat(nearer(1 - fx)),
        x3w = f32x4.splat(outer(1 - fx));
      const y0w = f32x4.splat(outer(fy)),
        y1w = f32x4.splat(nearer(fy));
      const y2w = f32x4.splat(nearer(1 - fy)),
        y3w = f32x4.splat(outer(1 - fy));
      for (; x < last; x += 4) {
        const at = green + ((<usize>((row + iy - 1) * span + x + ix - 1)) << 2);
        const sum = f32x4.add(
          f32x4.add(
            f32x4.mul(y0w, fourAcross(at, x0w, x1w, x2w, x3w)),
            f32x4.mul(y1w, fourAcross(at + pitch, x0w, x1w, x2w, x3w))
          ),
          f32x4.add(
            f32x4.mul(y2w, fourAcross(at + pitch * 2, x0w, x1w, x2w, x3w)),
            f32x4.mul(y3w, fourAcross(at + pitch * 3, x0w, x1w, x2w, x3w))
          )
        );
        v128.store(out + ((<usize>(row * span + x)) << 2), sum);
      }
    }
  }
}

function fourAcross(at: usize, a: v128, b: v128, c: v128, d: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(a, v128.load(at)), f32x4.mul(b, v128.load(at, 4))),
    f32x4.add(f32x4.mul(c, v128.load(at, 8)), f32x4.mul(d, v128.load(at, 12)))
  );
}

/** Weights of the Catmull-Rom kernel for the nearer and the outer of two taps on one side, a share `f` away. */
function nearer(f: f32): f32 {
  return (1.5 * f - 2.5) * f * f + 1;
}

function outer(f: f32): f32 {
  return ((-0.5 * f + 1) * f - 0.5) * f;
}
