import type { Lateral } from '../../optics/lens-model.ts';
import type { Noise } from '../../optics/noise.ts';

/** Colour of a mosaic site: 0 red, 1 green, 2 blue. */
export type SiteColour = 0 | 1 | 2;

/** How the stored picture is turned to stand upright: clockwise quarter turns. */
export type QuarterTurns = 0 | 1 | 2 | 3;

/** Sensor values of a Bayer sensor with all that is needed to make a linear picture of them. */
export interface Mosaic {
  data: Uint16Array;
  /** Values per stored row. */
  stride: number;
  /** Active area within the stored values. */
  left: number;
  top: number;
  width: number;
  height: number;
  /** Colours of the active area's first 2 x 2 sites, row by row. */
  pattern: readonly [SiteColour, SiteColour, SiteColour, SiteColour];
  black: number;
  white: number;
  /** White balance multipliers of red, green and blue; the smallest is 1. */
  multipliers: readonly [number, number, number];
  /** Sizes of the red and blue pictures against the green one, where they were measured: a guide for demosaicing. */
  lateral?: Lateral | null;
  /** Of its values, where it was measured. */
  noise?: Noise | null;
  turns: QuarterTurns;
}

/** Size of the oriented picture. */
export function orientedSize(mosaic: Pick<Mosaic, 'width' | 'height' | 'turns'>): {
  width: number;
  height: number;
} {
  return mosaic.turns % 2 === 0
    ? { width: mosaic.width, height: mosaic.height }
    : { width: mosaic.height, height: mosaic.width };
}
