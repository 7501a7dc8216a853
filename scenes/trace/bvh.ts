/** Bounding volume hierarchy over rectangles, in flat arrays for speed. */
import type { Quad } from './scene.ts';

export interface Hit {
  quad: number;
  distance: number;
  /** Place on the quad, in metres along its sides. */
  s: number;
  t: number;
}

export interface Bvh {
  bounds: Float32Array;
  /** First child (its sibling follows), or minus first item minus one for a leaf. */
  child: Int32Array;
  /** Axis along which a node's children were parted: the nearer one is looked into first. */
  axis: Uint8Array;
  count: Int32Array;
  items: Int32Array;
  /** 14 numbers per item, in the order of `items`: origin, u, v, normal, lengths. Single precision stays in cache. */
  data: Float32Array;
  /** For each item what of it is there (`Quad.covers`), where that is not all; undefined when no item has holes. */
  covers?: (((s: number, t: number) => boolean) | undefined)[];
}

const STRIDE = 14;
const LEAF = 3;
const PAD = 1e-5;

export function buildBvh(quads: readonly Quad[]): Bvh {
  const n = quads.length;
  const data = new Float32Array(n * STRIDE);
  const low = new Float64Array(n * 3);
  const high = new Float64Array(n * 3);
  quads.forEach((q, i) => {
    for (let axis = 0; axis < 3; axis++) {
      const du = q.u[axis] * q.lengthU;
      const dv = q.v[axis] * q.lengthV;
      low[i * 3 + axis] = q.origin[axis] + Math.min(0, du) + Math.min(0, dv) - PAD;
      high[i * 3 + axis] = q.origin[axis] + Math.max(0, du) + Math.max(0, dv) + PAD;
    }
  });
  const bounds = new Float32Array(Math.max(1, 2 * n) * 6);
  const child = new Int32Array(Math.max(1, 2 * n));
  const count = new Int32Array(Math.max(1, 2 * n));
  const axis = new Uint8Array(Math.max(1, 2 * n));
  const items = Int32Array.from({ length: n }, (_, i) => i);
  let used = 1;
  const area = (b: number[]): number => {
    const [x, y, z] = [b[3] - b[0], b[4] - b[1], b[5] - b[2]];
    return x * y + y * z + z * x;
  };
  const grow = (b: number[], i: number): void => {
    for (let axis = 0; axis < 3; axis++) {
      b[axis] = Math.min(b[axis], low[i * 3 + axis]);
      b[axis + 3] = Math.max(b[axis + 3], high[i * 3 + axis]);
    }
  };
  const none = (): number[] => [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  const split = (node: number, from: number, to: number): void => {
    const box = none();
    for (let i = from; i < to; i++) grow(box, items[i]);
    bounds.set(box, node * 6);
    let bestCost = (to - from) * area(box);
    let bestAxis = -1;
    let bestAt = 0;
    if (to - from > LEAF) {
      for (let axis = 0; axis < 3; axis++) {
        const part = items.subarray(from, to);
        part.sort((a, b) => low[a * 3 + axis] + high[a * 3 + axis] - low[b * 3 + axis] - high[b * 3 + axis]);
        const right = new Float64Array(to - from + 1);
        const back = none();
        for (let i = to - from - 1; i > 0; i--) {
          grow(back, part[i]);
          right[i] = area(back);
        }
        const front = none();
        for (let i = 1; i < to - from; i++) {
          grow(front, part[i - 1]);
          const cost = area(front) * i + right[i] * (to - from - i) + 0.5 * area(box);
          if (cost < bestCost) [bestCost, bestAxis, bestAt] = [cost, axis, i];
        }
      }
    }
    if (bestAxis < 0) {
      child[node] = -from - 1;
      count[node] = to - from;
      return;
    }
    items
      .subarray(from, to)
      .sort(
        (a, b) =>
          low[a * 3 + bestAxis] + high[a * 3 + bestAxis] - low[b * 3 + bestAxis] - high[b * 3 + bestAxis]
      );
    child[node] = used;
    axis[node] = bestAxis;
    used += 2;
    const left = child[node];
    split(left, from, from + bestAt);
    split(left + 1, from + bestAt, to);
  };
  if (n > 0) split(0, 0, n);
  items.forEach((index, i) => {
    const q = quads[index];
    data.set([...q.origin, ...q.u, ...q.v, ...q.normal, q.lengthU, q.lengthV], i * STRIDE);
  });
  const covers = quads.some((q) => q.covers) ? Array.from(items, (index) => quads[index].covers) : undefined;
  return { bounds, child, count, axis, items, data, covers };
}

const stack = new Int32Array(128);

/**
 * Nearest rectangle along a ray (direction need not be a unit vector), or false. With `any`, the first found
 * will do: enough for shadows.
 */
export function intersect(
  bvh: Bvh,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  hit: Hit,
  farthest: number,
  any: boolean
): boolean {
  const { bounds, child, count, axis, items, data, covers } = bvh;
  const ix = 1 / dx;
  const iy = 1 / dy;
  const iz = 1 / dz;
  let nearest = farthest;
  let found = false;
  let top = 0;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    const b = node * 6;
    let t0 = (bounds[b] - ox) * ix;
    let t1 = (bounds[b + 3] - ox) * ix;
    let enter = t0 < t1 ? t0 : t1;
    let leave = t0 < t1 ? t1 : t0;
    t0 = (bounds[b + 1] - oy) * iy;
    t1 = (bounds[b + 4] - oy) * iy;
    if (t0 > t1) {
      const swap = t0;
      t0 = t1;
      t1 = swap;
    }
    if (t0 > enter) enter = t0;
    if (t1 < leave) leave = t1;
    t0 = (bounds[b + 2] - oz) * iz;
    t1 = (bounds[b + 5] - oz) * iz;
    if (t0 > t1) {
      const swap = t0;
      t0 = t1;
      t1 = swap;
    }
    if (t0 > enter) enter = t0;
    if (t1 < leave) leave = t1;
    if (!(leave >= enter) || leave < 0 || enter > nearest) continue;
    const first = child[node];
    if (first > 0) {
      const along = axis[node] === 0 ? dx : axis[node] === 1 ? dy : dz;
      stack[top++] = along > 0 ? first + 1 : first;
      stack[top++] = along > 0 ? first : first + 1;
      continue;
    }
    const from = -first - 1;
    const to = from + count[node];
    for (let i = from; i < to; i++) {
      const q = i * STRIDE;
      const nx = data[q + 9];
      const ny = data[q + 10];
      const nz = data[q + 11];
      const facing = nx * dx + ny * dy + nz * dz;
      if (facing === 0) continue;
      const px = data[q] - ox;
      const py = data[q + 1] - oy;
      const pz = data[q + 2] - oz;
      const distance = (nx * px + ny * py + nz * pz) / facing;
      if (!(distance > 1e-5) || distance >= nearest) continue;
      const rx = dx * distance - px;
      const ry = dy * distance - py;
      const rz = dz * distance - pz;
      const s = rx * data[q + 3] + ry * data[q + 4] + rz * data[q + 5];
      if (s < 0 || s > data[q + 12]) continue;
      const t = rx * data[q + 6] + ry * data[q + 7] + rz * data[q + 8];
      if (t < 0 || t > data[q + 13]) continue;
      if (covers?.[i]?.(s, t) === false) continue;
      nearest = distance;
      hit.quad = items[i];
      hit.distance = distance;
      hit.s = s;
      hit.t = t;
      found = true;
      if (any) return true;
    }
  }
  return found;
}
