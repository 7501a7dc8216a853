/**
 * Corners of a chessboard, or crossings of a line grid, in a picture: candidates where the second derivatives say saddle
 * (or dark crossing), checked on a circle about them, and refined so that all gradients about a corner point past it
 * (Förstner & Gülch 1987).
 */
import type { Point } from '../../math/frame-geometry.ts';
import { type GreyPlane, valueAt } from '../edges/trace-polyline.ts';

export type ChartKind = 'chessboard' | 'lines';

export interface Corner {
  at: Point;
  /** Unit directions of the two edges (or lines) through the corner. */
  directions: [Point, Point];
}

/** Long edges, in pixels, at which candidates are sought, one after the other: lines of a grid may be thin or thick. */
export const SEARCH_EDGES = [1200, 700, 420] as const;
const CIRCLE = 32;

/** The plane reduced by whole steps, with square roots of light, and the reduction. */
function reduced({ width, height, data }: GreyPlane, edge: number): { plane: GreyPlane; by: number } {
  const by = Math.max(1, Math.round(Math.max(width, height) / edge));
  const w = Math.floor(width / by);
  const h = Math.floor(height / by);
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let j = 0; j < by; j++)
        for (let i = 0; i < by; i++) sum += data[(y * by + j) * width + x * by + i];
      out[y * w + x] = Math.sqrt(Math.max(0, sum / (by * by)));
    }
  }
  return { plane: { width: w, height: h, data: out }, by };
}

/** Three passes of a 3-pixel mean in each direction: near enough a Gaussian of 1.4 pixels. */
function blurred({ width, height, data }: GreyPlane): Float32Array {
  let from = data;
  for (let pass = 0; pass < 3; pass++) {
    const across = new Float32Array(from.length);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = y * width + x;
        across[at] = (from[x > 0 ? at - 1 : at] + from[at] + from[x < width - 1 ? at + 1 : at]) / 3;
      }
    }
    const down = new Float32Array(from.length);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = y * width + x;
        down[at] =
          (across[y > 0 ? at - width : at] + across[at] + across[y < height - 1 ? at + width : at]) / 3;
      }
    }
    from = down;
  }
  return from;
}

/** Response of each pixel to a saddle (chessboard) or to a dark crossing (lines). */
function responses({ width, height }: GreyPlane, grey: Float32Array, kind: ChartKind): Float32Array {
  const out = new Float32Array(grey.length);
  for (let y = 3; y < height - 3; y++) {
    for (let x = 3; x < width - 3; x++) {
      const at = y * width + x;
      const xx = grey[at + 2] - 2 * grey[at] + grey[at - 2];
      const yy = grey[at + 2 * width] - 2 * grey[at] + grey[at - 2 * width];
      const xy =
        (grey[at + 2 + 2 * width] -
          grey[at - 2 + 2 * width] -
          grey[at + 2 - 2 * width] +
          grey[at - 2 - 2 * width]) /
        4;
      const determinant = xx * yy - xy * xy;
      out[at] =
        kind === 'chessboard' ? Math.max(0, -determinant) : xx + yy > 0 ? Math.max(0, determinant) : 0;
    }
  }
  return out;
}

/** Looks round a circle: a chessboard corner changes sides four times, evenly; a crossing shows four dark arms. */
function checkCircle(plane: GreyPlane, at: Point, radius: number, kind: ChartKind): [Point, Point] | null {
  const values = Array.from({ length: CIRCLE }, (_, i) => {
    const angle = (2 * Math.PI * i) / CIRCLE;
    return valueAt(plane, at[0] + radius * Math.cos(angle), at[1] + radius * Math.sin(angle));
  });
  const low = Math.min(...values);
  const high = Math.max(...values);
  if (high - low < 0.08) return null;
  const middle = (low + high) / 2;
  const bright = values.map((value) => value > middle);
  const changes: number[] = [];
  for (let i = 0; i < CIRCLE; i++) {
    const next = (i + 1) % CIRCLE;
    if (bright[i] === bright[next]) continue;
    changes.push(i + (middle - values[i]) / (values[next] - values[i]));
  }
  const direction = (turn: number): Point => {
    const angle = (2 * Math.PI * turn) / CIRCLE;
    return [Math.cos(angle), Math.sin(angle)];
  };
  if (kind === 'chessboard') {
    if (changes.length !== 4) return null;
    const arcs = changes.map((c, i) => ((changes[(i + 1) % 4] - c + CIRCLE) % CIRCLE) / CIRCLE);
    // Opposite sectors are alike, and none is a sliver.
    if (Math.min(...arcs) < 0.08 || Math.abs(arcs[0] - arcs[2]) > 0.12 || Math.abs(arcs[1] - arcs[3]) > 0.12)
      return null;
    return [
      direction((changes[0] + changes[2] - CIRCLE / 2) / 2),
      direction((changes[1] + changes[3] - CIRCLE / 2) / 2)
    ];
  }
  if (changes.length !== 8) return null;
  const arms: number[] = [];
  changes.forEach((c, i) => {
    const next = changes[(i + 1) % 8];
    const width = (next - c + CIRCLE) % CIRCLE;
    const centre = (c + width / 2) % CIRCLE;
    if (!bright[Math.round(centre) % CIRCLE]) arms.push(centre);
  });
  if (arms.length !== 4) return null;
  arms.sort((a, b) => a - b);
  if (Math.abs(arms[2] - arms[0] - CIRCLE / 2) > 4 || Math.abs(arms[3] - arms[1] - CIRCLE / 2) > 4)
    return null;
  return [direction(arms[0]), direction(arms[1])];
}

/** The place that all gradients of a window point past; null when it wanders off. */
export function refineCorner(plane: GreyPlane, start: Point, radius: number): Point | null {
  let [cx, cy] = start;
  for (let round = 0; round < 12; round++) {
    let [a, b, c, u, v] = [0, 0, 0, 0, 0];
    const reach = Math.ceil(radius);
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        const distance2 = dx * dx + dy * dy;
        if (distance2 > radius * radius) continue;
        const x = cx + dx;
        const y = cy + dy;
        const gx = valueAt(plane, x + 1, y) - valueAt(plane, x - 1, y);
        const gy = valueAt(plane, x, y + 1) - valueAt(plane, x, y - 1);
        const weight = Math.exp((-2 * distance2) / (radius * radius));
        a += weight * gx * gx;
        b += weight * gx * gy;
        c += weight * gy * gy;
        u += weight * gx * (gx * dx + gy * dy);
        v += weight * gy * (gx * dx + gy * dy);
      }
    }
    const determinant = a * c - b * b;
    if (determinant < 1e-4 * (a + c) ** 2) return null;
    const mx = (c * u - b * v) / determinant;
    const my = (a * v - b * u) / determinant;
    cx += mx;
    cy += my;
    if (Math.hypot(cx - start[0], cy - start[1]) > radius * 1.5) return null;
    if (Math.hypot(mx, my) < 1e-3) break;
  }
  return [cx, cy];
}

/** Corners of one kind, strongest first, placed to a fraction of a pixel of the given plane. */
export function findCorners(
  source: GreyPlane,
  kind: ChartKind,
  edge: number = SEARCH_EDGES[0],
  most = 3000
): Corner[] {
  const { plane, by } = reduced(source, edge);
  const response = responses(plane, blurred(plane), kind);
  const { width, height } = plane;
  const candidates: { x: number; y: number; value: number }[] = [];
  for (let y = 8; y < height - 8; y++) {
    for (let x = 8; x < width - 8; x++) {
      const value = response[y * width + x];
      if (value < 2e-5) continue;
      let greatest = true;
      for (let dy = -3; dy <= 3 && greatest; dy++)
        for (let dx = -3; dx <= 3; dx++)
          if (response[(y + dy) * width + x + dx] > value) {
            greatest = false;
            break;
          }
      if (greatest) candidates.push({ x, y, value });
    }
  }
  candidates.sort((a, b) => b.value - a.value);
  const corners: Corner[] = [];
  for (const { x, y } of candidates.slice(0, most)) {
    const rough = refineCorner(plane, [x + 0.5, y + 0.5], 4);
    if (!rough) continue;
    const directions = checkCircle(plane, rough, kind === 'chessboard' ? 5 : 6, kind);
    if (!directions) continue;
    const at = refineCorner(
      source,
      [rough[0] * by, rough[1] * by],
      Math.max(4, (kind === 'lines' ? 7 : 3.5) * by)
    );
    if (!at || corners.some((other) => Math.hypot(other.at[0] - at[0], other.at[1] - at[1]) < 4 * by))
      continue;
    corners.push({ at, directions });
  }
  return corners;
}
