/**
 * Falloff of light towards the corners as an even polynomial of the field radius (Goldman 2010 and the
 * usual open calibration data use the same form): transmitted light = 1 + v1 r² + v2 r⁴ + v3 r⁶ …
 */
export type FalloffTerms = readonly number[];

/** Gains measured on a grid over the whole frame, corner to corner, as some raw files carry them. */
export interface GainMap {
  columns: number;
  rows: number;
  /** Gains of red, green and blue for each node, row by row. */
  values: readonly number[];
}

/** What darkens or tints a picture towards its corners. */
export interface LensShading {
  terms: FalloffTerms;
  /** Light of red and of blue against green, as polynomials of the same form; colour shading. */
  red?: FalloffTerms;
  blue?: FalloffTerms;
  map?: GainMap | null;
}

/** Everything that is done about falloff on a frame. */
export interface Falloff {
  shading: LensShading | null;
  /** 1 is the whole correction of the measured shading. */
  amount: number;
  /** By hand: light added at the corners, in EV, and how it grows towards them (1 as r², 2 as r⁴ …). */
  corner: number;
  power: number;
  /** Optical centre in field units. */
  centre: readonly [number, number];
}

/** Least transmission taken as real; a profile that goes below it would only amplify noise. */
const DARKEST = 1 / 64;

/** Share of light that reaches squared field radius r2, the centre being 1. */
export function transmission(terms: FalloffTerms, r2: number): number {
  let sum = 0;
  for (let i = terms.length - 1; i >= 0; i--) sum = (sum + terms[i]) * r2;
  return Math.max(DARKEST, 1 + sum);
}

/** Gain of a channel at a place of the frame (-1…1 across and down its width and height), bilinear in the map. */
export function mapGain(map: GainMap, x: number, y: number, channel: number): number {
  const { columns, rows, values } = map;
  const px = Math.min(Math.max(((x + 1) / 2) * (columns - 1), 0), columns - 1);
  const py = Math.min(Math.max(((y + 1) / 2) * (rows - 1), 0), rows - 1);
  const ix = Math.min(Math.floor(px), Math.max(0, columns - 2));
  const iy = Math.min(Math.floor(py), Math.max(0, rows - 2));
  const fx = px - ix;
  const fy = py - iy;
  const at = (cx: number, cy: number): number =>
    values[(Math.min(cy, rows - 1) * columns + Math.min(cx, columns - 1)) * 3 + channel];
  return (
    (at(ix, iy) * (1 - fx) + at(ix + 1, iy) * fx) * (1 - fy) +
    (at(ix, iy + 1) * (1 - fx) + at(ix + 1, iy + 1) * fx) * fy
  );
}

/**
 * Gains of red, green and blue that undo the falloff at a field position; written to `out`. `halfWidth` and
 * `halfHeight` are the frame's, in field units (for gain maps).
 */
export function falloffGains(
  falloff: Falloff,
  x: number,
  y: number,
  halfWidth: number,
  halfHeight: number,
  out: Float64Array
): void {
  const dx = x - falloff.centre[0];
  const dy = y - falloff.centre[1];
  // Outside the frame the polynomial means nothing; its value at the corner will do.
  const r2 = Math.min(1.05, dx * dx + dy * dy);
  const { shading, amount } = falloff;
  const hand = falloff.corner === 0 ? 1 : 2 ** (falloff.corner * r2 ** falloff.power);
  out[0] = out[1] = out[2] = hand;
  if (!shading || amount === 0) return;
  const green = transmission(shading.terms, r2) ** -amount;
  out[0] *= green * (shading.red ? transmission(shading.red, r2) ** -amount : 1);
  out[1] *= green;
  out[2] *= green * (shading.blue ? transmission(shading.blue, r2) ** -amount : 1);
  if (shading.map) {
    for (let c = 0; c < 3; c++) out[c] *= mapGain(shading.map, x / halfWidth, y / halfHeight, c) ** amount;
  }
}

/** Light left missing in the corners against the centre, in EV (negative is darker): mean of the corners, in green. */
export function cornerFalloff(falloff: Falloff): number {
  const { shading, amount, corner, centre } = falloff;
  let left = corner;
  if (shading) {
    left += Math.log2(transmission(shading.terms, 1)) * (1 - amount);
    if (shading.map) {
      const gain =
        [-1, 1]
          .flatMap((x) => [-1, 1].map((y) => Math.log2(mapGain(shading.map!, x, y, 1))))
          .reduce((a, b) => a + b) / 4;
      left -= (gain - Math.log2(mapGain(shading.map, centre[0], centre[1], 1))) * (1 - amount);
    }
  }
  return left;
}
