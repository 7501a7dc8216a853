/**
 * Places of a picture that can be known again in another of the same room: corners of its light (Shi & Tomasi 1994), described by
 * the directions of gradients about them (Lowe 2004), upright, of the logarithm of light, so that exposure changes nothing.
 */
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import { type Falloff, falloffGains } from '../../optics/falloff.ts';
import { inArena } from '../../picture/kernels/arena.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { averageLight } from '../light/average-light.ts';

/** Numbers of a description: four by four parts of the window, eight directions in each. */
export const NUMBERS = 128;
/** Spots of a place whose colours are read: the middle and four about it. */
export const SPOTS = 5;

export interface Places {
  count: number;
  /** NUMBERS for each, of length 1. */
  descriptions: Float32Array;
  /** Red, green and blue of each place's SPOTS, as developed, in stops; NaN where they are clipped, or as dark as noise. */
  stops: Float32Array;
}

/** Longer edges of the grids that places are looked for on: a room seen from further off is smaller. */
const EDGES = [768, 512, 340];
/** Places on each grid. */
const MOST = 400;
/** Cells about a place in each direction that its description is of. */
const HALF = 8;
/** Cells between two places. */
const APART = 4;
/** Light beyond which a colour counts as clipped, and below which as noise. */
const CLIPPED = 0.9;
const DARK = 0.004;
/** Cells from a place to the spots about it. */
const ASIDE = 5;

interface Grid extends FrameSize {
  stops: Float32Array;
  colours: readonly Float32Array[];
}

export function findPlaces(planes: PlacedPlanes, falloff: Falloff | null, size: FrameSize): Places {
  const found = EDGES.map((edge) => {
    const scale = edge / Math.max(planes.width, planes.height);
    const width = Math.round(planes.width * scale);
    const height = Math.round(planes.height * scale);
    return inArena((arena) => {
      const plane = (): Float32Array => arena.float32(width * height);
      const grid: Grid = { width, height, stops: plane(), colours: [plane(), plane(), plane()] };
      averageLight(planes, IDENTITY, grid, grid);
      return placesOf(grid, falloff, size);
    });
  });
  const count = found.reduce((sum, places) => sum + places.count, 0);
  const joined = (of: 'descriptions' | 'stops', each: number): Float32Array => {
    const all = new Float32Array(count * each);
    let at = 0;
    for (const places of found) {
      all.set(places[of], at);
      at += places[of].length;
    }
    return all;
  };
  return { count, descriptions: joined('descriptions', NUMBERS), stops: joined('stops', 3 * SPOTS) };
}

function placesOf(grid: Grid, falloff: Falloff | null, size: FrameSize): Places {
  const { width } = grid;
  const [across, down] = gradients(grid);
  const corners = cornersOf(across, down, grid);
  const descriptions = new Float32Array(corners.length * NUMBERS);
  const stops = new Float32Array(corners.length * 3 * SPOTS);
  corners.forEach((at, i) => {
    const [x, y] = [at % width, Math.floor(at / width)];
    describe(across, down, width, x, y, descriptions.subarray(i * NUMBERS, (i + 1) * NUMBERS));
    for (let spot = 0; spot < SPOTS; spot++) {
      const [ox, oy] = spot === 0 ? [0, 0] : [spot & 1 ? ASIDE : -ASIDE, spot & 2 ? ASIDE : -ASIDE];
      readSpot(grid, falloff, size, x + ox, y + oy, stops, 3 * (i * SPOTS + spot));
    }
  });
  return { count: corners.length, descriptions, stops };
}

/** How stops change across and down. */
function gradients({ width, height, stops }: Grid): [Float32Array, Float32Array] {
  const across = new Float32Array(width * height);
  const down = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      across[at] = stops[at + 1] - stops[at - 1];
      down[at] = stops[at + width] - stops[at - width];
    }
  return [across, down];
}

/** Cells whose light changes most in both directions, the strongest first, no two of them close by. */
function cornersOf(across: Float32Array, down: Float32Array, { width, height }: FrameSize): number[] {
  const strength = new Float32Array(width * height);
  const margin = HALF + 2;
  for (let y = margin; y < height - margin; y++)
    for (let x = margin; x < width - margin; x++) {
      let [xx, xy, yy] = [0, 0, 0];
      for (let j = -2; j <= 2; j++)
        for (let i = -2; i <= 2; i++) {
          const at = (y + j) * width + x + i;
          // An edge to black says no more than one of two stops.
          const gx = Math.max(-2, Math.min(2, across[at]));
          const gy = Math.max(-2, Math.min(2, down[at]));
          xx += gx * gx;
          xy += gx * gy;
          yy += gy * gy;
        }
      strength[y * width + x] = (xx + yy - Math.sqrt((xx - yy) ** 2 + 4 * xy * xy)) / 2;
    }
  const order = Array.from(strength.keys()).filter((at) => strength[at] > 0.05);
  order.sort((one, other) => strength[other] - strength[one]);
  const taken = new Uint8Array(width * height);
  const corners: number[] = [];
  for (const at of order) {
    if (taken[at]) continue;
    corners.push(at);
    if (corners.length === MOST) break;
    for (let j = -APART; j <= APART; j++) taken.fill(1, at + j * width - APART, at + j * width + APART + 1);
  }
  return corners;
}

/** Directions of gradients in each part of the window, by their strength, less towards its rim; of length 1. */
function describe(
  across: Float32Array,
  down: Float32Array,
  width: number,
  x: number,
  y: number,
  out: Float32Array
): void {
  for (let j = -HALF; j < HALF; j++)
    for (let i = -HALF; i < HALF; i++) {
      const at = (y + j) * width + x + i;
      const [gx, gy] = [across[at], down[at]];
      const length = Math.hypot(gx, gy) * Math.exp(-(i * i + j * j) / (2 * HALF * HALF));
      const turn = ((Math.atan2(gy, gx) / (2 * Math.PI) + 1) % 1) * 8;
      const [low, share] = [Math.floor(turn), turn % 1];
      const part = ((((j + HALF) * 4) / (2 * HALF)) | 0) * 4 + ((((i + HALF) * 4) / (2 * HALF)) | 0);
      out[part * 8 + (low % 8)] += length * (1 - share);
      out[part * 8 + ((low + 1) % 8)] += length * share;
    }
  // No single edge outweighs all else.
  for (let round = 0; round < 2; round++) {
    const norm = Math.sqrt(out.reduce((sum, value) => sum + value * value, 0)) || 1;
    for (let k = 0; k < NUMBERS; k++) out[k] = round === 0 ? Math.min(0.2, out[k] / norm) : out[k] / norm;
  }
}

/** Mean colour of nine cells, evened by the falloff that is known of. */
function readSpot(
  { width, height, colours }: Grid,
  falloff: Falloff | null,
  size: FrameSize,
  x: number,
  y: number,
  out: Float32Array,
  to: number
): void {
  const unit = halfDiagonal(size);
  const gains = new Float64Array([1, 1, 1]);
  const [halfWidth, halfHeight] = [size.width / 2 / unit, size.height / 2 / unit];
  if (falloff) {
    const [fx, fy] = [(2 * x + 1) / width - 1, (2 * y + 1) / height - 1];
    falloffGains(falloff, fx * halfWidth, fy * halfHeight, halfWidth, halfHeight, gains);
  }
  let usable = true;
  for (let c = 0; c < 3; c++) {
    let sum = 0;
    for (let j = -1; j <= 1; j++)
      for (let i = -1; i <= 1; i++) {
        const value = colours[c][(y + j) * width + x + i];
        if (!(value < CLIPPED)) usable = false;
        sum += value;
      }
    if (sum < 9 * DARK) usable = false;
    out[to + c] = Math.log2((sum / 9) * gains[c]);
  }
  if (!usable) out.fill(NaN, to, to + 3);
}
