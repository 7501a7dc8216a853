/** Sites that are far brighter than all about them of their colour. */
import { pitch, rows } from './mosaic';

/** A site this many times brighter than every same-coloured neighbour, and by this much, is a hot pixel. */
const HOT_FACTOR: f32 = 3;
const HOT_OFFSET: f32 = 0.04;

function hotLimit(value: v128): v128 {
  return f32x4.add(f32x4.mul(value, f32x4.splat(HOT_FACTOR)), f32x4.splat(HOT_OFFSET));
}

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
      let hot = v128.and(f32x4.ge(value, hotLimit(l)), f32x4.ge(value, hotLimit(r)));
      if (!v128.any_true(hot)) continue;
      const u = v128.load(at - two);
      const d = v128.load(at + two);
      hot = v128.and(hot, v128.and(f32x4.gt(value, hotLimit(u)), f32x4.gt(value, hotLimit(d))));
      hot = v128.and(hot, f32x4.ge(value, f32x4.splat(HOT_OFFSET)));
      const mean = f32x4.mul(f32x4.add(f32x4.add(l, r), f32x4.add(u, d)), quarter);
      v128.store(to + line + x, v128.bitselect(mean, value, hot));
    }
  }
}
