/** Gains that undo the lens's falloff, colour by colour, at each pixel's place on the frame. */
import { halfDiagonal } from '../math/frame-geometry.ts';
import { type PixelStage, fieldOf } from '../tile/tile.ts';
import { type Falloff, falloffGains } from './falloff.ts';

interface Given {
  plan: { falloff: Falloff | null };
}

/** Squared radii at which the gains are tabulated; they are smooth. */
const STEPS = 1024;
const FURTHEST = 1.05;

export const falloffStage: PixelStage<'falloff', Given, Falloff> = {
  name: 'falloff',
  kind: 'pixel',
  prepare: ({ plan }) => plan.falloff,
  begin(tile, falloff) {
    const unit = halfDiagonal(tile.size);
    const [halfWidth, halfHeight] = [tile.size.width / 2 / unit, tile.size.height / 2 / unit];
    const [cx, cy] = falloff.centre;
    const gains = [0, 1, 2].map(() => new Float32Array(STEPS + 2));
    const out = new Float64Array(3);
    const map = falloff.shading?.map;
    // The radius alone gives a table; what stands in a map of the frame is looked up beside it.
    const radial: Falloff = map ? { ...falloff, shading: { ...falloff.shading!, map: null } } : falloff;
    const mapped: Falloff = { ...falloff, corner: 0, shading: { terms: [], map } };
    for (let i = 0; i < STEPS + 2; i++) {
      falloffGains(radial, cx + Math.sqrt((i / STEPS) * FURTHEST), cy, halfWidth, halfHeight, out);
      for (let c = 0; c < 3; c++) gains[c][i] = out[c];
    }
    const [red, green, blue] = gains;
    return (rows) => {
      const { r, g, b, valid } = rows;
      const field = fieldOf(tile, rows);
      for (let i = 0; i < r.length; i++) {
        if (valid[i] === 0) continue;
        const dx = field.x[i] - cx;
        const dy = field.y[i] - cy;
        const position = (Math.min(FURTHEST, dx * dx + dy * dy) / FURTHEST) * STEPS;
        const at = position | 0;
        const share = position - at;
        r[i] *= red[at] + (red[at + 1] - red[at]) * share;
        g[i] *= green[at] + (green[at + 1] - green[at]) * share;
        b[i] *= blue[at] + (blue[at + 1] - blue[at]) * share;
        if (!map) continue;
        falloffGains(mapped, field.x[i], field.y[i], halfWidth, halfHeight, out);
        r[i] *= out[0];
        g[i] *= out[1];
        b[i] *= out[2];
      }
    };
  }
};
