/**
 * Looks for what a larger place can be filled with: a few offsets under which the picture about it is like itself (He & Sun,
 * "Statistics of Patch Offsets for Image Completion", ECCV 2012), laid side by side where they differ least.
 */
import { type FrameSize, halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { pixelsOf } from '../../../picture/tile/sensor-rectangle.ts';
import { cellsOf, distances, readCells } from '../away-from.ts';
import { type Box, placed, writtenBox } from '../box.ts';
import type { Region } from '../patch.ts';
import { readerOf, root } from '../reader.ts';
import { expand } from './cut.ts';
import { type Fill, MOST_CELLS, PER_UNIT } from './fill.ts';

/** Length of the hole's side at which offsets are looked for, in pixels. */
const COARSE = 26;
/** How far from the place they reach, in its own lengths. */
const REACH = 2;
/** Pixels of the rim that are compared, across it. */
const RIM = 4;
/** Pixels of the rim that are compared for each offset. */
const MOST_COMPARED = 240;
/** So many offsets are laid side by side. */
const OFFSETS = 20;
/** Squared difference from which on two pixels are simply not alike. */
const UNLIKE = 0.02;
/** What an offset costs for each of the place's lengths that it goes. */
const AWAY = 0.04;
/** Cost of what cannot be: a source in the hole, or beyond the frame. */
const IMPOSSIBLE = 500;
/** Step from cell to cell along which a seam is half hidden; what each pair of pieces costs; how much more the rim counts. */
const HIDDEN = 0.08;
const PIECES = 0.004;
const MEETS = 15;
/** What a cell costs for each of the place's lengths that its picture comes from: what is near is more likely right. */
const FAR = 0.01;
/** Pixels of the planes to a side of a cell, at the least. */
const CELL = 4;
/** Another try takes from places that are so far from those before, in the place's lengths, where they made so much of it. */
const OTHERWISE = 0.35;
const MUCH = 0.08;
/** Cells about the place on each side. */
const BESIDE = 2;

interface Window {
  width: number;
  height: number;
  /** Roots of light, three a pixel. */
  values: Float32Array;
  hole: Uint8Array;
}

/** A box of the planes, `by` of their pixels to one. */
function windowOf(planes: PlacedPlanes, box: Box, region: Region, frame: FrameSize, by: number): Window {
  const read = readerOf(planes, planes);
  const width = Math.max(1, Math.floor((box.right - box.left) / by));
  const height = Math.max(1, Math.floor((box.bottom - box.top) / by));
  const values = new Float32Array(width * height * 3);
  const hole = new Uint8Array(width * height);
  const { points, radius } = placed(region, frame);
  const about = writtenBox(region, frame);
  const grid = cellsOf(about, Math.max(radius / 5, 1 / planes.scaleX));
  const away = distances(points, grid, radius * 1.2);
  const right = grid.left + grid.columns * grid.cell;
  const bottom = grid.top + grid.rows * grid.cell;
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const [px, py] = [box.left + x * by, box.top + y * by];
      for (let j = 0; j < by; j++)
        for (let i = 0; i < by; i++)
          for (let c = 0; c < 3; c++) values[at * 3 + c] += root(read(c as 0, px + i, py + j)) / (by * by);
      const sx = planes.originX + (px + by / 2) / planes.scaleX;
      const sy = planes.originY + (py + by / 2) / planes.scaleY;
      const inside = sx > grid.left && sy > grid.top && sx < right && sy < bottom;
      // A pixel that is half in it is all in it.
      if (inside && readCells(away, grid, sx, sy) < radius + by / 2 / planes.scaleX) hole[at] = 1;
    }
  return { width, height, values, hole };
}

/** Known pixels that lie within so many of the hole. */
function rimOf({ width, height, hole }: Window, reach: number): Int32Array {
  const out: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (hole[y * width + x]) continue;
      let near = false;
      for (let j = Math.max(0, y - reach); j <= Math.min(height - 1, y + reach) && !near; j++)
        for (let i = Math.max(0, x - reach); i <= Math.min(width - 1, x + reach); i++)
          if (hole[j * width + i]) {
            near = true;
            break;
          }
      if (near) out.push(y * width + x);
    }
  return Int32Array.from(out);
}

/** How unlike a pixel is to the one an offset away; the most where that is none. */
function unlike({ width, height, values, hole }: Window, at: number, dx: number, dy: number): number {
  if (!isKnown({ width, height, values, hole }, at, dx, dy)) return UNLIKE;
  const [x, y] = [(at % width) + dx, Math.floor(at / width) + dy];
  const [a, b] = [at * 3, (y * width + x) * 3];
  const [r, g, bl] = [values[a] - values[b], values[a + 1] - values[b + 1], values[a + 2] - values[b + 2]];
  return Math.min(UNLIKE, r * r + g * g + bl * bl);
}

/** Whether there is something known an offset away from a pixel. */
function isKnown({ width, height, hole }: Window, at: number, dx: number, dy: number): boolean {
  const [x, y] = [(at % width) + dx, Math.floor(at / width) + dy];
  return x >= 0 && y >= 0 && x < width && y < height && !hole[y * width + x];
}

interface Offset {
  dx: number;
  dy: number;
}

/** Offsets that together explain the rim best: each is chosen for what those before it leave. */
function chooseOffsets(window: Window, length: number, avoided: readonly Offset[]): Offset[] {
  const whole = rimOf(window, RIM);
  const rim = whole.filter((_, i) => i % Math.ceil(whole.length / MOST_COMPARED) === 0);
  const holes = Array.from({ length: window.hole.length }, (_, at) => at).filter((at) => window.hole[at]);
  const inside = holes.filter((_, i) => i % Math.ceil(holes.length / (MOST_COMPARED / 2)) === 0);
  const reach = Math.round(REACH * length);
  const all: (Offset & { costs: Float32Array; away: number })[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      // Nearer ones take the hole's own rim for what is in it.
      if (Math.hypot(dx, dy) < Math.max(4, length * 0.3)) continue;
      if (avoided.some((each) => Math.hypot(each.dx - dx, each.dy - dy) < OTHERWISE * length)) continue;
      const costs = new Float32Array(rim.length + inside.length);
      let sum = 0;
      for (let i = 0; i < rim.length; i++) sum += costs[i] = unlike(window, rim[i], dx, dy);
      if (sum >= 0.9 * UNLIKE * rim.length) continue;
      // Inside it counts as it does on the rim, wherever there is something to take.
      const mean = sum / rim.length;
      for (let i = 0; i < inside.length; i++)
        costs[rim.length + i] = isKnown(window, inside[i], dx, dy) ? mean : UNLIKE;
      all.push({ dx, dy, costs, away: (AWAY * UNLIKE * rim.length * Math.hypot(dx, dy)) / length });
    }
  const left = new Float32Array(rim.length + inside.length).fill(UNLIKE);
  const chosen: Offset[] = [];
  for (let n = 0; n < OFFSETS && all.length > 0; n++) {
    let [best, least] = [-1, Infinity];
    for (let k = 0; k < all.length; k++) {
      const { costs, away } = all[k];
      let sum = away;
      for (let i = 0; i < left.length && sum < least; i++) sum += Math.min(left[i], costs[i]);
      if (sum < least) [best, least] = [k, sum];
    }
    if (best < 0) break;
    const { dx, dy, costs } = all[best];
    all.splice(best, 1);
    chosen.push({ dx, dy });
    for (let i = 0; i < left.length; i++) left[i] = Math.min(left[i], 0.25 * left[i] + 0.75 * costs[i]);
  }
  return chosen;
}

/** The same offsets at a finer size, each where it fits what it is best for. */
function finer(window: Window, offsets: readonly Offset[], times: number): Offset[] {
  const rim = rimOf(window, Math.round(RIM * 1.5));
  const some = rim.filter((_, i) => i % Math.ceil(rim.length / 800) === 0);
  const scaled = offsets.map(({ dx, dy }) => ({ dx: dx * times, dy: dy * times }));
  const costs = scaled.map(({ dx, dy }) => some.map((at) => unlike(window, at, dx, dy)));
  const best = Int32Array.from(some, (_, i) =>
    costs.reduce((least, own, k) => (own[i] < costs[least][i] ? k : least), 0)
  );
  return scaled.map((offset, k) => {
    const own = some.filter((_, i) => best[i] === k || costs[k][i] < UNLIKE / 4);
    let here = { ...offset, cost: Infinity };
    for (let j = -times; j <= times; j++)
      for (let i = -times; i <= times; i++) {
        const [dx, dy] = [offset.dx + i, offset.dy + j];
        let cost = 0;
        for (const at of own) cost += unlike(window, at, dx, dy);
        cost += 1e-6 * Math.hypot(i, j);
        if (cost < here.cost) here = { dx, dy, cost };
      }
    return { dx: here.dx, dy: here.dy };
  });
}

/**
 * What a place is filled with; `before`: what it was filled with, which another try does without. Null where nothing about it
 * could be taken.
 */
export function findFill(
  planes: PlacedPlanes,
  region: Region,
  frame: FrameSize,
  before: Fill | null = null
): Fill | null {
  const own = writtenBox(region, frame);
  const side = Math.max(own.right - own.left, own.bottom - own.top);
  const box = pixelsOf(planes, {
    left: own.left - (REACH + 0.6) * side,
    top: own.top - (REACH + 0.6) * side,
    right: own.right + (REACH + 0.6) * side,
    bottom: own.bottom + (REACH + 0.6) * side
  });
  const length = Math.sqrt((own.right - own.left) * (own.bottom - own.top)) * planes.scaleX;
  let by = 2 ** Math.max(0, Math.round(Math.log2(length / COARSE)));
  let window = windowOf(planes, box, region, frame, by);
  const pixels = (halfDiagonal(frame) * planes.scaleX) / by;
  let offsets = chooseOffsets(window, length / by, usedBy(before, pixels));
  if (offsets.length === 0) return null;
  while (by > 1) {
    by /= 2;
    window = windowOf(planes, box, region, frame, by);
    offsets = finer(window, offsets, 2);
  }
  return layOut(window, offsets, planes, box, own, frame);
}

/** Offsets that much of a fill was made with, in pixels. */
function usedBy(fill: Fill | null, unit: number): Offset[] {
  const counts = new Map<string, Offset & { count: number }>();
  for (let i = 0; fill && i + 1 < fill.offsets.length; i += 2) {
    const [x, y] = [fill.offsets[i], fill.offsets[i + 1]];
    const known = counts.get(`${x} ${y}`) ?? {
      dx: (x / PER_UNIT) * unit,
      dy: (y / PER_UNIT) * unit,
      count: 0
    };
    known.count++;
    counts.set(`${x} ${y}`, known);
  }
  const all = [...counts.values()];
  const cells = all.reduce((sum, { count }) => sum + count, 0);
  return all.filter(({ count }) => count > MUCH * cells);
}

/** Samples of a cell, in shares of its side. */
const SAMPLES: readonly (readonly [number, number])[] = [
  [0.25, 0.25],
  [0.75, 0.25],
  [0.25, 0.75],
  [0.75, 0.75],
  [0.5, 0.5]
];

/** Lays offsets side by side over the cells of a place, where they differ least from each other and from what lies about. */
function layOut(
  window: Window,
  offsets: readonly Offset[],
  planes: PlacedPlanes,
  box: Box,
  own: Box,
  frame: FrameSize
): Fill {
  const { width, height, values, hole } = window;
  const scale = planes.scaleX;
  const area = (own.right - own.left) * (own.bottom - own.top) * scale * scale;
  const cell = Math.max(CELL, Math.sqrt(area / (MOST_CELLS * 0.75)));
  // Cells about the place, too: what lies there is to be met.
  const columns = Math.ceil(((own.right - own.left) * scale) / cell) + 2 * BESIDE;
  const rows = Math.ceil(((own.bottom - own.top) * scale) / cell) + 2 * BESIDE;
  const left = (own.left - planes.originX) * scale - box.left - BESIDE * cell;
  const top = (own.top - planes.originY) * scale - box.top - BESIDE * cell;
  const nodes = columns * rows;
  const per = SAMPLES.length * 3;
  /** What each offset would lay into each cell; and what is there. */
  const laid = offsets.map(() => new Float32Array(nodes * per));
  const there = new Float32Array(nodes * per);
  const inHole = new Uint8Array(nodes);
  const possible = offsets.map(() => new Uint8Array(nodes).fill(1));
  const pixel = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? -1 : y * width + x;
  for (let node = 0; node < nodes; node++)
    SAMPLES.forEach(([u, v], n) => {
      const x = Math.floor(left + ((node % columns) + u) * cell);
      const y = Math.floor(top + (Math.floor(node / columns) + v) * cell);
      const at = pixel(x, y);
      if (at >= 0 && hole[at]) inHole[node] = 1;
      if (at >= 0) there.set(values.subarray(at * 3, at * 3 + 3), node * per + n * 3);
      offsets.forEach(({ dx, dy }, k) => {
        const from = pixel(x + dx, y + dy);
        if (from < 0 || hole[from]) possible[k][node] = 0;
        else laid[k].set(values.subarray(from * 3, from * 3 + 3), node * per + n * 3);
      });
    });
  const apart = (one: Float32Array, other: Float32Array, node: number): number => {
    let sum = 0;
    for (let i = node * per; i < (node + 1) * per; i++) sum += (one[i] - other[i]) ** 2;
    return sum / SAMPLES.length;
  };
  const across = (of: Float32Array, p: number, q: number): number => {
    let sum = 0;
    for (let i = 0; i < per; i++) sum += (of[p * per + i] - of[q * per + i]) ** 2;
    return Math.sqrt(sum / SAMPLES.length);
  };
  const pairs: [number, number][] = [];
  for (let node = 0; node < nodes; node++) {
    if (node % columns < columns - 1) pairs.push([node, node + 1]);
    if (node + columns < nodes) pairs.push([node, node + columns]);
  }
  // What lies about the place is to be met by every offset beside it; cells that are not in it cost what they would change.
  const far = offsets.map(({ dx, dy }) => Math.hypot(dx, dy) / Math.sqrt(area));
  const costs = offsets.map((_, k) =>
    Float32Array.from({ length: nodes }, (_, node) => {
      if (!possible[k][node]) return IMPOSSIBLE;
      return inHole[node] ? FAR * far[k] : MEETS * Math.sqrt(apart(laid[k], there, node));
    })
  );
  const labels = new Uint8Array(nodes);
  for (let node = 0; node < nodes; node++)
    for (let k = 1; k < offsets.length; k++) if (costs[k][node] < costs[labels[node]][node]) labels[node] = k;
  const total = offsets.map((_, k) => costs[k].reduce((sum, each) => sum + each, 0));
  labels.fill(total.indexOf(Math.min(...total)));
  expand(
    {
      nodes,
      labels: offsets.length,
      pairs,
      own: (node, label) => costs[label][node],
      between(pair, one, other) {
        if (one === other) return 0;
        const [p, q] = pairs[pair];
        const differ =
          Math.sqrt(apart(laid[one], laid[other], p)) + Math.sqrt(apart(laid[one], laid[other], q));
        // Along an edge of the picture a seam is not seen (Kwatra et al., "Graphcut Textures", SIGGRAPH 2003).
        const edge = across(laid[one], p, q) + across(laid[other], p, q);
        return (differ * HIDDEN) / (HIDDEN + edge) + PIECES;
      }
    },
    labels
  );
  const unit = halfDiagonal(frame) * scale;
  const [fieldX, fieldY] = sensorToField(
    [own.left - (BESIDE * cell) / scale, own.top - (BESIDE * cell) / scale],
    frame
  );
  return {
    left: fieldX,
    top: fieldY,
    cell: cell / unit,
    columns,
    offsets: [...labels].flatMap((label) => [
      Math.round((offsets[label].dx / unit) * PER_UNIT),
      Math.round((offsets[label].dy / unit) * PER_UNIT)
    ])
  };
}
