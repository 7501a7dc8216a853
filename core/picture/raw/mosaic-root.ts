import type { Mosaic } from './mosaic.ts';

/** What a colour loses by the root: times light and floor it is `dark` where there is no light, and more by light times `light`. */
export interface RootLoss {
  dark: number;
  light: number;
}

/** The root under which a mosaic's colours are compared. */
export interface MosaicRoot {
  /** Added under the root. */
  floor: number;
  red: RootLoss;
  blue: RootLoss;
}

const LEAST_FLOOR = 0.001;
/** The floor in deviations of the noisiest colour's dark: a root of less is so bent that noise of both signs is another colour. */
const FLOOR_DEVIATIONS = 2.5;

/**
 * Colours that a site does not see are means of roots of several sites: less than the mean of their light by the variance of
 * the roots, as far as averaging took that out. In balanced light that turned shadows of high ISO, since balance multiplies
 * the noise of one colour more than that of the other. How much of its variance each colour loses was measured on developed
 * greys: less than all, since the noise of the colours that it is interpolated by comes in; green, which half of the sites see,
 * hardly any.
 */
export function mosaicRoot({ noise, multipliers }: Pick<Mosaic, 'noise' | 'multipliers'>): MosaicRoot {
  const { gain, read } = noise ?? { gain: 0, read: 0 };
  const [r, g, b] = multipliers;
  const most = Math.max(r, g, b);
  const loss = (own: number, other: number): RootLoss => {
    const share = 0.64 - (0.26 * g + 0.1 * other) / own;
    return { dark: (share * (own * read) ** 2) / 4, light: (share * own * gain) / 4 };
  };
  return {
    floor: Math.max(LEAST_FLOOR, FLOOR_DEVIATIONS * most * read),
    red: loss(r, b),
    blue: loss(b, r)
  };
}
