/** Green at every site, by the direction in which it can be told best (directional LMMSE, Zhang & Wu 2005). */
import { colourAt, pitch, rows } from './mosaic';

/** Variance that is taken for none. */
const NONE: f32 = 1e-9;
export const EPSILON: f32 = 1e-7;

/** All bits set where a row has its green sites. */
export function greenLanes(y: i32): v128 {
  return colourAt(y, 0) == 1 ? i32x4(-1, 0, -1, 0) : i32x4(0, -1, 0, -1);
}

/** Green less the other colour of the line, at every site, from the sites across, and from those down. */
export function estimateDifferences(y0: i32, a: usize, across: usize, down: usize): void {
  const half = f32x4.splat(0.5);
  const quarter = f32x4.splat(0.25);
  const two = pitch << 1;
  for (let row = 2; row < rows - 2; row++) {
    const line = <usize>row * pitch;
    const sign = v128.and(greenLanes(row + y0), i32x4.splat(0x8000_0000));
    for (let x: usize = 16; x < pitch - 16; x += 16) {
      const at = a + line + x;
      const own = f32x4.mul(half, v128.load(at));
      const lr = f32x4.mul(half, f32x4.add(v128.load(at - 4), v128.load(at + 4)));
      const farX = f32x4.mul(quarter, f32x4.add(v128.load(at - 8), v128.load(at + 8)));
      v128.store(across + line + x, v128.xor(sign, f32x4.sub(f32x4.sub(lr, farX), own)));
      const ud = f32x4.mul(half, f32x4.add(v128.load(at - pitch), v128.load(at + pitch)));
      const farY = f32x4.mul(quarter, f32x4.add(v128.load(at - two), v128.load(at + two)));
      v128.store(down + line + x, v128.xor(sign, f32x4.sub(f32x4.sub(ud, farY), own)));
    }
  }
}

/** Nine values along a direction (`by` bytes from one to the next), weighted by a bell. */
export function smooth(from: usize, to: usize, by: usize): void {
  const w0 = f32x4.splat(<f32>(26.0 / 128.0));
  const w1 = f32x4.splat(<f32>(23.0 / 128.0));
  const w2 = f32x4.splat(<f32>(15.0 / 128.0));
  const w3 = f32x4.splat(<f32>(9.0 / 128.0));
  const w4 = f32x4.splat(<f32>(4.0 / 128.0));
  const vertical = by > 4;
  const margin = vertical ? 6 : 2;
  for (let row = margin; row < rows - margin; row++) {
    const line = <usize>row * pitch;
    for (let x: usize = 16; x < pitch - 16; x += 16) {
      const at = from + line + x;
      const far = by << 1;
      let total = f32x4.mul(w0, v128.load(at));
      total = f32x4.add(total, f32x4.mul(w1, f32x4.add(v128.load(at - by), v128.load(at + by))));
      total = f32x4.add(total, f32x4.mul(w2, f32x4.add(v128.load(at - far), v128.load(at + far))));
      total = f32x4.add(total, f32x4.mul(w3, f32x4.add(v128.load(at - far - by), v128.load(at + far + by))));
      total = f32x4.add(
        total,
        f32x4.mul(w4, f32x4.add(v128.load(at - (far << 1)), v128.load(at + (far << 1))))
      );
      v128.store(to + line + x, total);
    }
  }
}

/** The best estimate of a difference in one direction, and how uncertain it is. */
let estimate: v128 = f32x4.splat(0);
let doubt: v128 = f32x4.splat(0);

function weigh(difference: usize, smoothed: usize, by: usize): void {
  const ninth = f32x4.splat(<f32>(1.0 / 9.0));
  let total = f32x4.splat(0);
  let squares = total;
  let noise = total;
  let at = smoothed - (by << 2);
  let from = difference - (by << 2);
  // Values are taken from the one in the middle, so that squares do not eat up the digits.
  const middle = v128.load(smoothed);
  for (let k = 0; k < 9; k++) {
    const here = v128.load(at);
    const off = f32x4.sub(v128.load(from), here);
    const value = f32x4.sub(here, middle);
    total = f32x4.add(total, value);
    squares = f32x4.add(squares, f32x4.mul(value, value));
    noise = f32x4.add(noise, f32x4.mul(off, off));
    at += by;
    from += by;
  }
  const mean = f32x4.mul(total, ninth);
  const none = f32x4.splat(NONE);
  const signal = f32x4.add(
    f32x4.pmax(f32x4.splat(0), f32x4.sub(f32x4.mul(squares, ninth), f32x4.mul(mean, mean))),
    none
  );
  const error = f32x4.add(f32x4.mul(noise, ninth), none);
  const all = f32x4.div(f32x4.splat(1), f32x4.add(signal, error));
  estimate = f32x4.mul(f32x4.add(f32x4.mul(middle, error), f32x4.mul(v128.load(difference), signal)), all);
  doubt = f32x4.mul(f32x4.mul(signal, error), all);
}

export function interpolateGreen(
  y0: i32,
  a: usize,
  across: usize,
  down: usize,
  smoothAcross: usize,
  smoothDown: usize,
  out: usize
): void {
  const half = f32x4.splat(0.5);
  for (let row = 10; row < rows - 10; row++) {
    const line = <usize>row * pitch;
    const green = greenLanes(row + y0);
    for (let x: usize = 32; x < pitch - 32; x += 16) {
      const place = line + x;
      const at = a + place;
      const own = v128.load(at);
      weigh(across + place, smoothAcross + place, 4);
      const acrossIs = estimate;
      const acrossDoubt = doubt;
      weigh(down + place, smoothDown + place, pitch);
      const difference = f32x4.div(
        f32x4.add(f32x4.mul(acrossIs, doubt), f32x4.mul(estimate, acrossDoubt)),
        f32x4.add(acrossDoubt, doubt)
      );
      // An estimate may overshoot at clipped edges; the neighbours bound what is plausible.
      const l = v128.load(at - 4);
      const r = v128.load(at + 4);
      const u = v128.load(at - pitch);
      const d = v128.load(at + pitch);
      const low = f32x4.pmin(f32x4.pmin(l, r), f32x4.pmin(u, d));
      const high = f32x4.pmax(f32x4.pmax(l, r), f32x4.pmax(u, d));
      const slack = f32x4.mul(half, f32x4.sub(high, low));
      const value = f32x4.pmin(
        f32x4.add(high, slack),
        f32x4.pmax(f32x4.sub(low, slack), f32x4.add(own, difference))
      );
      v128.store(out + place, v128.bitselect(own, value, green));
    }
  }
}
