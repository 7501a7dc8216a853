/** An ellipse, turned, with a soft rim. */
import type { Point } from '../../../math/frame-geometry.ts';
import { percent } from '../../../settings/percent-schema.ts';
import { point } from '../../../settings/point-schema.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { type Grid, cellsWithin, toCells } from '../../../picture/tile/grid.ts';
import { partSwitch } from './part-base.ts';

const radius = { type: 'number', minimum: 0.002, maximum: 3 } as const;

export const radialProperties = {
  centre: point,
  /** Half its length along its own axes, in field units. */
  across: radius,
  down: radius,
  angle: {
    type: 'number',
    default: 0,
    minimum: -180,
    maximum: 180,
    step: 1,
    unit: '°',
    label: 'Turn',
    description: 'Turns the ellipse clockwise.'
  },
  feather: percent('Feather', 50, 'Share of the way from the middle that the rim takes.'),
  outside: partSwitch('Outside of it', 'What lies outside of the ellipse is meant.')
} as const;

export interface Radial {
  centre: Point;
  across: number;
  down: number;
  angle: number;
  feather: number;
  outside: boolean;
}

export function drawRadial(
  { centre, across, down, angle, feather, outside }: Radial,
  grid: Grid,
  out: Float32Array
): void {
  const [cx, cy] = toCells(grid, centre);
  const [rx, ry] = [across * grid.unit, down * grid.unit];
  const turn = (angle * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  // A rim of a cell at least, so that there are no stairs.
  const inner = Math.max(0, Math.min(1 - feather / 100, 1 - 1 / Math.max(1, Math.min(rx, ry))));
  const [inside, beyond] = outside ? [0, 1] : [1, 0];
  out.fill(beyond);
  const reach = Math.max(rx, ry);
  const box = cellsWithin(grid, [cx, cy, cx, cy], reach);
  for (let y = box.top; y < box.bottom; y++)
    for (let x = box.left; x < box.right; x++) {
      const [px, py] = [x - cx, y - cy];
      const u = (px * cos + py * sin) / rx;
      const v = (py * cos - px * sin) / ry;
      const square = u * u + v * v;
      const at = y * grid.width + x;
      if (square >= 1) continue;
      if (square <= inner * inner) out[at] = inside;
      else {
        const gone = smoothstep(inner, 1, Math.sqrt(square));
        out[at] = outside ? gone : 1 - gone;
      }
    }
}
