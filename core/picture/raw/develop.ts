/**
 * Sensor values to a linear picture, a band of rows at a time: black level, white balance, hot pixels, clipped sites,
 * demosaicing, orientation. Light above white is kept (`../tile/highlights.ts` says how).
 *
 * Demosaicing: green less the other colour is estimated along lines and along columns (Hamilton & Adams 1997) and smoothed;
 * each direction's best estimate follows from the variances about it, and both are weighed by how sure they are: directional
 * linear minimum mean square error (Zhang & Wu 2005). Red and blue follow by interpolating their difference from green.
 * All of it is done under a root, in which noise is alike at every light, an edge of four stops is not ten times as high as
 * one of two, and differences of colours hold over shadow and sun. White balance comes first, so that they are small in
 * neutral parts. What means of roots lose of noisy light is given back (`mosaic-root.ts`): shadows would turn.
 *
 * Clipped sites are first rebuilt from those of the other colours about them that did not clip. After white balance a grey
 * surface has the same value at every site, but the colours clip at different ones (at their multipliers): green first, as a
 * rule, and what is left of red and blue would be pink. A clipped site is raised to what its neighbours of the other colours
 * say; where all are clipped, to the highest level, which is neutral. It is never lowered, so that a blue sky in which blue
 * alone clips stays blue. All weights are smooth: there is no step at a border.
 *
 * Where the lens lays red and blue beside green, differences would draw the colours' edges together by about a third of the
 * offset, and a later correction would overdo it. The mosaic's guide says where they lie: green is then estimated from red as it
 * would look at green's size, and red compared with green as it would look at red's, and stays where the lens put it.
 */
import { inArena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { type Lateral, lateralShift } from '../../optics/lens-model.ts';
import { type Planes, addresses } from '../tile/planes.ts';
import type { Mosaic } from './mosaic.ts';
import { withMosaic } from './with-mosaic.ts';

/** Largest shift of the guide, in pixels, that there is room for. */
const MOST_SHIFT = 4;
/** Numbers that say a colour's size. */
const SIZE_TERMS = 8;

/** The guide, where it moves anything by more than a tenth of a pixel. */
function usefulGuide({ lateral, width, height }: Mosaic): Lateral | null {
  if (!lateral) return null;
  const unit = Math.hypot(width, height) / 2;
  const most = (sizes: readonly number[]): number =>
    Math.max(...[0.5, 0.75, 1].map((r) => Math.abs(lateralShift(sizes, r)) * r * unit));
  const furthest = Math.max(most(lateral.red), most(lateral.blue));
  return furthest < 0.1 || furthest > MOST_SHIFT ? null : lateral;
}

export interface DevelopOptions {
  /** Ends at white: for what is measured on charts, where light above it would outweigh what lies beside it. */
  clip?: boolean;
}

/**
 * Fills the linear planes of the oriented picture from mosaic rows [from, to). Bands may be done in any order
 * and by several threads: each writes its own pixels only.
 */
export function developBand(
  mosaic: Mosaic,
  out: Planes,
  from: number,
  to: number,
  { clip = false }: DevelopOptions = {}
): void {
  const guide = usefulGuide(mosaic);
  inArena((arena) => {
    const sizes = guide && arena.float64(2 * SIZE_TERMS).fill(0);
    sizes?.set(guide!.red);
    sizes?.set(guide!.blue, SIZE_TERMS);
    const at = sizes ? addressOf(sizes) : 0;
    const most = clip ? 1 : Infinity;
    withMosaic(mosaic, ({ developRows }) => developRows(...addresses(out), mosaic.turns, most, at, from, to));
  });
}
