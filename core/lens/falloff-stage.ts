/** Gains that undo the lens's falloff, colour by colour, at each pixel's place on the frame. */
import { halfDiagonal } from '../math/frame-geometry.ts';
import { fieldNodes, meshRow } from '../tile/mesh.ts';
import type { PixelStage, Tile } from '../tile/tile.ts';
import { type Falloff, falloffGains } from './falloff.ts';

interface Given {
  plan: { falloff: Falloff | null };
}

/** Gains of the three colours at every node of the mesh; they are smooth, and bilinear in between like the map itself. */
function gainNodes({ mesh, size }: Tile, falloff: Falloff): Float32Array[] {
  const unit = halfDiagonal(size);
  const [halfWidth, halfHeight] = [size.width / 2 / unit, size.height / 2 / unit];
  const gains = [0, 1, 2].map(() => new Float32Array(mesh.x.length).fill(1));
  const field = fieldNodes(mesh, size);
  const out = new Float64Array(3);
  for (let i = 0; i < mesh.x.length; i++) {
    if (Number.isNaN(field.x[i])) continue;
    falloffGains(falloff, field.x[i], field.y[i], halfWidth, halfHeight, out);
    for (let c = 0; c < 3; c++) gains[c][i] = out[c];
  }
  return gains;
}

export const falloffStage: PixelStage<'falloff', Given, Falloff> = {
  name: 'falloff',
  kind: 'pixel',
  prepare: ({ plan }) => plan.falloff,
  begin(tile, falloff) {
    const gains = gainNodes(tile, falloff);
    const gain = new Float32Array(tile.width);
    return ({ r, g, b, width, height, top, left }) => {
      [r, g, b].forEach((plane, c) => {
        for (let row = 0; row < height; row++) {
          meshRow(tile.mesh, gains[c], top + row, left, width, gain);
          const at = row * width;
          for (let x = 0; x < width; x++) plane[at + x] *= gain[x];
        }
      });
    };
  }
};
