/** What lies to one side of a line, however long the line is drawn. */
import type { Point } from '../../../math/frame-geometry.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { percent } from '../../../settings/percent-schema.ts';
import { point } from '../../../settings/point-schema.ts';
import { type Grid, toCells } from '../../../picture/tile/grid.ts';

export const SIDES = ['left', 'right', 'above', 'below'] as const;
export type Side = (typeof SIDES)[number];

export const besideProperties = {
  a: point,
  b: point,
  side: { enum: SIDES, default: 'above', label: 'Side', description: 'Which side of the line is meant.' },
  feather: percent(
    'Feather',
    4,
    'How soft its edge is: at 100 % over half of the way from the middle of the frame to its corner.'
  )
} as const;

export interface Beside {
  a: Point;
  b: Point;
  side: Side;
  feather: number;
}

const WIDEST = 0.5;

export function drawBeside({ a, b, side, feather }: Beside, grid: Grid, out: Float32Array): void {
  const [ax, ay] = toCells(grid, a);
  const [bx, by] = toCells(grid, b);
  const length = Math.max(1e-6, Math.hypot(bx - ax, by - ay));
  // Across the line, towards the side that is meant.
  let [nx, ny] = [(by - ay) / length, (ax - bx) / length];
  const towards = { left: -nx, right: nx, above: -ny, below: ny }[side];
  if (towards < 0) [nx, ny] = [-nx, -ny];
  const half = Math.max(0.5, ((feather / 100) * WIDEST * grid.unit) / 2);
  for (let y = 0; y < grid.height; y++)
    for (let x = 0; x < grid.width; x++)
      out[y * grid.width + x] = smoothstep(-half, half, (x - ax) * nx + (y - ay) * ny);
}
