/**
 * Sensor values to a linear picture, a band of rows at a time: black level, white balance, hot pixels, clipped sites,
 * demosaicing, orientation. Light above white is kept (`../tile/highlights.ts` says how).
 *
 * Demosaicing: green along the smoother direction with a second-order correction from the other colour
 * (Hamilton & Adams 1997), both directions blended by their gradients; red and blue by interpolating their
 * difference from green. White balance comes first, so that these differences are small in neutral parts.
 *
 * Where the lens lays red and blue beside green, such differences would draw the colours' edges together by about a third
 * of the offset, and a later correction would overdo it. The mosaic's guide says where they lie: red is then compared with
 * green as it would look at red's size, and stays where the lens put it.
 */
import { type Lateral, lateralShift } from '../lens/lens-model.ts';
import { foldHighlight } from '../tile/highlights.ts';
import type { Planes } from '../tile/planes.ts';
import type { Mosaic, SiteColour } from './mosaic.ts';
import { rebuildClipped } from './rebuild-clipped.ts';

/** Rows and columns kept about a band: 2 for green, 1 for the colour differences, 2 for hot pixels, 1 for clipped sites; even. */
const PLAIN_PAD = 6;
/** With the guide there is also its largest shift, in pixels, and the kernel it is sampled with. */
const MOST_SHIFT = 4;
const GUIDED_PAD = 12;
/** A site this many times brighter than every same-coloured neighbour, and by this much, is a hot pixel. */
const HOT_FACTOR = 3;
const HOT_OFFSET = 0.04;
const EPSILON = 1e-7;

/** Index reflected into 0..size-1 without repeating the border, which keeps the mosaic's phase. */
function reflect(index: number, size: number): number {
  if (index < 0) return -index;
  return index >= size ? 2 * (size - 1) - index : index;
}

/** Balanced values of rows [from - pad, to + pad) with pad columns about them. */
function balancedBand(mosaic: Mosaic, from: number, to: number, pad: number): Float32Array {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers } = mosaic;
  const span = width + 2 * pad;
  const band = new Float32Array((to - from + 2 * pad) * span);
  const scale = 1 / (white - black);
  for (let row = from - pad; row < to + pad; row++) {
    const y = reflect(row, height);
    const source = (y + top) * stride + left;
    const target = (row - from + pad) * span + pad;
    const parity = (y & 1) * 2;
    const even = multipliers[pattern[parity]] * scale;
    const odd = multipliers[pattern[parity + 1]] * scale;
    for (let x = 0; x < width; x++) {
      band[target + x] = (data[source + x] - black) * (x & 1 ? odd : even);
    }
    for (let x = 1; x <= pad; x++) {
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

/** The guide, where it moves anything by more than a tenth of a pixel. */
function usefulGuide({ lateral, width, height }: Mosaic): Lateral | null {
  if (!lateral) return null;
  const unit = Math.hypot(width, height) / 2;
  const most = (sizes: readonly number[]): number =>
    Math.max(...[0.5, 0.75, 1].map((r) => Math.abs(lateralShift(sizes, r)) * r * unit));
  const furthest = Math.max(most(lateral.red), most(lateral.blue));
  return furthest < 0.1 || furthest > MOST_SHIFT ? null : lateral;
}

/** The green picture as it would lie if it had another colour's size: Catmull-Rom at p / (1 + size). */
function shiftGreen(
  green: Float32Array,
  span: number,
  rows: number,
  sizes: readonly number[],
  cx: number,
  cy: number,
  unit: number
): Float32Array {
  const out = new Float32Array(green.length);
  const weights = new Float64Array(8);
  const fill = (o: number, f: number): void => {
    const f2 = f * f;
    const f3 = f2 * f;
    weights[o] = -0.5 * f3 + f2 - 0.5 * f;
    weights[o + 1] = 1.5 * f3 - 2.5 * f2 + 1;
    weights[o + 2] = -1.5 * f3 + 2 * f2 + 0.5 * f;
    weights[o + 3] = 0.5 * f3 - 0.5 * f2;
  };
  const edge = MOST_SHIFT + 4;
  for (let row = edge; row < rows - edge; row++) {
    const dy = row + 0.5 - cy;
    for (let x = edge; x < span - edge; x++) {
      const dx = x + 0.5 - cx;
      const size = lateralShift(sizes, Math.sqrt(dx * dx + dy * dy) / unit);
      const back = -size / (1 + size);
      const px = x + dx * back;
      const py = row + dy * back;
      const ix = Math.floor(px);
      const iy = Math.floor(py);
      fill(0, px - ix);
      fill(4, py - iy);
      let at = (iy - 1) * span + ix - 1;
      let sum = 0;
      for (let j = 4; j < 8; j++, at += span) {
        sum +=
          weights[j] *
          (weights[0] * green[at] +
            weights[1] * green[at + 1] +
            weights[2] * green[at + 2] +
            weights[3] * green[at + 3]);
      }
      out[row * span + x] = sum;
    }
  }
  return out;
}

export interface DevelopOptions {
  /** Ends at white: for pictures that show all above it as white, so that it outweighs nothing beside it. */
  clip?: boolean;
}

/**
 * Fills the linear planes of the oriented picture from mosaic rows [from, to). Bands may be done in any order
 * and by several threads: each writes its own pixels only.
 */
export function developBand(
  mosaic: Mosaic,
  out: Planes,
  from: number,
  to: number,
  { clip = false }: DevelopOptions = {}
): void {
  const most = clip ? 1 : Infinity;
  const { width, height, pattern, turns } = mosaic;
  const guide = usefulGuide(mosaic);
  const pad = guide ? GUIDED_PAD : PLAIN_PAD;
  const span = width + 2 * pad;
  const rows = to - from + 2 * pad;
  const balanced = balancedBand(mosaic, from, to, pad);
  removeHotPixels(balanced, span, rows);
  // The padding is even, so that band columns have the parity of picture columns.
  const colourAt = (row: number, x: number): SiteColour => pattern[(((row - pad + from) & 1) << 1) | (x & 1)];
  const band = rebuildClipped(balanced, span, rows, mosaic.multipliers, colourAt);
  // Folded before colours are interpolated: a bright edge must not reach far into what is dark beside it.
  for (let i = 0; i < band.length; i++) if (band[i] > 1) band[i] = foldHighlight(band[i]);
  const green = interpolateGreen(band, span, rows, (row) => (colourAt(row, 0) === 1 ? 0 : 1));
  const shifted = (sizes: readonly number[]): Float32Array =>
    shiftGreen(
      green,
      span,
      rows,
      sizes,
      width / 2 + pad,
      height / 2 + pad - from,
      Math.hypot(width, height) / 2
    );
  const greenR = guide ? shifted(guide.red) : green;
  const greenB = guide ? shifted(guide.blue) : green;

  for (let row = pad; row < rows - pad; row++) {
    const y = row - pad + from;
    const evenColour = colourAt(row, 0);
    const oddColour = colourAt(row, 1);
    for (let x = 0; x < width; x++) {
      const at = row * span + x + pad;
      const g = green[at];
      const own = x & 1 ? oddColour : evenColour;
      let r: number;
      let b: number;
      if (own === 1) {
        const redInRow = (x & 1 ? evenColour : oddColour) === 0;
        const [rp, rn] = redInRow ? [at - 1, at + 1] : [at - span, at + span];
        const [bp, bn] = redInRow ? [at - span, at + span] : [at - 1, at + 1];
        r = greenR[at] + 0.5 * (band[rp] - greenR[rp] + band[rn] - greenR[rn]);
        b = greenB[at] + 0.5 * (band[bp] - greenB[bp] + band[bn] - greenB[bn]);
      } else {
        const other = own === 0 ? greenB : greenR;
        const middle = other[at];
        const nw = at - span - 1;
        const ne = at - span + 1;
        const sw = at + span - 1;
        const se = at + span + 1;
        // Differences across the smoother diagonal count more.
        const falling =
          Math.abs(band[nw] - band[se]) + Math.abs(2 * middle - other[nw] - other[se]) + EPSILON;
        const rising = Math.abs(band[ne] - band[sw]) + Math.abs(2 * middle - other[ne] - other[sw]) + EPSILON;
        const value =
          middle +
          (rising * (band[nw] - other[nw] + band[se] - other[se]) +
            falling * (band[ne] - other[ne] + band[sw] - other[sw])) /
            (2 * (rising + falling));
        r = own === 0 ? band[at] : value;
        b = own === 0 ? value : band[at];
      }
      let index: number;
      if (turns === 0) index = y * width + x;
      else if (turns === 1) index = x * height + (height - 1 - y);
      else if (turns === 2) index = (height - 1 - y) * width + (width - 1 - x);
      else index = (width - 1 - x) * height + y;
      out.r[index] = r > most ? most : r;
      out.g[index] = g > most ? most : g;
      out.b[index] = b > most ? most : b;
    }
  }
}
