/**
 * Haze by the dark channel (He, Sun & Tang, IEEE PAMI 33, 2011): about every clear place something is dark in one colour,
 * and what keeps it from being dark is air. Where all is even there is no such thing to tell by: a sky stays as it is.
 */
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { quantiles } from '../../math/quantiles.ts';
import { smoothstep } from '../../math/smoothstep.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { fitLines, keepLines } from './fit-lines.ts';

/** Cells about each one among which something is dark. */
const DARK_REACH = 14;
const LINES = { radius: 16, epsilon: 0.01 };
/** Share of the cells, those of the lightest dark channel, among which the lightest share is the air. */
const FAR_SHARE = 0.02;
const AIR_SHARE = 0.1;
/** Light of air is at least this, so that a black picture has one. */
const LEAST_AIR = 1e-3;
/** Every so many cells tell the air as well as all. */
const STRIDE = 5;
/** A sky that is lighter than the farthest of what is seen by less than this factor is the air itself. */
const LIKE = 1.25;
/** By what share the darkest about a place is darker than the lightest, from where all is even to where there is much to see. */
const EVEN = { from: 0.03, to: 0.08 };

/**
 * Writes slope and offset of the share of haze, 0..1, by stops of luminance for each cell; answers the colour of the air.
 * `colours` are linear, `stops` their luminance.
 */
export function measureHaze(
  colours: readonly Float32Array[],
  stops: Float32Array,
  { width, height }: FrameSize,
  haze: Float32Array
): Vector3 {
  const size = width * height;
  const k = kernels();
  return inArena((arena) => {
    const [own, darkest, lightest] = [arena.float32(size), arena.float32(size), arena.float32(size)];
    const across = addressOf(arena.float32(size));
    const extremes = (from: Float32Array, greatest: 0 | 1, to: Float32Array): void =>
      k.extremes(addressOf(from), width, height, DARK_REACH, greatest, across, addressOf(to));
    /** The least of each cell's colours, in shares of the air's, and the least of those about it. */
    const darken = ([r, g, b]: readonly number[]): void => {
      for (let i = 0; i < size; i++)
        own[i] = Math.max(0, Math.min(colours[0][i] / r, colours[1][i] / g, colours[2][i] / b, 1));
      extremes(own, 0, darkest);
      // Grown back, a sky is as light beside a roof as far from it: else there would be a rim about the roof.
      extremes(darkest, 1, darkest);
    };
    /** By what share the darkest about each cell is darker than the lightest. */
    const uneven = (i: number): number => 1 - darkest[i] / Math.max(1e-6, lightest[i]);
    darken([1, 1, 1]);
    extremes(own, 1, lightest);
    const air = airOf(colours, stops, darkest, uneven);
    darken(air);
    extremes(own, 1, lightest);
    for (let i = 0; i < size; i++) darkest[i] *= smoothstep(EVEN.from, EVEN.to, uneven(i));
    const lines = fitLines(addressOf(stops), addressOf(darkest), { width, height, ...LINES }, arena);
    keepLines(lines, haze, 2, [0, 1]);
    return air;
  });
}

/**
 * Colour of the air: of the lightest cells about which nothing is dark, of those where there is something to see. A sky that is much
 * like it is it; one that is lighter is a sky with a light of its own.
 */
function airOf(
  colours: readonly Float32Array[],
  stops: Float32Array,
  darkest: Float32Array,
  uneven: (i: number) => number
): Vector3 {
  const lightestOf = (cells: readonly number[]): Vector3 | null => {
    if (cells.length === 0) return null;
    const least = quantiles(Float32Array.from(cells, (i) => darkest[i]))(1 - FAR_SHARE);
    const far = cells.filter((i) => darkest[i] >= least);
    const light = quantiles(Float32Array.from(far, (i) => stops[i]))(1 - AIR_SHARE);
    const taken = far.filter((i) => stops[i] >= light);
    return colours.map((plane) =>
      Math.max(LEAST_AIR, taken.reduce((sum, i) => sum + Math.min(1, plane[i]), 0) / taken.length)
    ) as unknown as Vector3;
  };
  const [there, even]: [number[], number[]] = [[], []];
  for (let i = 0; i < stops.length; i += STRIDE) {
    const share = uneven(i);
    if (share >= EVEN.to) there.push(i);
    else if (share < EVEN.from) even.push(i);
  }
  const [seen, sky] = [lightestOf(there), lightestOf(even)];
  if (!seen || !sky) return seen ?? sky ?? [1, 1, 1];
  const isLike = sky.every((part, c) => part >= seen[c] && part < seen[c] * LIKE);
  return isLike ? sky : seen;
}
