/** Two lights in one frame, as lamps and windows: told by what is lightest, which is of no colour of its own more often than not. */
import { quantiles } from '../../math/quantiles.ts';
import type { Telling } from './telling-colours.ts';

/** Red and blue against green, in natural logarithms. */
export type Colour = readonly [red: number, blue: number];

/** Share of the colours that are the lightest. */
const LIGHTEST = 0.25;
/** How likely a colour has to be grey under some light to be told of. */
const LIKELY = 0.3;
/** How far two lights lie apart in blue against red: as lamps and daylight do. */
const APART = 0.55;
/** Share of the lightest that has to tell of a light at all. */
const TOLD = 0.03;
/** Share of these that each light has at least. */
const LEAST = 0.12;
const ROUNDS = 12;

/** The means of two groups, each of what is nearer to it, the warm one first; `greens`: of all colours, those that tell nothing as well. */
export function twoLights(
  { red, blue, green, likely }: Telling,
  greens: Float32Array
): [Colour, Colour] | null {
  const from = quantiles(greens)(1 - LIGHTEST);
  const told = [...green.keys()].filter((i) => green[i] >= from && likely[i] > LIKELY);
  if (told.length < TOLD * LIGHTEST * greens.length) return null;
  const place = (i: number): number => blue[i] - red[i];
  const places = quantiles(Float32Array.from(told, place));
  let [warm, cold] = [places(0.1), places(0.9)];
  let groups: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    groups = [[], []];
    for (const i of told) groups[place(i) - warm < cold - place(i) ? 0 : 1].push(i);
    if (groups[0].length === 0 || groups[1].length === 0) return null;
    [warm, cold] = groups.map((group) => group.reduce((sum, i) => sum + place(i), 0) / group.length);
  }
  const few = groups.some((group) => group.length < LEAST * told.length);
  if (few || cold - warm < APART) return null;
  const mean = (group: number[], of: Float32Array): number =>
    group.reduce((sum, i) => sum + of[i], 0) / group.length;
  return groups.map((group): Colour => [mean(group, red), mean(group, blue)]) as [Colour, Colour];
}
