import type { Point } from '../camera/frame-geometry.ts';

/** Points along an edge that should be straight; field positions as the glass put them. */
export interface Curve {
  id: string;
  points: Point[];
}
