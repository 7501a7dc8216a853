/** Clipped sites rebuilt from what did not clip about them; `raw/develop.ts` says how. */
import { folded } from './highlights';
import { colourAt, levelB, levelG, levelOf, levelR, pitch, rows, span } from './mosaic';
import { compressed } from './root';

/** Shares of a colour's clipping level from which on a site begins to count as clipped, and counts in full. */
const BEGINS: f32 = 0.92;
const CLIPPED: f32 = 0.985;
/** Share of unclipped neighbours below which the highest level begins to take their place. */
const OPEN_ENOUGH: f32 = 0.15;

/** How far a site is clipped, 0..1, from its value over its clipping level. */
function clippedShare(level: f32): f32 {
  const t = min<f32>(1, max<f32>(0, (level - BEGINS) / (CLIPPED - BEGINS)));
  return t * t * (3 - 2 * t);
}

let sum: f32 = 0;
let open: f32 = 0;
let openSum: f32 = 0;

function look(at: usize, level: f32): void {
  const near = load<f32>(at);
  const unclipped: f32 = 1 - clippedShare(near / level);
  sum += near;
  open += unclipped;
  openSum += unclipped * near;
}

/** A clipped site rebuilt from those of the other colours about it that did not clip; `raw/develop.ts` says how. */
function rebuilt(at: usize, y: i32, x: i32): f32 {
  const value = load<f32>(at);
  const own = colourAt(y, x);
  const beside = levelOf(colourAt(y, x + 1));
  const above = levelOf(colourAt(y + 1, x));
  sum = 0;
  open = 0;
  openSum = 0;
  look(at - 4, beside);
  look(at + 4, beside);
  look(at - pitch, above);
  look(at + pitch, above);
  let count: f32 = 4;
  if (own != 1) {
    const corner = levelOf(colourAt(y + 1, x + 1));
    look(at - pitch - 4, corner);
    look(at - pitch + 4, corner);
    look(at + pitch - 4, corner);
    look(at + pitch + 4, corner);
    count = 8;
  }
  // What did not clip speaks for itself; what did is at least as bright as it says.
  const told = max(sum / count, open > 0 ? openSum / open : 0);
  const hopeless: f32 = 1 - min<f32>(1, open / (count * OPEN_ENOUGH));
  const highest = max(max(levelR, levelG), levelB);
  const neutral = told + (max(told, highest) - told) * hopeless;
  return neutral <= value ? value : value + clippedShare(value / levelOf(own)) * (neutral - value);
}

/** Clipped sites rebuilt, light above white folded, and if wanted all of it under a root. */
export function rebuildClipped(y0: i32, from: usize, to: usize, root: bool): void {
  const one = f32x4.splat(1);
  for (let row = 0; row < rows; row++) {
    const line = <usize>row * pitch;
    const y = row + y0;
    const inner = row > 0 && row < rows - 1;
    const even = BEGINS * levelOf(colourAt(y, 0));
    const odd = BEGINS * levelOf(colourAt(y, 1));
    const least = f32x4(even, odd, even, odd);
    for (let x: usize = 0; x < pitch; x += 16) {
      let value = v128.load(from + line + x);
      const clipped = f32x4.ge(value, least);
      if (v128.any_true(v128.or(clipped, f32x4.gt(value, one)))) {
        for (let k: usize = x; k < x + 16; k += 4) {
          const column = <i32>(k >> 2);
          const at = from + line + k;
          let own = load<f32>(at);
          if (inner && column > 0 && column < span - 1 && own >= (column & 1 ? odd : even))
            own = rebuilt(at, y, column);
          store<f32>(to + line + k, folded(own));
        }
        value = v128.load(to + line + x);
      }
      v128.store(to + line + x, root ? compressed(value) : value);
    }
  }
}
