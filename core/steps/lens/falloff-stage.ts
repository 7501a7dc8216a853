/** Gains that undo the lens's falloff, colour by colour, at each pixel's place on the frame. */
import type { Arena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { fieldNodes } from '../../picture/tile/mesh.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { Tile } from '../../picture/tile/tile.ts';
import { type Falloff, falloffGains } from '../../optics/falloff.ts';

interface Given {
  plan: { falloff: Falloff | null };
}

/** Gains of the three colours at every node of the mesh; they are smooth, and bilinear in between like the map itself. */
export function gainNodes({ mesh, size }: Tile, falloff: Falloff, arena: Arena): Float32Array[] {
  const unit = halfDiagonal(size);
  const [halfWidth, halfHeight] = [size.width / 2 / unit, size.height / 2 / unit];
  const gains = [0, 1, 2].map(() => arena.float32(mesh.x.length).fill(1));
  const field = fieldNodes(mesh, size);
  const out = new Float64Array(3);
  for (let i = 0; i < mesh.x.length; i++) {
    if (Number.isNaN(field.x[i])) continue;
    falloffGains(falloff, field.x[i], field.y[i], halfWidth, halfHeight, out);
    for (let c = 0; c < 3; c++) gains[c][i] = out[c];
  }
  return gains;
}

/** Gains below this are of no picture. */
const LEAST_GAIN = 1e-3;

/** Address of the stops that the correction adds to green at every node of the mesh; 0 where there is none. */
export function gainedNodes(tile: Tile, falloff: Falloff | null, arena: Arena): number {
  if (!falloff) return 0;
  const [, green] = gainNodes(tile, falloff, arena);
  const stops = arena.float32(green.length);
  for (let i = 0; i < stops.length; i++) stops[i] = Math.log2(Math.max(LEAST_GAIN, green[i]));
  return addressOf(stops);
}

export const falloffStage: PixelStage<'falloff', Given, Falloff> = {
  name: 'falloff',
  kind: 'pixel',
  prepare: ({ plan }) => plan.falloff,
  begin(tile, falloff, arena) {
    const gains = gainNodes(tile, falloff, arena).map(addressOf);
    const { columns, step } = tile.mesh;
    const { multiplyBetween } = kernels();
    return (rows) => {
      addresses(rows).forEach((plane, c) => {
        for (let row = 0; row < rows.height; row++)
          multiplyBetween(
            plane + row * rows.width * 4,
            rows.width,
            gains[c],
            columns,
            step,
            rows.top + row,
            rows.left
          );
      });
    };
  }
};
