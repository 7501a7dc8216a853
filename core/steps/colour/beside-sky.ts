/**
 * A blue sky is not the light of a sunlit ground. Here it is told from what it lights.
 */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { quantiles } from '../../math/quantiles.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { DARKEST, chosen, offLights, tellingOf } from './telling-colours.ts';

/** Every so many cells tell as much as all. */
export const STRIDE = 17;
/** Stops by which a sky may change from one cell to the next below it. */
const SKY_EVEN = 0.12;
/** By how much a sky is bluer, and less red, than the light on what is below it, in logarithms against green. */
const SKY_BLUE = 0.1;
const SKY_RED = 0.03;
/** Greener than this, in the same measure, are leaves and lawns under whatever light. */
const LEAVES = -0.5;
/** How far off the line of lights a sky lies at most. */
const SKY_OFF = 0.35;
/** Stops by which a sky is lighter than what is below it where it alone lights it, as after sunset. */
const SKY_LIGHTS = 1;
/** The share of a frame that has to be left beside a sky. */
const LEAST_LEFT = 0.15;

/** Every so many cells, in the order in which they lie. */
interface Parted {
  left: number[];
  sky: number[];
}

export type Telltale = Pick<FrameLight, 'width' | 'height' | 'stops' | 'colours'>;

/** What stands between leaves and below clouds, no lower than the sky reaches, and is as blue as it, is sky as well. */
function addAlike(
  { sky, left }: Parted,
  width: number,
  [reds, greens, blues]: FrameLight['colours']
): Parted {
  const blueOf = (i: number): number => Math.log(blues[i] / Math.max(1e-6, reds[i]));
  const known = sky.filter((i) => reds[i] > DARKEST);
  if (known.length === 0) return { sky, left };
  const least = Math.max(SKY_BLUE, quantiles(Float32Array.from(known, blueOf))(0.1));
  const end = (Math.floor(sky[sky.length - 1] / width) + 1) * width;
  const isAlike = (i: number): boolean => i < end && greens[i] > DARKEST && blueOf(i) >= least;
  return { sky: [...sky, ...left.filter(isAlike)], left: left.filter((i) => !isAlike(i)) };
}

/** The cells beside those that are even from the top of the frame down, and these. */
function parted({ width, height, stops, colours }: Telltale): Parted {
  const isSky = new Uint8Array(width * height);
  for (let x = 0; x < width; x++)
    for (let y = 0, i = x; y < height; y++, i += width) {
      if (y > 0 && Math.abs(stops[i] - stops[i - width]) > SKY_EVEN) break;
      isSky[i] = 1;
    }
  const [left, sky]: [number[], number[]] = [[], []];
  for (let i = 0; i < isSky.length; i += STRIDE) (isSky[i] === 1 ? sky : left).push(i);
  return sky.length === 0 ? { left, sky } : addAlike({ left, sky }, width, colours);
}

/** What is no lawn: below a sky it tells nothing, where between walls it speaks for the light as all else does. */
const besideLeaves = (cells: readonly number[], [reds, greens, blues]: FrameLight['colours']): number[] =>
  cells.filter((i) => offLights(Math.log(reds[i] / greens[i]), Math.log(blues[i] / greens[i])) > LEAVES);

/**
 * The cells, every so many, that tell of the light. Where what is even above is bluer than the light on all below, as `greyOf` finds
 * it, and not much lighter, they are those below it that are no lawn, with that light; else all.
 */
export function besideSky(
  light: Telltale,
  greyOf: (colours: FrameLight['colours']) => Vector3
): { cells: number[]; grey: Vector3 | null } {
  const { left, sky } = parted(light);
  const all = { cells: [...left, ...sky], grey: null };
  if (sky.length === 0 || left.length * STRIDE < LEAST_LEFT * light.stops.length) return all;
  const ground = besideLeaves(left, light.colours);
  const above = tellingOf(chosen(light.colours, sky));
  if (above.red.length === 0) return all;
  const below = greyOf(chosen(light.colours, ground));
  const mean = (values: Float32Array): number =>
    values.reduce((sum, value) => sum + value, 0) / values.length;
  const middle = (cells: readonly number[]): number =>
    quantiles(Float32Array.from(cells, (i) => light.stops[i]))(0.5);
  const [red, blue] = [mean(above.red), mean(above.blue)];
  const isBlue =
    Math.abs(offLights(red, blue)) < SKY_OFF &&
    middle(sky) - middle(left) < SKY_LIGHTS &&
    blue > Math.log(below[2]) + SKY_BLUE &&
    red < Math.log(below[0]) - SKY_RED;
  return isBlue ? { cells: ground, grey: below } : all;
}
