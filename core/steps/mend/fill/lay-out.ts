/** Lays shifts side by side over the cells of a place, where they differ least from each other and from what lies about. */
import { halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import type { Box } from '../box.ts';
import { expand } from './cut.ts';
import { type Fill, MOST_CELLS, PER_UNIT } from './fill.ts';
import type { Surface } from './surface.ts';
import { tellingShares } from './telling.ts';
import { type Shift, UNLIKE, type Window, type WindowPlace, laidAt, rimOf, unlike } from './window.ts';

/** Cost of what cannot be: a source in the hole, or beyond the frame. */
const IMPOSSIBLE = 500;
/** Step from cell to cell along which a seam is half hidden; what each pair of pieces costs; how much more the rim counts. */
const HIDDEN = 0.08;
const PIECES = 0.004;
const MEETS = 15;
/** What a cell costs for each of the place's lengths that its picture comes from: what is near is more likely right. */
const FAR = 0.01;
/** What a cell costs whose shift explains nothing of what lies about it; pixels of the rim that tell, and how far across it is. */
const UNEXPLAINED = 0.2;
/** What a cell costs that is laid along a surface: within the picture its grain stays. */
const ALONG = 0.01;
const TELLING = 240;
const RIM = 6;
/** Pixels of the planes to a side of a cell, at the least. */
const CELL = 4;
/** Cells about the place on each side. */
const BESIDE = 2;

/** Samples of a cell, in shares of its side. */
const SAMPLES: readonly (readonly [number, number])[] = [
  [0.25, 0.25],
  [0.75, 0.25],
  [0.25, 0.75],
  [0.75, 0.75],
  [0.5, 0.5]
];

/** `window`: at the size of the planes; `own`: the place that is filled, in sensor pixels. */
export function layOut(
  window: Window,
  { planes, box, frame }: WindowPlace,
  shifts: readonly Shift[],
  own: Box,
  surfaces: readonly Surface[]
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
  /** What each shift would lay into each cell; and what is there. */
  const laid = shifts.map(() => new Float32Array(nodes * per));
  const there = new Float32Array(nodes * per);
  const inHole = new Uint8Array(nodes);
  const possible = shifts.map(() => new Uint8Array(nodes).fill(1));
  const colour = new Float64Array(3);
  for (let node = 0; node < nodes; node++)
    SAMPLES.forEach(([u, v], n) => {
      const x = Math.floor(left + ((node % columns) + u) * cell);
      const y = Math.floor(top + (Math.floor(node / columns) + v) * cell);
      const at = x < 0 || y < 0 || x >= width || y >= height ? -1 : y * width + x;
      if (at >= 0 && hole[at]) inHole[node] = 1;
      if (at >= 0) there.set(values.subarray(at * 3, at * 3 + 3), node * per + n * 3);
      shifts.forEach((shift, k) => {
        if (laidAt(window, x, y, shift, colour)) laid[k].set(colour, node * per + n * 3);
        else possible[k][node] = 0;
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
  // What lies about the place is to be met by every shift beside it; cells that are not in it cost what they would change.
  const unexplained = unexplainedBy(window, shifts, { columns, rows, left, top, cell });
  const far = shifts.map(({ dx, dy }) => Math.hypot(dx, dy) / Math.sqrt(area));
  const costs = shifts.map((_, k) =>
    Float32Array.from({ length: nodes }, (_, node) => {
      if (!possible[k][node]) return IMPOSSIBLE;
      return inHole[node]
        ? FAR * far[k] + (shifts[k].surface > 0 ? ALONG : 0) + UNEXPLAINED * unexplained[k][node]
        : MEETS * Math.sqrt(apart(laid[k], there, node));
    })
  );
  const labels = new Uint8Array(nodes);
  for (let node = 0; node < nodes; node++)
    for (let k = 1; k < shifts.length; k++) if (costs[k][node] < costs[labels[node]][node]) labels[node] = k;
  const total = shifts.map((_, k) => costs[k].reduce((sum, each) => sum + each, 0));
  labels.fill(total.indexOf(Math.min(...total)));
  expand(
    {
      nodes,
      labels: shifts.length,
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
  // Of the surfaces, those that some cell is laid along.
  const used = surfaces.filter((_, n) => [...labels].some((label) => shifts[label].surface === n + 1));
  const along = (label: number): number => 1 + used.indexOf(surfaces[shifts[label].surface - 1]);
  return {
    left: fieldX,
    top: fieldY,
    cell: cell / unit,
    columns,
    offsets: [...labels].flatMap((label) => [
      Math.round((shifts[label].dx / unit) * PER_UNIT),
      Math.round((shifts[label].dy / unit) * PER_UNIT)
    ]),
    ...(used.length > 0 && {
      surfaces: used.map((surface) => [...surface]),
      along: [...labels].map(along)
    })
  };
}

/** How little each shift explains of the rim about each cell, 0..1: the nearer a pixel of it is, the more it tells. */
function unexplainedBy(
  window: Window,
  shifts: readonly Shift[],
  {
    columns,
    rows,
    left,
    top,
    cell
  }: { columns: number; rows: number; left: number; top: number; cell: number }
): Float32Array[] {
  const whole = rimOf(window, RIM);
  const rim = whole.filter((_, i) => i % Math.ceil(whole.length / TELLING) === 0);
  const costs = shifts.map((shift) => Float32Array.from(rim, (at) => unlike(window, at, shift) / UNLIKE));
  const sums = shifts.map(() => new Float32Array(columns * rows));
  const shares = new Float32Array(rim.length);
  for (let node = 0; node < columns * rows; node++) {
    const x = left + ((node % columns) + 0.5) * cell;
    const y = top + (Math.floor(node / columns) + 0.5) * cell;
    tellingShares([x, y], rim, window.width, cell, shares);
    sums.forEach((sum, k) => {
      for (let i = 0; i < rim.length; i++) sum[node] += shares[i] * costs[k][i];
    });
  }
  return sums;
}
