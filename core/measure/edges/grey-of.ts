import type { Planes } from '../../picture/tile/planes.ts';
import type { GreyPlane } from './trace-polyline.ts';

/**
 * What edges are looked for on: green, which has most sites, up to white. A window's edge lies where half of it is white; by the
 * light above white it would lie outside of the glass.
 */
export const greyOf = ({ width, height, g }: Pick<Planes, 'width' | 'height' | 'g'>): GreyPlane => ({
  width,
  height,
  data: g.map((value) => Math.min(1, value))
});
