/** A gradient: all at one line, nothing at another, and a ramp between. */
import type { Point } from '../../../math/frame-geometry.ts';
import { percent } from '../../../settings/percent-schema.ts';
import { point } from '../../../settings/point-schema.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { type Grid, toCells } from '../../../picture/tile/grid.ts';
import { partSwitch } from './part-base.ts';

export const gradientProperties = {
  /** Where it is whole, and where it is gone; of a two-sided one the middle, and where it is gone on both sides. */
  a: point,
  b: point,
  twoSided: partSwitch('To both sides', 'Whole along a line, and gone to both sides of it.'),
  softness: percent('Softness', 100, 'Share of the way that the ramp takes; at 0 it is a hard edge half-way.')
} as const;

export interface Gradient {
  a: Point;
  b: Point;
  twoSided: boolean;
  softness: number;
}

/** Steepest ramp, in cells: a hard edge without stairs. */
const LEAST_RAMP = 1;

export function drawGradient({ a, b, twoSided, softness }: Gradient, grid: Grid, out: Float32Array): void {
  const [ax, ay] = toCells(grid, a);
  const [bx, by] = toCells(grid, b);
  const length = Math.max(1e-6, Math.hypot(bx - ax, by - ay));
  const [dx, dy] = [(bx - ax) / length ** 2, (by - ay) / length ** 2];
  const half = Math.max(softness / 200, LEAST_RAMP / 2 / length);
  const [from, to] = [0.5 - half, 0.5 + half];
  for (let y = 0; y < grid.height; y++) {
    let t = (0 - ax) * dx + (y - ay) * dy;
    const row = y * grid.width;
    for (let x = 0; x < grid.width; x++, t += dx) {
      const away = twoSided && t < 0 ? -t : t;
      out[row + x] = away <= from ? 1 : away >= to ? 0 : 1 - smoothstep(from, to, away);
    }
  }
}
