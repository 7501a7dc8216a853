/** How far a sky follows the light and the colour of the one that it takes the place of. */
import { LUMINANCE_REC2020 } from '../../../colour/primaries.ts';

type Colour = readonly [number, number, number];

/** Light that counts as none. */
const SPECK = 1e-4;

const luminance = (colour: Colour): number =>
  LUMINANCE_REC2020.reduce((sum, weight, c) => sum + weight * colour[c], 0);

/** A sky that took all of another's colour would be that one again: it follows so far. */
const OF_COLOUR = 0.25;

/** Gains of red, green and blue, by the mean light of both; `match` is 0..1. */
export function matchingGains(old: Colour, sky: Colour, match: number): [number, number, number] {
  const [before, after] = [old, sky].map((of) => Math.max(SPECK, luminance(of)));
  const gains = old.map((value, c) => {
    const ratio = Math.max(SPECK, value / before) / Math.max(SPECK, sky[c] / after);
    return ratio ** (OF_COLOUR * match);
  }) as [number, number, number];
  // Its colour changes without its luminance.
  const toned = luminance(sky.map((value, c) => value * gains[c]) as unknown as Colour);
  const level = (before / after) ** match * (after / Math.max(SPECK, toned));
  return gains.map((gain) => gain * level) as [number, number, number];
}
