/**
 * The colours of what lies inside a mask, continued beyond it: what the sky behind a roof or between branches would look like
 * (pull and push: Gortler et al., The Lumigraph, SIGGRAPH 1996).
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { bilinear } from '../../../picture/tile/bilinear.ts';

export interface InsideColours extends FrameSize {
  /** Light of each cell in the working space, as the file gave it. */
  planes: readonly [Float32Array, Float32Array, Float32Array];
  /** Mean of what lies inside; null where nothing surely does. */
  mean: [number, number, number] | null;
}

/** What is known of a cell: sums of its colours, by weight. */
interface Level extends FrameSize {
  weight: Float32Array;
  planes: readonly Float32Array[];
}

/** Writes colours of every cell to `out`, from those that are inside, 0..1. */
export function continueColours(
  colours: readonly Float32Array[],
  inside: Float32Array,
  { width, height }: FrameSize,
  out: readonly [Float32Array, Float32Array, Float32Array]
): InsideColours {
  const finest: Level = {
    width,
    height,
    weight: inside,
    planes: colours.map((plane) => plane.map((value, i) => value * inside[i]))
  };
  const levels = [finest];
  while (Math.max(levels[levels.length - 1].width, levels[levels.length - 1].height) > 1)
    levels.push(pulled(levels[levels.length - 1]));
  const total = levels[levels.length - 1];
  if (total.weight[0] === 0) {
    out.forEach((plane) => plane.fill(0));
    return { width, height, planes: out, mean: null };
  }
  const mean = total.planes.map(([sum]) => sum / total.weight[0]) as [number, number, number];
  let known = mean.map((value) => Float32Array.of(value));
  for (let n = levels.length - 2; n >= 0; n--) known = pushed(levels[n], levels[n + 1], known);
  known.forEach((plane, c) => out[c].set(plane));
  return { width, height, planes: out, mean };
}

function pulled({ width, height, weight, planes }: Level): Level {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const sum = (of: Float32Array): Float32Array => {
    const sums = new Float32Array(half.width * half.height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) sums[(y >> 1) * half.width + (x >> 1)] += of[i];
    return sums;
  };
  return { ...half, weight: sum(weight), planes: planes.map(sum) };
}

/** Colours of a level's cells: its own as far as there are any, and between those of the coarser one. */
function pushed({ width, height, weight, planes }: Level, coarse: FrameSize, known: readonly Float32Array[]) {
  return planes.map((plane, c) => {
    const out = new Float32Array(plane.length);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const own = Math.min(1, weight[i]);
        const rest =
          own < 1 ? bilinear(known[c], coarse.width, coarse.height, (x + 0.5) / 2, (y + 0.5) / 2) : 0;
        out[i] = (own > 0 ? (plane[i] / weight[i]) * own : 0) + (1 - own) * rest;
      }
    return out;
  });
}
