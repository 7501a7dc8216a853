/** What the sky looks like at each place, by what is surely sky near by; and what looks so. */
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import type { Looks } from './looks.ts';

/** Reach, in shares of the longer edge, that the look of the sky is told over, the finest first. */
const REACHES = [0.012, 0.04];
/** Least deviations of light and hue, in stops, that the sky has. */
const LEAST_LIGHT = 0.1;
const LEAST_HUE = 0.08;
/** Deviations from which on a place is less than all sky, and none of it. */
const SURE = 2.6;
const NONE = 4;
/** How far from what is surely sky a hole may lie, in shares of the longer edge. */
const NEAR = 0.02;
const FURTHER = 0.06;
/** By how much deviations count for more beyond the nearer of the two. */
const FAR = 2;
/** Deviations that a piece may be off by in the mean. */
const LIKE = 1.4;
/** Terms of the surface, and about how many cells tell it. */
const TERMS = 6;
const TELLING = 8000;

/** What the sky looks like at each cell of a coarse grid. */
export interface SkyLook extends FrameSize {
  light: Float32Array;
  hue: Float32Array;
  /** Deviations of both. */
  lightSpread: Float32Array;
  hueSpread: Float32Array;
  /** 1 about what is surely sky, and a half farther from it. */
  near: Float32Array;
}

/** What the sky looks like: means and spreads over what is surely sky about each cell, of the finest reach at which there is any. */
export function lookOf(seeds: Uint8Array, { stops, hue, width, height }: Looks): SkyLook {
  const size = width * height;
  const longest = Math.max(width, height);
  return inArena((arena) => {
    const k = kernels();
    const across = addressOf(arena.float32(size + 2 * width + 16));
    const work = arena.float32(size);
    const shares = REACHES.map((reach) => {
      const radius = Math.max(2, Math.round(reach * longest));
      const share = arena.float32(size);
      share.set(seeds);
      k.boxMean(addressOf(share), width, height, radius, across, addressOf(share));
      return { radius, share };
    });
    /** Means of values over what is surely sky; `beyond`: what they are where there is none within reach. */
    const meansOf = (values: Float32Array, beyond: () => (i: number) => number): Float32Array => {
      const means = new Float32Array(size);
      const known = new Uint8Array(size);
      for (const { radius, share } of shares) {
        for (let i = 0; i < size; i++) work[i] = seeds[i] * values[i];
        k.boxMean(addressOf(work), width, height, radius, across, addressOf(work));
        for (let i = 0; i < size; i++)
          if (known[i] === 0 && share[i] > 0.05) {
            means[i] = work[i] / share[i];
            known[i] = 1;
          }
      }
      if (known.includes(0)) {
        const value = beyond();
        for (let i = 0; i < size; i++) if (known[i] === 0) means[i] = value(i);
      }
      return means;
    };
    const surface = (of: Float32Array): Float32Array =>
      meansOf(of, () => fitSurface(seeds, of, { width, height }));
    const [light, blue] = [surface(stops), surface(hue)];
    const away = new Float32Array(size);
    const spread = (of: Float32Array, mean: Float32Array, least: number): Float32Array => {
      for (let i = 0; i < size; i++) away[i] = (of[i] - mean[i]) * (of[i] - mean[i]);
      const variances = meansOf(away, () => () => 0);
      for (let i = 0; i < size; i++) variances[i] = Math.max(least, Math.sqrt(Math.max(0, variances[i])));
      return variances;
    };
    const [near, further] = [NEAR, FURTHER].map((share) => {
      const about = arena.float32(size);
      about.set(seeds);
      const reach = Math.max(1, Math.round(share * longest));
      k.extremes(addressOf(about), width, height, reach, 1, across, addressOf(about));
      return about;
    });
    for (let i = 0; i < size; i++) near[i] = Math.max(near[i], further[i] / 2);
    return {
      width,
      height,
      light,
      hue: blue,
      lightSpread: spread(stops, light, LEAST_LIGHT),
      hueSpread: spread(hue, blue, LEAST_HUE),
      near: new Float32Array(near)
    };
  });
}

/** A surface of the second order, by least squares over the seeds. */
function fitSurface(
  seeds: Uint8Array,
  values: Float32Array,
  { width, height }: FrameSize
): (i: number) => number {
  const across = (i: number): number => (i % width) / width - 0.5;
  const down = (i: number): number => Math.floor(i / width) / height - 0.5;
  const sums = new Float64Array(TERMS * TERMS);
  const totals = new Float64Array(TERMS);
  const row = new Float64Array(TERMS);
  const count = seeds.reduce((sum, each) => sum + each, 0);
  let every = Math.max(1, Math.floor(count / TELLING));
  // Of every column some.
  while (every > 1 && width % every === 0) every++;
  for (let i = 0; i < seeds.length; i += every) {
    if (!seeds[i]) continue;
    const [x, y] = [across(i), down(i)];
    row.set([1, x, y, x * x, x * y, y * y]);
    for (let j = 0; j < TERMS; j++) {
      totals[j] += row[j] * values[i];
      for (let k = 0; k < TERMS; k++) sums[j * TERMS + k] += row[j] * row[k];
    }
  }
  const left = Matrix.from1DArray(TERMS, TERMS, sums);
  const right = Matrix.columnVector(totals);
  const [c, cx, cy, cxx, cxy, cyy] = new SingularValueDecomposition(left).solve(right).to1DArray();
  return (i) => {
    const [x, y] = [across(i), down(i)];
    return c + x * (cx + cxx * x + cxy * y) + y * (cy + cyy * y);
  };
}

/** Whether a piece is, as a whole, what the sky would look like there. */
export function isLike(cells: Int32Array, look: SkyLook, { stops, hue }: Looks): boolean {
  let [light, blue, near] = [0, 0, 0];
  for (const at of cells) {
    near += look.near[at];
    light += (stops[at] - look.light[at]) / look.lightSpread[at];
    blue += (hue[at] - look.hue[at]) / look.hueSpread[at];
  }
  return near > 0 && Math.hypot(light, blue) < LIKE * cells.length;
}

/** Shares of what looks like the sky near by, on a grid as fine as that of the look or finer. */
export function drawLike(look: SkyLook, { width, height, stops, hue }: Looks, out: Float32Array): void {
  const pitch = look.width;
  for (let y = 0, i = 0; y < height; y++) {
    const py = Math.min(look.height - 1, Math.max(0, ((y + 0.5) * look.height) / height - 0.5));
    const row = Math.min(look.height - 2, py | 0);
    const fy = py - row;
    for (let x = 0; x < width; x++, i++) {
      const px = Math.min(pitch - 1, Math.max(0, ((x + 0.5) * pitch) / width - 0.5));
      const column = Math.min(pitch - 2, px | 0);
      const fx = px - column;
      const at = row * pitch + column;
      const near = between(look.near, at, pitch, fx, fy);
      if (near <= 0) continue;
      const light = (stops[i] - between(look.light, at, pitch, fx, fy)) / look.lightSpread[at];
      const colour = (hue[i] - between(look.hue, at, pitch, fx, fy)) / look.hueSpread[at];
      // Farther from what is surely sky it has to look more like it.
      const away = (near >= 0.99 ? 1 : FAR) * Math.hypot(light, colour);
      out[i] = 1 - smoothstep(SURE, NONE, away);
    }
  }
}

/** A plane between four cells, of which `at` is the first. */
const between = (plane: Float32Array, at: number, pitch: number, fx: number, fy: number): number =>
  (plane[at] * (1 - fx) + plane[at + 1] * fx) * (1 - fy) +
  (plane[at + pitch] * (1 - fx) + plane[at + pitch + 1] * fx) * fy;
