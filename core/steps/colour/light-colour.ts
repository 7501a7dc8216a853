/**
 * The colour of the light by itself: what is shown is on the whole of no colour, and more so what is light (shades of grey: Finlayson &
 * Trezzi, Color Imaging Conference 2004; Minkowski norm 5). What is near to the grey that was found counts most, wherever that lies:
 * it is found anew from there until it stays.
 */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { quantiles } from '../../math/quantiles.ts';
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

/** Every so many cells tell as much as all. */
const STRIDE = 17;
/** Stops by which a sky may change from one cell to the next below it. */
const SKY_EVEN = 0.12;
/** By how much a sky is bluer, and less red, than the light on what is below it, in the same measure. */
const SKY_BLUE = 0.1;
const SKY_RED = 0.03;
/** Stops by which a sky is lighter than what is below it where it alone lights it, as after sunset. */
const SKY_LIGHTS = 1;
/** The share of a frame that has to be left beside a sky. */
const LEAST_LEFT = 0.15;

/** The cells without those that are even from the top of the frame down, and these. */
function besideSky({ width, height, stops }: Pick<FrameLight, 'width' | 'height' | 'stops'>): {
  left: number[];
  sky: number[];
} {
  const isSky = new Uint8Array(width * height);
  for (let x = 0; x < width; x++)
    for (let y = 0, i = x; y < height; y++, i += width) {
      if (y > 0 && Math.abs(stops[i] - stops[i - width]) > SKY_EVEN) break;
      isSky[i] = 1;
    }
  const [left, sky]: [number[], number[]] = [[], []];
  for (let i = 0; i < isSky.length; i += STRIDE) (isSky[i] === 1 ? sky : left).push(i);
  return { left, sky };
}

const chosen = (colours: FrameLight['colours'], cells: readonly number[]): FrameLight['colours'] =>
  colours.map((plane) => Float32Array.from(cells, (i) => plane[i])) as unknown as FrameLight['colours'];

/**
 * Working colour of the light, green 1, that the frame was taken in as shot; white where it tells none. A blue sky is not the light of
 * a sunlit ground: where what is even above is bluer than all below, and not much lighter, what is below tells alone.
 */
export function lightColour(light: Pick<FrameLight, 'width' | 'height' | 'stops' | 'colours'>): Vector3 {
  const { left, sky } = besideSky(light);
  if (sky.length > 0 && left.length * STRIDE >= LEAST_LEFT * light.stops.length) {
    const below = greyOf(chosen(light.colours, left));
    const above = tellingOf(chosen(light.colours, sky));
    const mean = (values: Float32Array): number =>
      values.reduce((sum, value) => sum + value, 0) / values.length;
    const middle = (cells: readonly number[]): number =>
      quantiles(Float32Array.from(cells, (i) => light.stops[i]))(0.5);
    const isBlue =
      above.red.length > 0 &&
      middle(sky) - middle(left) < SKY_LIGHTS &&
      mean(above.blue) > Math.log(below[2]) + SKY_BLUE &&
      mean(above.red) < Math.log(below[0]) - SKY_RED;
    if (isBlue) return below;
  }
  return greyOf(chosen(light.colours, [...left, ...sky]));
}

/** The grey that colours bear out. */
function greyOf(colours: FrameLight['colours']): Vector3 {
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
