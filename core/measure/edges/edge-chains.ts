/**
 * Edges of a picture as chains of places: gradient maxima (Canny 1986) placed to a fraction of a pixel and linked along
 * their direction.
 */
import type { Point } from '../../math/frame-geometry.ts';
import type { GreyPlane } from './trace-polyline.ts';

/** Places in a chain, at least. */
export const SHORTEST_CHAIN = 14;

/** Square roots even out light and shade, as the eye does; then a small Gaussian against noise. */
function smoothed({ width, height, data }: GreyPlane): Float32Array {
  const root = data.map((value) => Math.sqrt(Math.max(0, value)));
  const kernel = [0.0614, 0.2448, 0.3877, 0.2448, 0.0614];
  const across = new Float32Array(root.length);
  const out = new Float32Array(root.length);
  for (let y = 0; y < height; y++) {
    for (let x = 2; x < width - 2; x++) {
      const at = y * width + x;
      let sum = 0;
      for (let k = -2; k <= 2; k++) sum += kernel[k + 2] * root[at + k];
      across[at] = sum;
    }
  }
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      const at = y * width + x;
      let sum = 0;
      for (let k = -2; k <= 2; k++) sum += kernel[k + 2] * across[at + k * width];
      out[at] = sum;
    }
  }
  return out;
}

interface EdgeField {
  width: number;
  height: number;
  /** 1 where a pixel holds an edge. */
  on: Uint8Array;
  /** Place of the edge, and the direction of its gradient. */
  x: Float32Array;
  y: Float32Array;
  gx: Float32Array;
  gy: Float32Array;
}

/** Change of the square root of light over two pixels that makes an edge. */
const EDGE = 0.035;

function edgeField(plane: GreyPlane): EdgeField {
  const { width, height } = plane;
  const grey = smoothed(plane);
  const size = width * height;
  const gx = new Float32Array(size);
  const gy = new Float32Array(size);
  const strength = new Float32Array(size);
  for (let y = 4; y < height - 4; y++) {
    for (let x = 4; x < width - 4; x++) {
      const at = y * width + x;
      gx[at] = grey[at + 1] - grey[at - 1];
      gy[at] = grey[at + width] - grey[at - width];
      strength[at] = Math.hypot(gx[at], gy[at]);
    }
  }
  const field: EdgeField = {
    width,
    height,
    on: new Uint8Array(size),
    x: new Float32Array(size),
    y: new Float32Array(size),
    gx,
    gy
  };
  for (let y = 5; y < height - 5; y++) {
    for (let x = 5; x < width - 5; x++) {
      const at = y * width + x;
      const m = strength[at];
      if (m < EDGE) continue;
      const steep = Math.abs(gx[at]) >= Math.abs(gy[at]);
      // Along the gradient, one pixel on in its main direction.
      const slant = steep ? gy[at] / gx[at] : gx[at] / gy[at];
      const along = steep ? 1 : width;
      const side = (steep ? width : 1) * Math.sign(slant);
      const f = Math.abs(slant);
      const ahead = strength[at + along] * (1 - f) + strength[at + along + side] * f;
      const behind = strength[at - along] * (1 - f) + strength[at - along - side] * f;
      if (m < ahead || m <= behind) continue;
      const offset = Math.max(-0.5, Math.min(0.5, (0.5 * (ahead - behind)) / (2 * m - ahead - behind || 1)));
      field.on[at] = 1;
      field.x[at] = x + 0.5 + offset * (steep ? 1 : slant);
      field.y[at] = y + 0.5 + offset * (steep ? slant : 1);
    }
  }
  return field;
}

/** Cosine of the largest turn between neighbours of a chain. */
const LARGEST_TURN = Math.cos((24 * Math.PI) / 180);

/** Follows an edge from a pixel to one side until it ends or turns. */
function follow(field: EdgeField, start: number, side: 1 | -1, used: Uint8Array): Point[] {
  const { width, on, x, y, gx, gy } = field;
  const points: Point[] = [];
  let at = start;
  for (;;) {
    const norm = Math.hypot(gx[at], gy[at]);
    const tx = (-gy[at] / norm) * side;
    const ty = (gx[at] / norm) * side;
    let next = -1;
    let best = 0;
    for (let dy = -2; dy <= 2; dy++) {
      for (let dx = -2; dx <= 2; dx++) {
        const other = at + dy * width + dx;
        if (other === at || !on[other] || used[other]) continue;
        const ox = x[other] - x[at];
        const oy = y[other] - y[at];
        const distance = Math.hypot(ox, oy);
        if (distance === 0 || distance > 2.3) continue;
        const ahead = (ox * tx + oy * ty) / distance;
        const alike = (gx[at] * gx[other] + gy[at] * gy[other]) / (norm * Math.hypot(gx[other], gy[other]));
        if (ahead < 0.8 || alike < LARGEST_TURN) continue;
        const score = (ahead * alike) / (1 + 0.3 * distance);
        if (score > best) {
          best = score;
          next = other;
        }
      }
    }
    if (next < 0) return points;
    used[next] = 1;
    points.push([x[next], y[next]]);
    at = next;
  }
}

/** All chains of a plane, in its pixels, in order along each edge. */
export function edgeChains(plane: GreyPlane): Point[][] {
  const field = edgeField(plane);
  const used = new Uint8Array(field.on.length);
  const chains: Point[][] = [];
  for (let at = 0; at < field.on.length; at++) {
    if (!field.on[at] || used[at]) continue;
    used[at] = 1;
    const ahead = follow(field, at, 1, used);
    const behind = follow(field, at, -1, used);
    const chain: Point[] = [...behind.reverse(), [field.x[at], field.y[at]], ...ahead];
    if (chain.length >= SHORTEST_CHAIN) chains.push(chain);
  }
  return chains;
}
