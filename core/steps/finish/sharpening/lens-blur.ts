/** The blur of a lens, for undoing it: discrete Gaussians (Lindeberg 1990), whose variances are what they are meant to be however small. */
import type { Arena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { fieldNodes } from '../../../picture/tile/mesh.ts';
import type { Tile } from '../../../picture/tile/tile.ts';

/** Standard deviations in the middle and in the corners, in field units; between them by the square of the radius. */
export interface LensBlur {
  middle: number;
  corners: number;
}

/** Steps of Richardson–Lucy: more gain nothing within the limits that edges are kept to. */
const TIMES = 3;
/** What demosaicing and the one resampling blur besides: a variance, in pixels of the frame squared. */
const OURS = 0.08;
/** Blurs of less variance, in pixels squared, change nothing. */
const LEAST = 0.03;
/** Kinds of blur that a frame is told in, from its middle to its corners. */
const LEVELS = 64;

const varianceAt = ({ middle, corners }: LensBlur, level: number, one: number, pixel: number): number => {
  const own = middle + (corners - middle) * (level / LEVELS);
  return (own ** 2 + OURS * one ** 2) / pixel ** 2;
};
const most = (blur: LensBlur, one: number, pixel: number): number =>
  Math.max(varianceAt(blur, 0, one, pixel), varianceAt(blur, LEVELS, one, pixel));
/** A pixel that weighs less is left out. */
const LEAST_WEIGHT = 2e-3;
/** Pixels to each side that weigh anything. */
function reachOf(variance: number): number {
  const weights = besselWeights(variance, Math.ceil(4 * Math.sqrt(variance)) + 2);
  return Math.max(
    1,
    weights.findLastIndex((weight) => weight > LEAST_WEIGHT)
  );
}

/** Pixels that one depends on to each side where one is `pixel` large, and `one` of the frame; 0: nothing is undone. */
export function deconvolutionReach(blur: LensBlur, one: number, pixel: number): number {
  const variance = most(blur, one, pixel);
  return variance < LEAST ? 0 : 2 * TIMES * reachOf(variance);
}

/** e⁻ᵗ Iₙ(t), for n from 0 to `reach`: modified Bessel functions of the first kind, by their power series. */
function besselWeights(t: number, reach: number): number[] {
  return Array.from({ length: reach + 1 }, (_, n) => {
    let term = Math.exp(-t);
    for (let k = 1; k <= n; k++) term *= t / 2 / k;
    let sum = 0;
    for (let m = 0; term > 1e-12 * sum || m < t; m++) {
      sum += term;
      term *= (t / 2) ** 2 / ((m + 1) * (m + 1 + n));
    }
    return sum;
  });
}

/** Weights of 2 reach + 1 pixels for a variance, in pixels squared; their sum is 1. */
export function discreteGaussian(variance: number, reach: number): number[] {
  const half = besselWeights(variance, reach);
  const sum = half.reduce((all, weight, n) => all + (n === 0 ? weight : 2 * weight), 0);
  return Array.from({ length: 2 * reach + 1 }, (_, i) => half[Math.abs(i - reach)] / sum);
}

/** What the kernel reads of it for a tile: which blur each four pixels have, the blurs, their reach, and how often they are undone. */
export function blurredBy(
  { width, height, view: { pixel }, mesh, size }: Pick<Tile, 'width' | 'height' | 'view' | 'mesh' | 'size'>,
  blur: LensBlur | null,
  one: number,
  arena: Arena
): [levels: number, table: number, reach: number, times: number] {
  if (!blur) return [0, 0, 0, 0];
  const { x, y } = fieldNodes(mesh, size);
  const levels = addressOf(arena.uint8(Math.ceil(width / 4) * height));
  const nodes = [x, y].map((each) => arena.addressOf(each)) as [number, number];
  kernels().blurLevels(levels, width, height, ...nodes, mesh.columns, mesh.step, LEVELS);
  const reach = reachOf(most(blur, one, pixel));
  const table = Array.from({ length: LEVELS + 1 }, (_, level) =>
    discreteGaussian(varianceAt(blur, level, one, pixel), reach)
  );
  return [levels, arena.addressOf(table.flat()), reach, TIMES];
}
