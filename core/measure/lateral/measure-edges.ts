/**
 * Where red and blue lie against green at the strong edges of a picture: at each edge the red (blue) profile across it is
 * the green one, shifted and rescaled (as in Kang 2007); the shift is found by least squares.
 */
import { type Point, halfDiagonal, sensorToField } from '../../math/frame-geometry.ts';
import type { ColourSource } from './colour-source.ts';

export interface LateralEdge {
  /** Field position, and the unit direction across the edge. */
  at: Point;
  across: Point;
  /** Offsets of red and of blue against green along that direction, in pixels at full size; null where not to be told. */
  red: number | null;
  blue: number | null;
}

export interface MeasureEdgesOptions {
  /** Cells along the long side; each gives its strongest edge (default 100). */
  cells?: number;
}

/** Half the length of a profile across an edge, and of the stretch along it that is averaged, in pixels. */
const REACH = 6;
const ALONG = 5;
/** Values from here on are clipped: their edge is where they leave the scale, not where the light changes. */
const CLIPPED = 0.97;
/** Least step in green across an edge, of the brighter side. */
const LEAST_CONTRAST = 0.22;
/** Least change of light over four pixels that is an edge. */
const LEAST_SLOPE = 0.02;
/** Step, in pixels, of the search for the strongest edge of a cell. */
const SEARCH = 3;
/** Edges nearer to the centre tell little of what grows with the radius. */
const INNERMOST = 0.12;

/** A profile across an edge, averaged along it; null where it leaves the picture or clips. */
function profile(
  source: ColourSource,
  channel: 0 | 1 | 2,
  [x, y]: Point,
  [nx, ny]: Point
): Float64Array | null {
  const { width, height } = source.size;
  const count = 4 * REACH + 1;
  const out = new Float64Array(count);
  const margin = REACH + ALONG + 4;
  if (x < margin || y < margin || x > width - margin || y > height - margin) return null;
  for (let i = 0; i < count; i++) {
    const t = (i - 2 * REACH) / 2;
    let sum = 0;
    for (let k = -ALONG; k <= ALONG; k++) {
      const value = source.sample(channel, x + nx * t - ny * k, y + ny * t + nx * k);
      if (value > CLIPPED) return null;
      sum += value;
    }
    out[i] = sum / (2 * ALONG + 1);
  }
  return out;
}

/** Shift, in pixels, of a profile against another, or null when it is not a shifted, rescaled copy of it. */
function shiftBetween(green: Float64Array, other: Float64Array): number | null {
  let shift = 0;
  const n = green.length;
  for (let round = 0; round < 6; round++) {
    // other(t) ≈ a green(t - shift) + b + c green'(t - shift); then shift -= c / a.
    let [m, sg, sd, so, gg, gs, ss, og, os, oo] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
    for (let i = 4; i < n - 4; i++) {
      const p = i - 2 * shift;
      const k = Math.floor(p);
      const f = p - k;
      if (k < 1 || k > n - 3) continue;
      const g = green[k] * (1 - f) + green[k + 1] * f;
      const slope = (green[k + 1] - green[k - 1]) * (1 - f) + (green[k + 2] - green[k]) * f;
      m++;
      sg += g;
      sd += slope;
      so += other[i];
      gg += g * g;
      gs += g * slope;
      ss += slope * slope;
      og += other[i] * g;
      os += other[i] * slope;
      oo += other[i] ** 2;
    }
    if (m < 8) return null;
    // Normal equations with the mean removed.
    const cgg = gg - (sg * sg) / m;
    const cgs = gs - (sg * sd) / m;
    const css = ss - (sd * sd) / m;
    const cog = og - (so * sg) / m;
    const cos = os - (so * sd) / m;
    const coo = oo - (so * so) / m;
    const determinant = cgg * css - cgs * cgs;
    if (determinant <= 1e-18) return null;
    const a = (cog * css - cos * cgs) / determinant;
    const c = (cos * cgg - cog * cgs) / determinant;
    if (a <= 0.05) return null;
    // The slope is per half step of the profile, counted over two of them: one pixel.
    const change = -c / a;
    shift += Math.max(-1, Math.min(1, change));
    if (Math.abs(shift) > REACH - 2) return null;
    if (Math.abs(change) < 1e-4 || round === 5) {
      const explained = (a * cog + c * cos) / coo;
      return explained > 0.985 && Math.abs(change) < 0.05 ? shift : null;
    }
  }
  return null;
}

/** The strongest edge of a cell, of those that lie across the radius: its place and the unit direction across it. */
interface Strongest {
  at: Point;
  across: Point;
}

function strongestEdge(
  { size: { width, height }, green: { width: columns, data, ...green } }: ColourSource,
  cell: { left: number; top: number; right: number; bottom: number }
): Strongest | null {
  const unit = halfDiagonal({ width, height });
  // Pixels of the picture to one that is looked through.
  const size = Math.round(width / columns);
  const reach = 2 / size;
  const step = Math.max(1, Math.round(SEARCH / size));
  const margin = 10 / size;
  let best: Strongest | null = null;
  let most = 0;
  const first = Math.max(Math.ceil(cell.left / size), margin);
  const last = Math.min(cell.right / size, columns - margin);
  const below = Math.min(cell.bottom / size, green.height - margin);
  for (let y = Math.max(Math.ceil(cell.top / size), margin); y < below; y += step) {
    for (let x = first; x < last; x += step) {
      const above = (y - reach) * columns + x;
      const under = (y + reach) * columns + x;
      const a = data[above - reach];
      const b = data[above + reach];
      const c = data[under - reach];
      const d = data[under + reach];
      const gx = b + d - a - c;
      const gy = c + d - a - b;
      const squared = gx * gx + gy * gy;
      if (squared < LEAST_SLOPE * LEAST_SLOPE || squared <= most * most) continue;
      const dx = ((x + 0.5) * size - width / 2) / unit;
      const dy = ((y + 0.5) * size - height / 2) / unit;
      const radius = Math.sqrt(dx * dx + dy * dy);
      if (radius < INNERMOST) continue;
      // Only what lies across the radius shows a radial offset.
      const slope = Math.sqrt(squared);
      const radial = Math.abs(gx * dx + gy * dy) / (slope * radius);
      if (radial < 0.5 || slope * radial <= most) continue;
      most = slope * radial;
      best = { at: [(x + 0.5) * size, (y + 0.5) * size], across: [gx / slope, gy / slope] };
    }
  }
  return best;
}

/** Strong edges spread over the picture, with the offsets of red and blue. */
export function measureEdges(source: ColourSource, { cells = 100 }: MeasureEdgesOptions = {}): LateralEdge[] {
  const { size } = source;
  const { width, height } = size;
  const cell = Math.max(16, Math.ceil(Math.max(width, height) / cells));
  const found: LateralEdge[] = [];
  for (let top = 0; top < height; top += cell) {
    for (let left = 0; left < width; left += cell) {
      const strongest = strongestEdge(source, { left, top, right: left + cell, bottom: top + cell });
      if (!strongest) continue;
      const { at, across } = strongest;
      const greens = profile(source, 1, at, across);
      if (!greens) continue;
      const high = Math.max(...greens);
      if (high - Math.min(...greens) < LEAST_CONTRAST * high || high < 0.01) continue;
      const reds = profile(source, 0, at, across);
      const blues = profile(source, 2, at, across);
      const red = reds && shiftBetween(greens, reds);
      const blue = blues && shiftBetween(greens, blues);
      if (red === null && blue === null) continue;
      found.push({ at: sensorToField(at, size), across, red, blue });
    }
  }
  return found;
}
