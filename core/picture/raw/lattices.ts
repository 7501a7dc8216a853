/**
 * A mosaic as four pictures of half its size, one for each place in its 2 x 2 pattern: every value stays where its site lies.
 * A reduction of the picture is made of them without demosaicing, each colour from its own place.
 */
import { addressOf, giveBack, takeFloat32, takenTogether } from '../kernels/heap.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { type Mosaic, type SiteColour, orientedSize } from './mosaic.ts';
import { withMosaic } from './with-mosaic.ts';

type Four<T> = readonly [T, T, T, T];

export interface Lattices {
  /** Size of the upright picture, and of each of the four. */
  size: FrameSize;
  width: number;
  height: number;
  /** Colours of the upright picture's first 2 x 2 sites, row by row, and the values of each; above white they are folded. */
  colours: Four<SiteColour>;
  planes: Four<Float32Array>;
}

/** Colour of a site of the upright picture. */
function uprightColour({ pattern, width, height, turns }: Mosaic, x: number, y: number): SiteColour {
  const [sx, sy] = [
    [x, y],
    [y, height - 1 - x],
    [width - 1 - x, height - 1 - y],
    [width - 1 - y, x]
  ][turns];
  return pattern[(sy & 1) * 2 + (sx & 1)];
}

/** Memory for the lattices of a mosaic; `giveLatticesBack` frees it. */
export function takeLattices(mosaic: Mosaic): Lattices {
  const size = orientedSize(mosaic);
  const [width, height] = [size.width >> 1, size.height >> 1];
  return takenTogether((own) => {
    const plane = (): Float32Array => own(takeFloat32(width * height));
    return {
      size,
      width,
      height,
      colours: [
        uprightColour(mosaic, 0, 0),
        uprightColour(mosaic, 1, 0),
        uprightColour(mosaic, 0, 1),
        uprightColour(mosaic, 1, 1)
      ],
      planes: [plane(), plane(), plane(), plane()]
    };
  });
}

export const giveLatticesBack = ({ planes }: Lattices): void => giveBack(...planes);

/** Fills the lattices from mosaic rows [from, to): balanced, without hot pixels, clipped sites rebuilt. */
export function splitBand(
  mosaic: Mosaic,
  { planes, width, height }: Lattices,
  from: number,
  to: number
): void {
  const [nw, ne, sw, se] = planes.map(addressOf);
  withMosaic(mosaic, ({ splitRows }) => splitRows(nw, ne, sw, se, mosaic.turns, width, height, from, to));
}
