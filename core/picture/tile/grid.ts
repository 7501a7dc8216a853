/** Cells over a whole frame, in field coordinates: what masks, light and glow are drawn on. */
import type { FrameSize, Point } from '../../math/frame-geometry.ts';

export interface Grid extends FrameSize {
  /** Cells to one field unit. */
  unit: number;
}

/** A grid of a frame's shape with so many cells along its longer edge, and never more than the frame has pixels. */
export function gridOf({ width, height }: FrameSize, longEdge: number): Grid {
  const share = Math.min(1, longEdge / Math.max(width, height));
  const size = {
    width: Math.max(2, Math.round(width * share)),
    height: Math.max(2, Math.round(height * share))
  };
  return { ...size, unit: Math.hypot(size.width, size.height) / 2 };
}

/** Where a field position lies in cells; the middle of the first is 0. */
export const toCells = ({ width, height, unit }: Grid, [x, y]: Point): Point => [
  x * unit + width / 2 - 0.5,
  y * unit + height / 2 - 0.5
];

/** The cells that lie within a distance of a rectangle, as far as there are any: [from, to) across and down. */
export function cellsWithin(
  { width, height }: FrameSize,
  [left, top, right, bottom]: readonly [number, number, number, number],
  reach: number
): { left: number; top: number; right: number; bottom: number } {
  const bounded = (value: number, most: number): number => Math.min(most, Math.max(0, value));
  return {
    left: bounded(Math.floor(left - reach), width),
    top: bounded(Math.floor(top - reach), height),
    right: bounded(Math.ceil(right + reach) + 1, width),
    bottom: bounded(Math.ceil(bottom + reach) + 1, height)
  };
}
