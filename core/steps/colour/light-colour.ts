/**
 * The colour of the light by itself: what is shown is on the whole of no colour, and more so what is light (shades of grey: Finlayson &
 * Trezzi, Color Imaging Conference 2004; Minkowski norm 5). What is near to the grey that was found counts most, wherever that lies:
 * it is found anew from there until it stays.
 */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { smoothstep } from '../../math/smoothstep.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { type Telltale, besideSky } from './beside-sky.ts';
import { chosen, tellingOf } from './telling-colours.ts';
import { type Colour, twoLights } from './two-lights.ts';

const NORM = 5;
const ROUNDS = 8;
/** How far from the grey that is found, in natural logarithms of red and blue against green, a colour still speaks for the light. */
const NEAR = 0.25;
/** Share of the colours that is near to a grey where it is sure of itself, and where not; and how far it is then drawn to their mean. */
const SUPPORT = { unsure: 0.06, sure: 0.11 };
const DRAWN = 0.8;

/** The grey that colours bear out. */
function greyOf(colours: FrameLight['colours']): Vector3 {
  const { red, blue, green, likely } = tellingOf(colours);
  if (red.length === 0) return [1, 1, 1];
  // What each adds, where it counts in full.
  const greens = green.map((value, i) => likely[i] * value ** NORM);
  const reds = greens.map((value, i) => value * Math.exp(NORM * red[i]));
  const blues = greens.map((value, i) => value * Math.exp(NORM * blue[i]));
  let [atRed, atBlue] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    let [sumR, sumG, sumB] = [0, 0, 0];
    for (let i = 0; i < red.length; i++) {
      const away = (red[i] - atRed) ** 2 + (blue[i] - atBlue) ** 2;
      const weight = round === 0 ? 1 : Math.exp(-away / (2 * NEAR ** 2));
      sumR += weight * reds[i];
      sumG += weight * greens[i];
      sumB += weight * blues[i];
    }
    if (!(sumG > 0)) return [1, 1, 1];
    [atRed, atBlue] = [Math.log(sumR / sumG) / NORM, Math.log(sumB / sumG) / NORM];
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

/** What a frame's light is: working colours as shot, green 1; white where nothing tells any. */
export interface LightColours {
  light: Vector3;
  /** Where two lights of plainly different colours fall on the frame, the one that `light` is not. */
  other: Vector3 | null;
}

/** What was told of a light: tone and white balance by themselves both ask. */
const known = new WeakMap<Telltale, LightColours>();

export function lightColours(light: Telltale): LightColours {
  const told = known.get(light) ?? found(light);
  known.set(light, told);
  return told;
}

function found(light: Telltale): LightColours {
  const { cells: places, grey } = besideSky(light, greyOf);
  const cells = chosen(light.colours, places);
  const set = grey ?? greyOf(cells);
  const both = twoLights(tellingOf(cells), cells[1]);
  if (!both) return { light: set, other: null };
  const away = (of: Colour): number => Math.hypot(of[0] - Math.log(set[0]), of[1] - Math.log(set[2]));
  const [red, blue] = away(both[0]) > away(both[1]) ? both[0] : both[1];
  return { light: set, other: [Math.exp(red), 1, Math.exp(blue)] };
}

export const lightColour = (light: Telltale): Vector3 => lightColours(light).light;
