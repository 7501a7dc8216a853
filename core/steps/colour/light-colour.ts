/**
 * The colour of the light by itself: what is shown is on the whole of no colour, and more so what is light (shades of grey: Finlayson &
 * Trezzi, Color Imaging Conference 2004; Minkowski norm 5). What is near to the grey that was found counts most, wherever that lies:
 * it is found anew from there until it stays.
 */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { smoothstep } from '../../math/smoothstep.ts';
import type { Vector3 } from '../../math/vector3.ts';

const NORM = 5;
const ROUNDS = 8;
/** How far from the grey that is found, in natural logarithms of red and blue against green, a colour still speaks for the light. */
const NEAR = 0.25;
/** How far off the line of lights, in the same measure, a colour can be grey under any: lamps to shade lie about it. */
const OFF_LIGHTS = 0.2;
/** Blue that lights lose for each red that they gain along that line. */
const SLOPE = 1.45;
/** Light beyond these tells no colour. */
const LIGHTEST = 0.95;
const DARKEST = 0.004;
/** Share of the colours that is near to a grey where it is sure of itself, and where not; and how far it is then drawn to their mean. */
const SUPPORT = { unsure: 0.06, sure: 0.11 };
const DRAWN = 0.6;

/** Colours that tell, as logarithms of red and blue against green, with their greens and how likely each is grey under some light. */
interface Telling {
  red: Float32Array;
  blue: Float32Array;
  green: Float32Array;
  likely: Float32Array;
}

function tellingOf([reds, greens, blues]: FrameLight['colours']): Telling {
  const cells = [...greens.keys()].filter((i) => {
    const [r, g, b] = [reds[i], greens[i], blues[i]];
    return Math.min(r, g, b) >= DARKEST && Math.max(r, g, b) <= LIGHTEST;
  });
  const of = (value: (i: number) => number): Float32Array => Float32Array.from(cells, value);
  const red = of((i) => Math.log(reds[i] / greens[i]));
  const blue = of((i) => Math.log(blues[i] / greens[i]));
  const likely = red.map((value, n) => {
    const off = (blue[n] + SLOPE * value) / Math.hypot(1, SLOPE);
    return Math.exp(-(off ** 2) / (2 * OFF_LIGHTS ** 2));
  });
  return { red, blue, green: of((i) => greens[i]), likely };
}

/** Working colour of the light, green 1, that the frame was taken in as shot; white where it tells none. */
export function lightColour({ colours }: Pick<FrameLight, 'colours'>): Vector3 {
  const { red, blue, green, likely } = tellingOf(colours);
  if (red.length === 0) return [1, 1, 1];
  let [atRed, atBlue] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const sums = [0, 0, 0];
    for (let i = 0; i < red.length; i++) {
      const away = (red[i] - atRed) ** 2 + (blue[i] - atBlue) ** 2;
      const weight = likely[i] * (round === 0 ? 1 : Math.exp(-away / (2 * NEAR ** 2)));
      const light = weight * green[i] ** NORM;
      sums[0] += light * Math.exp(NORM * red[i]);
      sums[1] += light;
      sums[2] += light * Math.exp(NORM * blue[i]);
    }
    if (!(sums[1] > 0)) return [1, 1, 1];
    [atRed, atBlue] = [Math.log(sums[0] / sums[1]) / NORM, Math.log(sums[2] / sums[1]) / NORM];
  }
  // What hardly any of the picture bears out is a thing of that colour as likely as the light.
  let [near, meanRed, meanBlue] = [0, 0, 0];
  for (let i = 0; i < red.length; i++) {
    if (Math.hypot(red[i] - atRed, blue[i] - atBlue) < NEAR) near++;
    meanRed += red[i] / red.length;
    meanBlue += blue[i] / red.length;
  }
  const drawn = DRAWN * (1 - smoothstep(SUPPORT.unsure, SUPPORT.sure, near / red.length));
  return [Math.exp(atRed + drawn * (meanRed - atRed)), 1, Math.exp(atBlue + drawn * (meanBlue - atBlue))];
}
