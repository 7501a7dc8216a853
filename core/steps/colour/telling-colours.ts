/** Colours that tell of the light, and how likely each is grey under one. */
import type { FrameLight } from '../../measure/light/frame-light.ts';

/** How far off the line of lights, in natural logarithms of red and blue against green, a colour can be grey under any: lamps to shade lie about it. */
const OFF_LIGHTS = 0.2;
/** Blue that lights lose for each red that they gain along that line. */
const SLOPE = 1.45;
/** Light beyond these tells no colour. */
const LIGHTEST = 0.95;
export const DARKEST = 0.004;

/** Colours that tell, as logarithms of red and blue against green, with their greens and how likely each is grey under some light. */
export interface Telling {
  red: Float32Array;
  blue: Float32Array;
  green: Float32Array;
  likely: Float32Array;
}

/** How far off the line of lights a colour lies: above 0 towards magenta, below towards green. */
export const offLights = (red: number, blue: number): number => (blue + SLOPE * red) / Math.hypot(1, SLOPE);

export function tellingOf([reds, greens, blues]: FrameLight['colours']): Telling {
  const cells = [...greens.keys()].filter((i) => {
    const [r, g, b] = [reds[i], greens[i], blues[i]];
    return Math.min(r, g, b) >= DARKEST && Math.max(r, g, b) <= LIGHTEST;
  });
  const of = (value: (i: number) => number): Float32Array => Float32Array.from(cells, value);
  const red = of((i) => Math.log(reds[i] / greens[i]));
  const blue = of((i) => Math.log(blues[i] / greens[i]));
  const likely = red.map((value, n) => {
    const off = offLights(value, blue[n]);
    return Math.exp(-(off ** 2) / (2 * OFF_LIGHTS ** 2));
  });
  return { red, blue, green: of((i) => greens[i]), likely };
}

/** The colours of some cells. */
export const chosen = (colours: FrameLight['colours'], cells: readonly number[]): FrameLight['colours'] =>
  colours.map((plane) => Float32Array.from(cells, (i) => plane[i])) as unknown as FrameLight['colours'];
