/**
 * Sensor values to linear planes (`raw/develop.ts` says what is done and why), a tile at a time: each passes through all
 * steps while it is in the processor's cache.
 */
import { allocate, release } from './heap';
import { folded } from './highlights';

/** Rows and columns of a tile, even. */
const TILE_WIDTH: i32 = 512;
const TILE_HEIGHT: i32 = 128;
/**
 * Pixels kept about a tile: 2 for hot pixels, 1 for clipped sites, 2 for the first estimate of green, 4 for its smoothing, 4
 * for its variances, 1 for red and blue; even.
 */
const PLAIN_PAD: i32 = 14;
/** With the guide red and blue are moved to green's places and green to theirs, by its largest shift and a kernel each. */
const GUIDED_PAD: i32 = 28;
/** Pixels that share one shift of the guide: it changes by a few hundredths of a pixel over them. */
const RUN: i32 = 16;

/** A site this many times brighter than every same-coloured neighbour, and by this much, is a hot pixel. */
const HOT_FACTOR: f32 = 3;
const HOT_OFFSET: f32 = 0.04;
/** Shares of a colour's clipping level from which on a site begins to count as clipped, and counts in full. */
const BEGINS: f32 = 0.92;
const CLIPPED: f32 = 0.985;
/** Share of unclipped neighbours below which the highest level begins to take their place. */
const OPEN_ENOUGH: f32 = 0.15;
/** Added under the root: below, where all is noise, the root would be too steep. */
const FLOOR: f32 = 0.001;
const ROOT_FLOOR: f32 = 0.0316227766;
/** Variance that is taken for none. */
const NONE: f32 = 1e-9;
const EPSILON: f32 = 1e-7;

let data: usize = 0;
let stride: i32 = 0;
let left: i32 = 0;
let top: i32 = 0;
let width: i32 = 0;
let height: i32 = 0;
let colours: i32 = 0;
let black: f32 = 0;
let scale: f32 = 0;
let levelR: f32 = 0;
let levelG: f32 = 0;
let levelB: f32 = 0;
let guide: usize = 0;
let outR: usize = 0;
let outG: usize = 0;
let outB: usize = 0;
let turns: i32 = 0;
let most: f32 = 0;
/** Values to a row of the tile in work, its rows, and bytes of a row. */
let span: i32 = 0;
let rows: i32 = 0;
let pitch: usize = 0;

/** What stands in the mosaic: `pattern` holds the colours of the first 2 x 2 sites, two bits each. */
export function describeMosaic(
  values: usize,
  valuesToARow: i32,
  activeLeft: i32,
  activeTop: i32,
  activeWidth: i32,
  activeHeight: i32,
  pattern: i32,
  blackLevel: f32,
  white: f32,
  red: f32,
  green: f32,
  blue: f32
): void {
  data = values;
  stride = valuesToARow;
  left = activeLeft;
  top = activeTop;
  width = activeWidth;
  height = activeHeight;
  colours = pattern;
  black = blackLevel;
  scale = 1 / (white - blackLevel);
  levelR = red;
  levelG = green;
  levelB = blue;
}

/**
 * Fills planes of the oriented picture from rows [from, to). `sizes`: 0, or eight numbers of red's size against green's by
 * the radius, and eight of blue's. False where there is no memory to work in.
 */
export function developRows(
  r: usize,
  g: usize,
  b: usize,
  quarterTurns: i32,
  highest: f32,
  sizes: usize,
  from: i32,
  to: i32
): bool {
  outR = r;
  outG = g;
  outB = b;
  turns = quarterTurns;
  most = highest;
  guide = sizes;
  const pad = sizes ? GUIDED_PAD : PLAIN_PAD;
  const plane = (((<usize>((TILE_WIDTH + 2 * pad) * (TILE_HEIGHT + 2 * pad))) << 2) + 127) & ~63;
  const block = allocate(plane * 7 + 64);
  if (block == 0) return false;
  for (let y = from; y < to; y += TILE_HEIGHT)
    for (let x = 0; x < width; x += TILE_WIDTH)
      developTile(x, min(width, x + TILE_WIDTH), y, min(to, y + TILE_HEIGHT), pad, block, plane);
  release(block);
  return true;
}

function developTile(x0: i32, x1: i32, y0: i32, y1: i32, pad: i32, block: usize, plane: usize): void {
  span = (x1 - x0 + 2 * pad + 3) & ~3;
  rows = y1 - y0 + 2 * pad;
  pitch = (<usize>span) << 2;
  const a = block;
  const b = a + plane;
  const across = b + plane;
  const down = across + plane;
  const smoothAcross = down + plane;
  const smoothDown = smoothAcross + plane;
  let aligned = a;
  balance(x0 - pad, y0 - pad, a);
  removeHotPixels(a, b);
  rebuildClipped(y0, b, a, true);
  if (guide) {
    aligned = smoothDown + plane;
    alignColours(y0, a, aligned, x0 - pad, y0 - pad);
  }
  estimateDifferences(y0, aligned, across, down);
  smooth(across, smoothAcross, 4);
  smooth(down, smoothDown, pitch);
  interpolateGreen(y0, aligned, across, down, smoothAcross, smoothDown, b);
  let greenR = b;
  let greenB = b;
  if (guide) {
    greenR = across;
    greenB = down;
    shiftGreen(b, greenR, guide, x0 - pad, y0 - pad);
    shiftGreen(b, greenB, guide + 64, x0 - pad, y0 - pad);
  }
  interpolateOthers(x0, x1, y0, y1, pad, a, b, greenR, greenB);
}

/** Pixels kept about a tile that is only split: 2 for hot pixels, 1 for clipped sites; even. */
const SPLIT_PAD: i32 = 4;

/**
 * Balanced and mended values of rows [from, to), each at its place in one of four planes of half the upright picture's size:
 * those of its first 2 x 2 sites, row by row. False where there is no memory to work in.
 */
export function splitRows(
  nw: usize,
  ne: usize,
  sw: usize,
  se: usize,
  quarterTurns: i32,
  columns: i32,
  lines: i32,
  from: i32,
  to: i32
): bool {
  const plane =
    (((<usize>((TILE_WIDTH + 2 * SPLIT_PAD + 32) * (TILE_HEIGHT + 2 * SPLIT_PAD))) << 2) + 127) & ~63;
  const a = allocate(plane * 2);
  if (a == 0) return false;
  const b = a + plane;
  for (let y0 = from; y0 < to; y0 += TILE_HEIGHT)
    for (let x0 = 0; x0 < width; x0 += TILE_WIDTH) {
      const x1 = min(width, x0 + TILE_WIDTH);
      const y1 = min(to, y0 + TILE_HEIGHT);
      // Vectors begin 16 pixels in; the tile's own lie within.
      span = (x1 - x0 + 2 * SPLIT_PAD + 16 + 3) & ~3;
      rows = y1 - y0 + 2 * SPLIT_PAD;
      pitch = (<usize>span) << 2;
      balance(x0 - SPLIT_PAD - 8, y0 - SPLIT_PAD, a);
      removeHotPixels(a, b);
      rebuildClipped(y0 - SPLIT_PAD, b, a, false);
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          let ux = x;
          let uy = y;
          if (quarterTurns == 1) {
            ux = height - 1 - y;
            uy = x;
          } else if (quarterTurns == 2) {
            ux = width - 1 - x;
            uy = height - 1 - y;
          } else if (quarterTurns == 3) {
            ux = y;
            uy = width - 1 - x;
          }
          const column = ux >> 1;
          const line = uy >> 1;
          if (column >= columns || line >= lines) continue;
          const right = ux & 1;
          const out = uy & 1 ? (right ? se : sw) : right ? ne : nw;
          const at = <usize>(y - y0 + SPLIT_PAD) * pitch + ((<usize>(x - x0 + SPLIT_PAD + 8)) << 2);
          store<f32>(out + ((<usize>(line * columns + column)) << 2), load<f32>(a + at));
        }
    }
  release(a);
  return true;
}

/** Index reflected into 0..size-1 without repeating the border, which keeps the mosaic's phase. */
function reflect(index: i32, size: i32): i32 {
  while (index < 0 || index >= size) index = index < 0 ? -index : 2 * (size - 1) - index;
  return index;
}

function colourAt(y: i32, x: i32): i32 {
  return (colours >> ((((y & 1) << 1) | (x & 1)) << 1)) & 3;
}

function levelOf(colour: i32): f32 {
  return colour == 1 ? levelG : colour == 0 ? levelR : levelB;
}

/** Values less the black level, white-balanced, from picture place (x0, y0) on. */
function balance(x0: i32, y0: i32, out: usize): void {
  const darkness = f32x4.splat(black);
  for (let row = 0; row < rows; row++) {
    const y = reflect(y0 + row, height);
    const source = data + ((<usize>(y + top) * <usize>stride + <usize>left) << 1);
    const even = levelOf(colourAt(y, 0)) * scale;
    const odd = levelOf(colourAt(y, 1)) * scale;
    const to = out + <usize>row * pitch;
    // x0 is even: lanes have the parity of columns.
    const gains = f32x4(even, odd, even, odd);
    for (let x = 0; x < span;) {
      const px = x0 + x;
      if (px >= 0 && px + 4 <= width) {
        const values = f32x4.convert_i32x4_u(v128.load16x4_u(source + ((<usize>px) << 1)));
        v128.store(to + ((<usize>x) << 2), f32x4.mul(f32x4.sub(values, darkness), gains));
        x += 4;
      } else {
        const at = reflect(px, width);
        store<f32>(
          to + ((<usize>x) << 2),
          (<f32>load<u16>(source + ((<usize>at) << 1)) - black) * (at & 1 ? odd : even)
        );
        x++;
      }
    }
  }
}

function hotLimit(value: v128): v128 {
  return f32x4.add(f32x4.mul(value, f32x4.splat(HOT_FACTOR)), f32x4.splat(HOT_OFFSET));
}

function removeHotPixels(from: usize, to: usize): void {
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
function rebuildClipped(y0: i32, from: usize, to: usize, root: bool): void {
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

/** √(value + floor), and below zero on along its tangent. */
function compressed(value: v128): v128 {
  const zero = f32x4.splat(0);
  const root = f32x4.sqrt(f32x4.add(f32x4.pmax(value, zero), f32x4.splat(FLOOR)));
  return f32x4.add(root, f32x4.mul(f32x4.pmin(value, zero), f32x4.splat(0.5 / ROOT_FLOOR)));
}

function expanded(value: v128): v128 {
  const floor = f32x4.splat(ROOT_FLOOR);
  const high = f32x4.pmax(value, floor);
  const square = f32x4.sub(f32x4.mul(high, high), f32x4.splat(FLOOR));
  return f32x4.add(
    square,
    f32x4.mul(f32x4.sub(f32x4.pmin(value, floor), floor), f32x4.splat(2 * ROOT_FLOOR))
  );
}

/** All bits set where a row has its green sites. */
function greenLanes(y: i32): v128 {
  return colourAt(y, 0) == 1 ? i32x4(-1, 0, -1, 0) : i32x4(0, -1, 0, -1);
}

/** Green less the other colour of the line, at every site, from the sites across, and from those down. */
function estimateDifferences(y0: i32, a: usize, across: usize, down: usize): void {
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
function smooth(from: usize, to: usize, by: usize): void {
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

function interpolateGreen(
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

/**
 * Red and blue sites as they would be if their pictures had green's size: Catmull-Rom among sites of their own colour at
 * p (1 + size). Green is estimated from these, for else it would follow the edges of colours that the lens laid elsewhere.
 */
function alignColours(y: i32, a: usize, out: usize, x0: i32, y0: i32): void {
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
function shiftGreen(green: usize, out: usize, sizes: usize, x0: i32, y0: i32): void {
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

function differenceAt(a: usize, green: usize, place: usize): v128 {
  return f32x4.sub(v128.load(a + place), v128.load(green + place));
}

/** Red and blue from their differences to green; the tile's own pixels go to the planes. */
function interpolateOthers(
  x0: i32,
  x1: i32,
  y0: i32,
  y1: i32,
  pad: i32,
  a: usize,
  green: usize,
  greenR: usize,
  greenB: usize
): void {
  const half = f32x4.splat(0.5);
  const two = f32x4.splat(2);
  const epsilon = f32x4.splat(EPSILON);
  for (let row = pad; row < rows - pad; row++) {
    const y = y0 + row - pad;
    const redRow = colourAt(y, 0) == 0 || colourAt(y, 1) == 0;
    const isGreen = greenLanes(y);
    const beside = redRow ? greenR : greenB;
    const above = redRow ? greenB : greenR;
    for (let x = x0; x < x1; x += 4) {
      const place = <usize>row * pitch + ((<usize>(x - x0 + pad)) << 2);
      const own = v128.load(a + place);
      const g = v128.load(green + place);
      const across = f32x4.mul(
        half,
        f32x4.add(differenceAt(a, beside, place - 4), differenceAt(a, beside, place + 4))
      );
      const ofRow = v128.bitselect(f32x4.add(v128.load(beside + place), across), own, isGreen);
      const middle = v128.load(above + place);
      const down = f32x4.mul(
        half,
        f32x4.add(differenceAt(a, above, place - pitch), differenceAt(a, above, place + pitch))
      );
      // Differences across the smoother diagonal count more.
      const nw = place - pitch - 4;
      const ne = place - pitch + 4;
      const sw = place + pitch - 4;
      const se = place + pitch + 4;
      const twice = f32x4.mul(two, middle);
      const falling = f32x4.add(
        epsilon,
        f32x4.add(
          f32x4.abs(f32x4.sub(v128.load(a + nw), v128.load(a + se))),
          f32x4.abs(f32x4.sub(f32x4.sub(twice, v128.load(above + nw)), v128.load(above + se)))
        )
      );
      const rising = f32x4.add(
        epsilon,
        f32x4.add(
          f32x4.abs(f32x4.sub(v128.load(a + ne), v128.load(a + sw))),
          f32x4.abs(f32x4.sub(f32x4.sub(twice, v128.load(above + ne)), v128.load(above + sw)))
        )
      );
      const diagonal = f32x4.div(
        f32x4.add(
          f32x4.mul(rising, f32x4.add(differenceAt(a, above, nw), differenceAt(a, above, se))),
          f32x4.mul(falling, f32x4.add(differenceAt(a, above, ne), differenceAt(a, above, sw)))
        ),
        f32x4.mul(two, f32x4.add(rising, falling))
      );
      const other = f32x4.add(middle, v128.bitselect(down, diagonal, isGreen));
      put(redRow ? ofRow : other, g, redRow ? other : ofRow, x, y, x1);
    }
  }
}

/** Four pixels from picture place (x, y) on, turned upright; none at or beyond column `end`. */
function put(r: v128, g: v128, b: v128, x: i32, y: i32, end: i32): void {
  const highest = f32x4.splat(most);
  const red = f32x4.pmin(expanded(r), highest);
  const green = f32x4.pmin(expanded(g), highest);
  const blue = f32x4.pmin(expanded(b), highest);
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
