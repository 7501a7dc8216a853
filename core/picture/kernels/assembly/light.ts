/**
 * Broad light: planes reduced to a grid, lines fitted about each of its points (the guided filter of `box.ts`), and what a
 * pixel makes of them at its place on the frame.
 */
import { addScaled } from './box';
import {
  enterCell,
  enterRow,
  firstColumn,
  fromNodes,
  pastColumn,
  placeX,
  placeY,
  slope,
  slopeX,
  slopeY,
  value
} from './mesh';
import { drawnTo, entry, loadPart, storePart, tableBetween } from './vectors';

const LN2: f32 = 0.6931471805599453;
const ROOT2: f32 = 1.4142135623730951;
const ONE: f32 = 1;
const THIRD: f32 = 1.0 / 3.0;
const FIFTH: f32 = 0.2;
const HALF: f32 = 0.5;
const QUARTER: f32 = 0.25;

function unfolded(value: f32): f32 {
  return value <= 1 ? value : Mathf.exp(value - 1);
}

/** Logarithms to base 2 of four positive numbers, to 2e-6: exponents and the series of artanh about 1. */
function log2OfFour(x: v128): v128 {
  const one = f32x4.splat(1);
  let exponent = i32x4.sub(i32x4.shr_s(x, 23), i32x4.splat(127));
  let m = v128.or(v128.and(x, i32x4.splat(0x007f_ffff)), i32x4.splat(0x3f80_0000));
  const high = f32x4.gt(m, f32x4.splat(ROOT2));
  m = v128.bitselect(f32x4.mul(m, f32x4.splat(HALF)), m, high);
  // A comparison that holds is -1.
  exponent = i32x4.sub(exponent, high);
  const t = f32x4.div(f32x4.sub(m, one), f32x4.add(m, one));
  const t2 = f32x4.mul(t, t);
  const series = f32x4.add(
    one,
    f32x4.mul(t2, f32x4.add(f32x4.splat(THIRD), f32x4.mul(t2, f32x4.splat(FIFTH))))
  );
  return f32x4.add(
    f32x4.convert_i32x4_s(exponent),
    f32x4.mul(f32x4.mul(f32x4.splat((ONE + ONE) / LN2), t), series)
  );
}

/** Two to the powers of four, each between -126 and 126, to 3e-6. */
function exp2OfFour(x: v128): v128 {
  const one = f32x4.splat(1);
  const whole = f32x4.nearest(x);
  const y = f32x4.mul(f32x4.sub(x, whole), f32x4.splat(LN2));
  let rest = f32x4.splat(HALF * THIRD * QUARTER * FIFTH);
  rest = f32x4.add(f32x4.mul(rest, y), f32x4.splat(HALF * THIRD * QUARTER));
  rest = f32x4.add(f32x4.mul(rest, y), f32x4.splat(HALF * THIRD));
  rest = f32x4.add(f32x4.mul(rest, y), f32x4.splat(HALF));
  rest = f32x4.add(f32x4.mul(rest, y), one);
  rest = f32x4.add(f32x4.mul(rest, y), one);
  const power = i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23);
  return f32x4.mul(rest, power);
}

/**
 * Mean light in each cell of a grid laid over a whole plane, whose values above 1 are folded. `work` holds a row of the plane
 * and three values more.
 */
export function averageOnto(
  plane: usize,
  width: i32,
  height: i32,
  out: usize,
  outWidth: i32,
  outHeight: i32,
  work: usize
): void {
  const across = <f32>width / <f32>outWidth;
  const down = <f32>height / <f32>outHeight;
  const share = ONE / (across * down);
  const one = f32x4.splat(1);
  const bytes = (<usize>width) << 2;
  for (let oy = 0; oy < outHeight; oy++) {
    const top = <f32>oy * down;
    const bottom = min<f32>(<f32>height, top + down);
    memory.fill(work, 0, bytes);
    for (let y = <i32>top; <f32>y < bottom; y++) {
      const part = share * (min<f32>(bottom, <f32>(y + 1)) - max<f32>(top, <f32>y));
      const parts = f32x4.splat(part);
      const from = plane + <usize>y * bytes;
      let at: usize = 0;
      for (; at + 16 <= bytes; at += 16) {
        let values = v128.load(from + at);
        if (v128.any_true(f32x4.gt(values, one)))
          values = f32x4(
            unfolded(f32x4.extract_lane(values, 0)),
            unfolded(f32x4.extract_lane(values, 1)),
            unfolded(f32x4.extract_lane(values, 2)),
            unfolded(f32x4.extract_lane(values, 3))
          );
        v128.store(work + at, f32x4.add(v128.load(work + at), f32x4.mul(values, parts)));
      }
      for (; at < bytes; at += 4)
        store<f32>(work + at, load<f32>(work + at) + unfolded(load<f32>(from + at)) * part);
    }
    const row = out + ((<usize>(oy * outWidth)) << 2);
    for (let ox = 0; ox < outWidth; ox++) {
      const left = <f32>ox * across;
      const right = min<f32>(<f32>width, left + across);
      const first = <i32>left;
      const last = min(width, <i32>Mathf.ceil(right)) - 1;
      let sum: f32 = 0;
      for (let x = first; x <= last; x++) sum += load<f32>(work + ((<usize>x) << 2));
      // The outermost pixels lie in the cell in part.
      sum -= (left - <f32>first) * load<f32>(work + ((<usize>first) << 2));
      sum -= (<f32>(last + 1) - right) * load<f32>(work + ((<usize>last) << 2));
      store<f32>(row + ((<usize>ox) << 2), sum);
    }
  }
}

/** Stops of luminance: logarithms of the weighted sum of colours, with a floor that keeps black finite; both stand at `weights`. */
export function logLight(r: usize, g: usize, b: usize, count: i32, weights: usize, out: usize): void {
  const weightR = entry(weights, 0),
    weightG = entry(weights, 1),
    weightB = entry(weights, 2),
    floor = entry(weights, 3),
    zero = f32x4.splat(0);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const left = count - i;
    const light = f32x4.add(
      f32x4.add(f32x4.mul(weightR, loadPart(r + at, left)), f32x4.mul(weightG, loadPart(g + at, left))),
      f32x4.mul(weightB, loadPart(b + at, left))
    );
    storePart(out + at, log2OfFour(f32x4.add(f32x4.pmax(zero, light), floor)), left);
  }
}

/** Stops of one plane against another, both with `speck` added; what is below 0 counts as 0. */
export function logRatio(plane: usize, other: usize, count: i32, speck: f32, out: usize): void {
  const zero = f32x4.splat(0),
    least = f32x4.splat(speck);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const left = count - i;
    const above = log2OfFour(f32x4.add(f32x4.pmax(zero, loadPart(plane + at, left)), least));
    const under = log2OfFour(f32x4.add(f32x4.pmax(zero, loadPart(other + at, left)), least));
    storePart(out + at, f32x4.sub(above, under), left);
  }
}

/** Values into one of `stride` places of each group. */
export function interleave(plane: usize, count: i32, out: usize, stride: i32, place: i32): void {
  const step = (<usize>stride) << 2;
  let to = out + ((<usize>place) << 2);
  for (let i = 0; i < count; i++, plane += 4, to += step) store<f32>(to, load<f32>(plane));
}

/**
 * A row of pixels lit anew. `numbers`: three weights of luminance and the floor of `logLight`; four gains of the distances
 * from the four bases; the first stop of the table, its entries for each stop, and how many there are; entries of the table of
 * veils for each share of haze, less one, and the least that is left of a colour without its veil; the colour of the air; then how
 * far each base is told from the one before (1) rather than from the pixel (0), and what keeps a distance from growing: in
 * proportion to its size, and to its square. `veils` is a table over shares of haze from 0 to 1. `x`, `y` and `falloff` are nodes of the mesh: places in cells of the grid,
 * and stops that were added to the light since the grid was measured. A cell of `grid` holds four slopes and four offsets,
 * one of `haze` a slope and an offset; `haze` is 0 where none is to be taken away. `more`: stops that each pixel gains besides; 0: none. `work`
 * holds two rows and eight values.
 */
export function relightRow(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  x: usize,
  y: usize,
  falloff: usize,
  columns: i32,
  step: i32,
  row: i32,
  left: i32,
  grid: usize,
  haze: usize,
  gridWidth: i32,
  gridHeight: i32,
  numbers: usize,
  table: usize,
  veilTable: usize,
  more: usize,
  work: usize
): void {
  const stops = work,
    veils = work + ((<usize>count + 4) << 2);
  logLight(r, g, b, count, numbers, stops);
  enterRow(row, columns, step);
  const end = left + count;
  const details = v128.load(numbers, 16);
  const firstStop = load<f32>(numbers, 32),
    perStop = load<f32>(numbers, 36),
    lastEntry = load<f32>(numbers, 40) - 2;
  const perShare = load<f32>(numbers, 44);
  const layered = entry(numbers, 16),
    held = entry(numbers, 17),
    heldFar = entry(numbers, 18);
  const steps = f32x4(0, 1, 2, 3),
    firstStops = f32x4.splat(firstStop),
    perStops = f32x4.splat(perStop),
    lastEntries = f32x4.splat(lastEntry);
  const looks = v128.any_true(f32x4.ne(details, f32x4.splat(0)));
  placeGrid(grid, haze, gridWidth, gridHeight);
  for (let column = left / step; column * step < end; column++) {
    enterCell(x, y, column, left, end);
    const first = firstColumn,
      last = pastColumn,
      dx = slopeX,
      dy = slopeY;
    let px = placeX,
      py = placeY;
    fromNodes(falloff);
    const dg = slope;
    let gained = value;
    // Where a cell is wider than four pixels, lines are straight between every fourth.
    const every: i32 = abs(dx) * 4 <= 1 && abs(dy) * 4 <= 1 ? 4 : 1;
    const part = ONE / <f32>every;
    linesAt(px, py);
    for (let n = first; n < last; n += every) {
      let slopes = slopesThere,
        offsets = offsetsThere,
        veiling = veilingThere;
      px += dx * <f32>every;
      py += dy * <f32>every;
      linesAt(px, py);
      const parts = f32x4.splat(part);
      const slopeStep = f32x4.mul(f32x4.sub(slopesThere, slopes), parts),
        offsetStep = f32x4.mul(f32x4.sub(offsetsThere, offsets), parts),
        veilingStep = f32x4.mul(f32x4.sub(veilingThere, veiling), parts);
      const past = min(last, n + every);
      let at = (<usize>(n - left)) << 2;
      if (!looks && haze == 0 && every == 4) {
        // The finest base alone is asked for: four pixels at once.
        const gains = f32x4.add(f32x4.splat(gained), f32x4.mul(f32x4.splat(dg), steps));
        const slope = f32x4.add(
          f32x4.splat(f32x4.extract_lane(slopes, 0)),
          f32x4.mul(f32x4.splat(f32x4.extract_lane(slopeStep, 0)), steps)
        );
        const offset = f32x4.add(
          f32x4.splat(f32x4.extract_lane(offsets, 0)),
          f32x4.mul(f32x4.splat(f32x4.extract_lane(offsetStep, 0)), steps)
        );
        const light = f32x4.sub(v128.load(stops + at), gains);
        const base = f32x4.add(f32x4.add(f32x4.mul(slope, light), offset), gains);
        const added = fromTable(table, f32x4.mul(f32x4.sub(base, firstStops), perStops), lastEntries);
        storePart(stops + at, added, past - n);
        gained += dg * 4;
        continue;
      }
      for (let m = n; m < past; m++, at += 4, gained += dg) {
        const light = load<f32>(stops + at) - gained;
        let detail: f32 = 0;
        const lights = f32x4.splat(light);
        const bases = f32x4.add(f32x4.mul(slopes, lights), offsets);
        if (looks) {
          // What stands out by stops is an edge rather than a detail: it is strengthened less.
          const whole4 = f32x4.sub(lights, bases);
          // Each base's own layer: what the finer one before it leaves.
          const before = f32x4.replace_lane(v128.shuffle<f32>(whole4, whole4, 0, 0, 1, 2), 1, 0);
          const away = f32x4.sub(whole4, f32x4.mul(layered, before));
          const size = f32x4.abs(away);
          const parts = f32x4.div(
            f32x4.mul(details, away),
            f32x4.add(f32x4.splat(1), f32x4.mul(size, f32x4.add(held, f32x4.mul(heldFar, size))))
          );
          const halves = f32x4.add(parts, v128.shuffle<f32>(parts, parts, 2, 3, 0, 1));
          detail = f32x4.extract_lane(halves, 0) + f32x4.extract_lane(halves, 1);
        }
        const stop = (f32x4.extract_lane(bases, 0) + gained - firstStop) * perStop;
        const bounded: f32 = stop > 0 ? (stop < lastEntry ? stop : lastEntry) : 0;
        const whole = <i32>bounded;
        const entryAt = table + ((<usize>whole) << 2);
        const low = load<f32>(entryAt);
        store<f32>(stops + at, detail + low + (load<f32>(entryAt, 4) - low) * (bounded - <f32>whole));
        if (haze != 0) {
          const share = f32x4.extract_lane(veiling, 0) * light + f32x4.extract_lane(veiling, 1);
          const place: f32 = (share > 0 ? (share < 1 ? share : ONE) : 0) * perShare;
          const entryOf = <i32>place;
          const thin = load<f32>(veilTable + ((<usize>entryOf) << 2));
          store<f32>(
            veils + at,
            thin + (load<f32>(veilTable + ((<usize>entryOf) << 2), 4) - thin) * (place - <f32>entryOf)
          );
          veiling = f32x4.add(veiling, veilingStep);
        }
        slopes = f32x4.add(slopes, slopeStep);
        offsets = f32x4.add(offsets, offsetStep);
      }
    }
  }
  if (more != 0) addScaled(more, count, 1, stops);
  rowGains(r, g, b, count, numbers, stops, haze != 0 ? veils : 0);
}

/** Values of a table at four places in its entries, the last of which is `most` and one more. */
function fromTable(table: usize, places: v128, most: v128): v128 {
  // A place that is no number is the first.
  const bounded = f32x4.pmin(f32x4.pmax(f32x4.splat(0), places), most);
  const whole = i32x4.trunc_sat_f32x4_s(bounded);
  const share = f32x4.sub(bounded, f32x4.convert_i32x4_s(whole));
  return tableBetween(table, whole, share);
}

/** The grid that lines are read from, and the lines at a place of it. */
let lineGrid: usize = 0;
let hazeGrid: usize = 0;
let lineColumns: usize = 0;
let lineMostX: f32 = 0;
let lineMostY: f32 = 0;
let slopesThere: v128 = f32x4.splat(0);
let offsetsThere: v128 = f32x4.splat(0);
/** Slope and offset of the share of haze. */
let veilingThere: v128 = f32x4.splat(0);

function placeGrid(grid: usize, haze: usize, width: i32, height: i32): void {
  lineGrid = grid;
  hazeGrid = haze;
  lineColumns = <usize>width;
  lineMostX = <f32>(width - 1) - <f32>1e-3;
  lineMostY = <f32>(height - 1) - <f32>1e-3;
}

function linesAt(px: f32, py: f32): void {
  // Where no ray arrives the place is no number; nothing is seen there.
  const gx: f32 = px > 0 ? (px < lineMostX ? px : lineMostX) : 0;
  const gy: f32 = py > 0 ? (py < lineMostY ? py : lineMostY) : 0;
  const cx = <i32>gx,
    cy = <i32>gy;
  const sx = f32x4.splat(gx - <f32>cx),
    sy = f32x4.splat(gy - <f32>cy);
  const cell = <usize>cy * lineColumns + <usize>cx;
  const p = lineGrid + (cell << 5),
    below = p + (lineColumns << 5);
  slopesThere = drawnTo(
    drawnTo(v128.load(p), v128.load(p, 32), sx),
    drawnTo(v128.load(below), v128.load(below, 32), sx),
    sy
  );
  offsetsThere = drawnTo(
    drawnTo(v128.load(p, 16), v128.load(p, 48), sx),
    drawnTo(v128.load(below, 16), v128.load(below, 48), sx),
    sy
  );
  if (hazeGrid == 0) return;
  const q = hazeGrid + (cell << 3),
    under = q + (lineColumns << 3);
  // Slope and offset side by side.
  veilingThere = drawnTo(
    drawnTo(v128.load64_zero(q), v128.load64_zero(q + 8), sx),
    drawnTo(v128.load64_zero(under), v128.load64_zero(under + 8), sx),
    sy
  );
}

/**
 * Colours without a veil of air, still to be divided by what is left of the light. `least`: the share that is left of any of them, so
 * that none reaches black; it is approached smoothly. 0: nothing is kept.
 */
function cleared(values: v128, veil: v128, air: v128, least: v128): v128 {
  const zero = f32x4.splat(0),
    two = f32x4.splat(2);
  const clear = f32x4.sub(values, f32x4.mul(veil, air));
  const rest = f32x4.mul(f32x4.mul(least, f32x4.pmax(zero, values)), f32x4.sub(f32x4.splat(1), veil));
  const low = v128.and(f32x4.lt(clear, f32x4.mul(two, rest)), f32x4.gt(least, zero));
  if (!v128.any_true(low)) return clear;
  const above = f32x4.pmax(zero, clear);
  const eased = f32x4.add(
    rest,
    f32x4.div(f32x4.mul(above, above), f32x4.pmax(f32x4.splat(1e-20), f32x4.mul(f32x4.splat(4), rest)))
  );
  return v128.bitselect(eased, clear, low);
}

/** Air taken from a row, then each pixel changed by its stops. */
function rowGains(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  numbers: usize,
  stops: usize,
  veils: usize
): void {
  const one = f32x4.splat(1);
  const least = entry(numbers, 12);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    let gain = exp2OfFour(v128.load(stops + at));
    let veil = f32x4.splat(0);
    if (veils != 0) {
      veil = v128.load(veils + at);
      gain = f32x4.div(gain, f32x4.sub(one, veil));
    }
    for (let c: usize = 0; c < 3; c++) {
      const plane = (c == 0 ? r : c == 1 ? g : b) + at;
      let values = loadPart(plane, count - i);
      if (veils != 0) values = cleared(values, veil, entry(numbers, 13 + c), least);
      storePart(plane, f32x4.mul(values, gain), count - i);
    }
  }
}
