/** Sites that are far brighter than all about them of their colour. */
import { pitch, rows } from './mosaic';

/** A hot site is this many times brighter than every same-coloured neighbour, and by this much. */
const HOT_FACTOR: f32 = 1.25;
const HOT_OFFSET: f32 = 0.04;
/** Most that the sites about it rise together over those beyond, as a share of its own rise. */
const LONE_SHARE: f32 = 0.45;

function hotLimit(value: v128): v128 {
  return f32x4.add(f32x4.mul(value, f32x4.splat(HOT_FACTOR)), f32x4.splat(HOT_OFFSET));
}

function pair(at: usize, step: usize): v128 {
  return f32x4.add(v128.load(at - step), v128.load(at + step));
}

/** How far the two sites next to one (`step` away) are from the mean of the four that are two `across` from them. */
function unevenness(at: usize, step: usize, across: usize): v128 {
  const beyond = f32x4.add(pair(at - across, step), pair(at + across, step));
  return f32x4.abs(f32x4.sub(pair(at, step), f32x4.mul(beyond, f32x4.splat(0.5))));
}

/**
 * Hot sites become the mean of the four of their colour next to them. A point of light comes through the glass as a spot: the
 * sites next to it rise too, those of the other colours, or, where a light is of one colour alone, those of its own; about a
 * hot site none does.
 */
export function removeHotPixels(from: usize, to: usize): void {
  memory.copy(to, from, <usize>rows * pitch);
  const two = pitch << 1;
  const quarter = f32x4.splat(0.25);
  for (let row = 2; row < rows - 2; row++) {
    const line = <usize>row * pitch;
    for (let x: usize = 16; x < pitch - 16; x += 16) {
      const at = from + line + x;
      const value = v128.load(at);
      const l = v128.load(at - 8);
      const r = v128.load(at + 8);
      const beside = f32x4.pmax(l, r);
      if (!v128.any_true(f32x4.ge(value, hotLimit(beside)))) continue;
      const u = v128.load(at - two);
      const d = v128.load(at + two);
      const most = f32x4.pmax(beside, f32x4.pmax(u, d));
      const bright = f32x4.ge(value, f32x4.pmax(hotLimit(most), f32x4.splat(HOT_OFFSET)));
      if (!v128.any_true(bright)) continue;
      const near = f32x4.add(f32x4.add(l, r), f32x4.add(u, d));
      const own = f32x4.abs(f32x4.sub(near, f32x4.add(pair(at - two, 8), pair(at + two, 8))));
      const uneven = f32x4.add(own, f32x4.add(unevenness(at, 4, two), unevenness(at, pitch, 8)));
      const lone = f32x4.le(uneven, f32x4.mul(f32x4.sub(value, most), f32x4.splat(LONE_SHARE)));
      v128.store(to + line + x, v128.bitselect(f32x4.mul(near, quarter), value, v128.and(bright, lone)));
    }
  }
}
