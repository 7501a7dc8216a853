/**
 * Broad light: planes reduced to a grid, lines fitted about each of its points (the guided filter of `box.ts`), and what a
 * pixel makes of them at its place on the frame.
 */

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

/** Logarithm to base 2 of a positive number, to 2e-6: exponent and the series of artanh about 1. */
function log2Of(x: f32): f32 {
  const bits = reinterpret<i32>(x);
  let exponent = (bits >> 23) - 127;
  let m = reinterpret<f32>((bits & 0x007f_ffff) | 0x3f80_0000);
  if (m > ROOT2) {
    m *= HALF;
    exponent++;
  }
  const t = (m - ONE) / (m + ONE);
  const t2 = t * t;
  return <f32>exponent + ((ONE + ONE) / LN2) * t * (ONE + t2 * (THIRD + t2 * FIFTH));
}

/** Two to a power between -126 and 126, to 3e-6. */
function exp2Of(x: f32): f32 {
  const whole = Mathf.floor(x + HALF);
  const y = (x - whole) * LN2;
  const rest =
    ONE +
    y *
      (ONE +
        y *
          (HALF + y * (HALF * THIRD + y * (HALF * THIRD * QUARTER + y * (HALF * THIRD * QUARTER * FIFTH)))));
  return rest * reinterpret<f32>((<i32>whole + 127) << 23);
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

/** Stops of luminance: log2 of the weighted sum of colours, with a floor that keeps black finite. */
export function logLight(
  r: usize,
  g: usize,
  b: usize,
  count: i32,
  weights: usize,
  floor: f32,
  out: usize
): void {
  const red = load<f32>(weights),
    green = load<f32>(weights, 4),
    blue = load<f32>(weights, 8);
  for (let i: usize = 0, bytes = (<usize>count) << 2; i < bytes; i += 4) {
    const light = red * load<f32>(r + i) + green * load<f32>(g + i) + blue * load<f32>(b + i);
    store<f32>(out + i, log2Of(max<f32>(0, light) + floor));
  }
}

/** Values into one of `stride` places of each group. */
export function interleave(plane: usize, count: i32, out: usize, stride: i32, place: i32): void {
  const step = (<usize>stride) << 2;
  let to = out + ((<usize>place) << 2);
  for (let i = 0; i < count; i++, plane += 4, to += step) store<f32>(to, load<f32>(plane));
}

/** A value of a mesh between its nodes, and by how much it changes from one pixel of a row to the next. */
let value: f32 = 0;
let slope: f32 = 0;

function between(nodes: usize, i: i32, columns: i32, fy: f32, step: i32): void {
  const above = nodes + ((<usize>i) << 2);
  const below = above + ((<usize>columns) << 2);
  value = load<f32>(above) * (ONE - fy) + load<f32>(below) * fy;
  slope = (load<f32>(above, 4) * (ONE - fy) + load<f32>(below, 4) * fy - value) / <f32>step;
}

/**
 * A row of pixels lit anew. `numbers`: three weights of luminance and the floor of `logLight`; four gains of the distances
 * from the four bases; the first stop of the table, its entries for each stop, and how many there are; then amount and
 * beginning of haze and the colour of the air. `x`, `y` and `falloff` are nodes of the mesh: places in cells of the grid,
 * and stops that were added to the light since the grid was measured. A cell of `grid` holds four slopes and four offsets,
 * one of `haze` a slope and an offset; `haze` is 0 where none is to be taken away.
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
  table: usize
): void {
  const position = (<f32>row + HALF) / <f32>step;
  const meshRow = <i32>position;
  const fy = position - <f32>meshRow;
  const end = left + count;
  const weightR = load<f32>(numbers),
    weightG = load<f32>(numbers, 4),
    weightB = load<f32>(numbers, 8),
    floor = load<f32>(numbers, 12);
  const details = v128.load(numbers, 16);
  const firstStop = load<f32>(numbers, 32),
    perStop = load<f32>(numbers, 36),
    lastEntry = load<f32>(numbers, 40) - 2;
  const amount = load<f32>(numbers, 44),
    begins = load<f32>(numbers, 48),
    airR = load<f32>(numbers, 52),
    airG = load<f32>(numbers, 56),
    airB = load<f32>(numbers, 60);
  const mostX = <f32>(gridWidth - 1) - <f32>1e-3,
    mostY = <f32>(gridHeight - 1) - <f32>1e-3;
  const across: usize = 32,
    down = (<usize>gridWidth) << 5;
  for (let column = left / step; column * step < end; column++) {
    const i = meshRow * columns + column;
    const first = max(left, column * step);
    const last = min(end, (column + 1) * step);
    const inset = <f32>(first - column * step) + HALF;
    between(x, i, columns, fy, step);
    const dx = slope;
    let px = value + dx * inset;
    between(y, i, columns, fy, step);
    const dy = slope;
    let py = value + dy * inset;
    between(falloff, i, columns, fy, step);
    const dg = slope;
    let gained = value + dg * inset;
    let at = (<usize>(first - left)) << 2;
    for (let n = first; n < last; n++, at += 4, px += dx, py += dy, gained += dg) {
      let red = load<f32>(r + at),
        green = load<f32>(g + at),
        blue = load<f32>(b + at);
      // Where no ray arrives the place is no number; nothing is seen there.
      const gx: f32 = px > 0 ? min<f32>(mostX, px) : 0;
      const gy: f32 = py > 0 ? min<f32>(mostY, py) : 0;
      const cx = <i32>gx,
        cy = <i32>gy;
      const sx = gx - <f32>cx,
        sy = gy - <f32>cy;
      const w11 = sx * sy,
        w10 = sx - w11,
        w01 = sy - w11,
        w00 = ONE - sx - w01;
      const cell = <usize>(cy * gridWidth + cx);
      const p = grid + (cell << 5);
      const v00 = f32x4.splat(w00),
        v10 = f32x4.splat(w10),
        v01 = f32x4.splat(w01),
        v11 = f32x4.splat(w11);
      const slopes = f32x4.add(
        f32x4.add(f32x4.mul(v00, v128.load(p)), f32x4.mul(v10, v128.load(p + across))),
        f32x4.add(f32x4.mul(v01, v128.load(p + down)), f32x4.mul(v11, v128.load(p + down + across)))
      );
      const offsets = f32x4.add(
        f32x4.add(f32x4.mul(v00, v128.load(p, 16)), f32x4.mul(v10, v128.load(p + across, 16))),
        f32x4.add(f32x4.mul(v01, v128.load(p + down, 16)), f32x4.mul(v11, v128.load(p + down + across, 16)))
      );
      const light = log2Of(max<f32>(0, weightR * red + weightG * green + weightB * blue) + floor) - gained;
      const lights = f32x4.splat(light);
      const bases = f32x4.add(f32x4.mul(slopes, lights), offsets);
      // What stands out by stops is an edge rather than a detail: it is strengthened less.
      const away = f32x4.sub(lights, bases);
      const parts = f32x4.div(f32x4.mul(details, away), f32x4.add(f32x4.splat(1), f32x4.abs(away)));
      const detail =
        f32x4.extract_lane(parts, 0) +
        f32x4.extract_lane(parts, 1) +
        f32x4.extract_lane(parts, 2) +
        f32x4.extract_lane(parts, 3);
      const stop = (f32x4.extract_lane(bases, 0) + gained - firstStop) * perStop;
      const bounded: f32 = stop > 0 ? min<f32>(lastEntry, stop) : 0;
      const whole = <i32>bounded;
      const entryAt = table + ((<usize>whole) << 2);
      const low = load<f32>(entryAt);
      const gain = exp2Of(detail + low + (load<f32>(entryAt, 4) - low) * (bounded - <f32>whole));
      if (haze != 0) {
        const q = haze + (cell << 3);
        const below = q + ((<usize>gridWidth) << 3);
        const hazeSlope =
          w00 * load<f32>(q) + w10 * load<f32>(q, 8) + w01 * load<f32>(below) + w11 * load<f32>(below, 8);
        const hazeOffset =
          w00 * load<f32>(q, 4) +
          w10 * load<f32>(q, 12) +
          w01 * load<f32>(below, 4) +
          w11 * load<f32>(below, 12);
        const thick = (hazeSlope * light + hazeOffset - begins) / (ONE - begins);
        const veil = amount * min<f32>(1, max<f32>(0, thick));
        const clear = ONE / (ONE - veil);
        red = (red - veil * airR) * clear;
        green = (green - veil * airG) * clear;
        blue = (blue - veil * airB) * clear;
      }
      store<f32>(r + at, red * gain);
      store<f32>(g + at, green * gain);
      store<f32>(b + at, blue * gain);
    }
  }
}
