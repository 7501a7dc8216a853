/** Haze as the first rendition measured it: by the dark channel (He, Sun & Tang, IEEE PAMI 33, 2011) alone. */
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { quantiles } from '../../math/quantiles.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { fitLines, keepLines } from './fit-lines.ts';

/** Cells about each one among which something is dark. */
const DARK_REACH = 5;
const LINES = { radius: 18, epsilon: 0.02 };
/** Share of the cells, those of the lightest dark channel, whose mean is the colour of the air. */
const AIR_SHARE = 0.002;
/** Light of air is at least this, so that a black picture has one. */
const LEAST_AIR = 1e-3;

/**
 * Writes slope and offset of the share of haze, 0..1, by stops of luminance for each cell; answers the colour of the air.
 * `colours` are linear, `stops` their luminance.
 */
export function measureFirstHaze(
  colours: readonly Float32Array[],
  stops: Float32Array,
  { width, height }: FrameSize,
  haze: Float32Array
): Vector3 {
  const size = width * height;
  const k = kernels();
  return inArena((arena) => {
    const darkest = arena.float32(size);
    const across = addressOf(arena.float32(size));
    /** The least of the colours about each cell, in shares of the air's. */
    const darken = ([r, g, b]: readonly number[]): void => {
      for (let i = 0; i < size; i++)
        darkest[i] = Math.max(0, Math.min(colours[0][i] / r, colours[1][i] / g, colours[2][i] / b, 1));
      k.extremes(addressOf(darkest), width, height, DARK_REACH, 0, across, addressOf(darkest));
    };
    darken([1, 1, 1]);
    const least = quantiles(darkest)(1 - AIR_SHARE);
    const air: Vector3 = [0, 0, 0];
    let count = 0;
    for (let i = 0; i < size; i++) {
      if (darkest[i] < least) continue;
      for (let c = 0; c < 3; c++) air[c] += Math.min(1, colours[c][i]);
      count++;
    }
    for (let c = 0; c < 3; c++) air[c] = Math.max(LEAST_AIR, air[c] / count);
    darken(air);
    const lines = fitLines(addressOf(stops), addressOf(darkest), { width, height, ...LINES }, arena);
    keepLines(lines, haze, 2, [0, 1]);
    return air;
  });
}
