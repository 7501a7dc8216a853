/**
 * Sensor values to a linear picture, a band of rows at a time: black level, white balance, clipping, hot
 * pixels, demosaicing, camera matrix, orientation.
 *
 * Demosaicing: green along the smoother direction with a second-order correction from the other colour
 * (Hamilton & Adams 1997), both directions blended by their gradients; red and blue by interpolating their
 * difference from green. White balance comes first, so that these differences are small in neutral parts.
 */
import type { Planes } from '../pipeline/planes.ts';
import type { Mosaic } from './mosaic.ts';

/** Rows and columns kept about a band: 2 for green, 1 for the colour differences, 2 for hot pixels; even. */
const PAD = 6;
/** A site this many times brighter than every same-coloured neighbour, and by this much, is a hot pixel. */
const HOT_FACTOR = 3;
const HOT_OFFSET = 0.04;
const EPSILON = 1e-7;

/** Index reflected into 0..size-1 without repeating the border, which keeps the mosaic's phase. */
function reflect(index: number, size: number): number {
  if (index < 0) return -index;
  return index >= size ? 2 * (size - 1) - index : index;
}

/** Balanced, clipped values of rows [from - PAD, to + PAD) with PAD columns about them. */
function balancedBand(mosaic: Mosaic, from: number, to: number): Float32Array {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers } = mosaic;
  const span = width + 2 * PAD;
  const band = new Float32Array((to - from + 2 * PAD) * span);
  const scale = 1 / (white - black);
  for (let row = from - PAD; row < to + PAD; row++) {
    const y = reflect(row, height);
    const source = (y + top) * stride + left;
    const target = (row - from + PAD) * span + PAD;
    const parity = (y & 1) * 2;
    const even = multipliers[pattern[parity]] * scale;
    const odd = multipliers[pattern[parity + 1]] * scale;
    for (let x = 0; x < width; x++) {
      const value = (data[source + x] - black) * (x & 1 ? odd : even);
      band[target + x] = value > 1 ? 1 : value;
    }
    for (let x = 1; x <= PAD; x++) {
      band[target - x] = band[target + x];
      band[target + width - 1 + x] = band[target + width - 1 - x];
    }
  }
  return band;
}

function removeHotPixels(band: Float32Array, span: number, rows: number): void {
  for (let row = 2; row < rows - 2; row++) {
    for (let x = 2, at = row * span + 2; x < span - 2; x++, at++) {
      const value = band[at];
      if (value < HOT_OFFSET) continue;
      const l = band[at - 2];
      const r = band[at + 2];
      if (value < l * HOT_FACTOR + HOT_OFFSET || value < r * HOT_FACTOR + HOT_OFFSET) continue;
      const u = band[at - 2 * span];
      const d = band[at + 2 * span];
      if (value > u * HOT_FACTOR + HOT_OFFSET && value > d * HOT_FACTOR + HOT_OFFSET) {
        band[at] = (l + r + u + d) / 4;
      }
    }
  }
}

/** Green at every site of the band but its outermost two rows and columns. */
function interpolateGreen(
  band: Float32Array,
  span: number,
  rows: number,
  greenAt: (row: number) => number
): Float32Array {
  const green = new Float32Array(band.length);
  for (let row = 2; row < rows - 2; row++) {
    const parity = greenAt(row);
    const base = row * span;
    for (let x = 2 + (parity & 1); x < span - 2; x += 2) green[base + x] = band[base + x];
    for (let x = 3 - (parity & 1); x < span - 2; x += 2) {
      const at = base + x;
      const c = band[at];
      const l = band[at - 1];
      const r = band[at + 1];
      const u = band[at - span];
      const d = band[at + span];
      const bendX = 2 * c - band[at - 2] - band[at + 2];
      const bendY = 2 * c - band[at - 2 * span] - band[at + 2 * span];
      const gx = Math.abs(l - r) + Math.abs(bendX) + EPSILON;
      const gy = Math.abs(u - d) + Math.abs(bendY) + EPSILON;
      const wx = gy * gy;
      const wy = gx * gx;
      const value = (wx * (0.5 * (l + r) + 0.25 * bendX) + wy * (0.5 * (u + d) + 0.25 * bendY)) / (wx + wy);
      // A second-order term may overshoot at clipped edges; the neighbours bound what is plausible.
      const low = Math.min(l, r, u, d);
      const high = Math.max(l, r, u, d);
      const slack = (high - low) * 0.5;
      green[at] = value < low - slack ? low - slack : value > high + slack ? high + slack : value;
    }
  }
  return green;
}

/**
 * Fills the linear planes of the oriented picture from mosaic rows [from, to). Bands may be done in any order
 * and by several threads: each writes its own pixels only.
 */
export function developBand(mosaic: Mosaic, out: Planes, from: number, to: number): void {
  const { width, height, pattern, toWorking: m, turns } = mosaic;
  const span = width + 2 * PAD;
  const rows = to - from + 2 * PAD;
  const band = balancedBand(mosaic, from, to);
  removeHotPixels(band, span, rows);
  // PAD is even, so that band columns have the parity of picture columns.
  const colourAt = (row: number, x: number): number => pattern[(((row - PAD + from) & 1) << 1) | (x & 1)];
  const green = interpolateGreen(band, span, rows, (row) => (colourAt(row, 0) === 1 ? 0 : 1));

  for (let row = PAD; row < rows - PAD; row++) {
    const y = row - PAD + from;
    const evenColour = colourAt(row, 0);
    const oddColour = colourAt(row, 1);
    for (let x = 0; x < width; x++) {
      const at = row * span + x + PAD;
      const g = green[at];
      const own = x & 1 ? oddColour : evenColour;
      let r: number;
      let b: number;
      if (own === 1) {
        const alongRow = 0.5 * (band[at - 1] - green[at - 1] + band[at + 1] - green[at + 1]);
        const alongColumn = 0.5 * (band[at - span] - green[at - span] + band[at + span] - green[at + span]);
        const rowColour = x & 1 ? evenColour : oddColour;
        r = g + (rowColour === 0 ? alongRow : alongColumn);
        b = g + (rowColour === 0 ? alongColumn : alongRow);
      } else {
        const nw = at - span - 1;
        const ne = at - span + 1;
        const sw = at + span - 1;
        const se = at + span + 1;
        // Differences across the smoother diagonal count more.
        const falling = Math.abs(band[nw] - band[se]) + Math.abs(2 * g - green[nw] - green[se]) + EPSILON;
        const rising = Math.abs(band[ne] - band[sw]) + Math.abs(2 * g - green[ne] - green[sw]) + EPSILON;
        const other =
          g +
          (rising * (band[nw] - green[nw] + band[se] - green[se]) +
            falling * (band[ne] - green[ne] + band[sw] - green[sw])) /
            (2 * (rising + falling));
        r = own === 0 ? band[at] : other;
        b = own === 0 ? other : band[at];
      }
      let index: number;
      if (turns === 0) index = y * width + x;
      else if (turns === 1) index = x * height + (height - 1 - y);
      else if (turns === 2) index = (height - 1 - y) * width + (width - 1 - x);
      else index = (width - 1 - x) * height + y;
      out.r[index] = m[0] * r + m[1] * g + m[2] * b;
      out.g[index] = m[3] * r + m[4] * g + m[5] * b;
      out.b[index] = m[6] * r + m[7] * g + m[8] * b;
    }
  }
}
