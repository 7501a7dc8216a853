/**
 * The one resampling: fills output rows from the source planes through the mesh.
 */
import type { MapMesh } from '../tile/mesh.ts';
import { type KernelTable, PHASES, kernelTable } from './kernel.ts';
import type { PlacedPlanes, Planes } from '../tile/planes.ts';

export interface ResampleOptions {
  /** First output row (default 0) and the row after the last (default: all). */
  from?: number;
  to?: number;
  /** Take the plain four-tap kernel whatever the reduction: fast, for a picture in motion. */
  draft?: boolean;
}

/** Planes with the validity of each pixel: 1 where there is a real one; elsewhere the planes are 0. */
export interface ValidPlanes extends Planes {
  valid: Uint8Array;
}

/**
 * Fills rows [from, to) of an output as wide as the mesh's view; row `from` goes to the first row of `out`.
 * Pixels from outside the source are not valid.
 */
export function resample(
  source: PlacedPlanes,
  mesh: MapMesh,
  out: ValidPlanes,
  options: ResampleOptions = {}
): void {
  const { view, step, columns, colours } = mesh;
  const { from = 0, to = view.height, draft = false } = options;
  const { scaleX, scaleY, width, height } = source;
  const green = { startX: 0, startY: 0, dx: 0, dy: 0 };
  const other = { startX: 0, startY: 0, dx: 0, dy: 0 };
  for (let row = from; row < to; row++) {
    const position = (row + 0.5) / step;
    const meshRow = Math.floor(position);
    const fy = position - meshRow;
    const base = meshRow * columns;
    const target = (row - from) * view.width;
    for (let column = 0; column * step < view.width; column++) {
      const i = base + column;
      const first = column * step;
      const last = Math.min(first + step, view.width);
      const count = last - first;
      place(source, mesh, mesh.x, mesh.y, i, fy, green);
      const { startX, startY, dx, dy } = green;
      const endX = startX + dx * count;
      const endY = startY + dy * count;
      // A position counts as real up to half a source pixel beyond the outermost centres.
      const outside =
        !(Math.max(startX, endX) >= -0.5 && Math.max(startY, endY) >= -0.5) ||
        Math.min(startX, endX) > width - 0.5 ||
        Math.min(startY, endY) > height - 0.5;
      if (outside) {
        for (const plane of [out.r, out.g, out.b, out.valid]) plane.fill(0, target + first, target + last);
        continue;
      }
      out.valid.fill(1, target + first, target + last);
      const down = Math.hypot(
        ((mesh.x[i + columns] - mesh.x[i]) / step) * scaleX,
        ((mesh.y[i + columns] - mesh.y[i]) / step) * scaleY
      );
      const table = kernelTable(draft ? 1 : Math.max(Math.hypot(dx, dy), down));
      const reach = table.taps / 2;
      // Red and blue lie a few pixels from green at most: a wider margin serves all three.
      const margin = reach + (colours ? COLOUR_MARGIN : 0);
      const interior =
        Math.min(startX, endX) >= margin &&
        Math.min(startY, endY) >= margin &&
        Math.max(startX, endX) < width - margin - 1 &&
        Math.max(startY, endY) < height - margin - 1;
      if (!colours && interior && table.taps === 4) {
        runFourTaps(source, table, green, count, out, target + first);
        continue;
      }
      const one = interior ? (table.taps === 4 ? runFourTapsOfOne : runInteriorOfOne) : runBorderOfOne;
      one(source.g, width, height, table, green, count, out.g, target + first);
      if (colours) place(source, mesh, colours.redX, colours.redY, i, fy, other);
      one(source.r, width, height, table, colours ? other : green, count, out.r, target + first);
      if (colours) place(source, mesh, colours.blueX, colours.blueY, i, fy, other);
      one(source.b, width, height, table, colours ? other : green, count, out.b, target + first);
      if (!interior) clearWhereGreenIs(green, width, height, count, out, target + first);
    }
  }
}

/** How far apart, in source pixels, the three colours of one place may lie before the careful path is taken. */
const COLOUR_MARGIN = 8;

/** Where a run of output pixels lies in the source, in its pixels: the first one's place and the step to the next. */
interface Placed {
  startX: number;
  startY: number;
  dx: number;
  dy: number;
}

/** Places the part of an output row that lies in mesh cell `i`, a share `fy` of the way down it. */
function place(
  source: PlacedPlanes,
  mesh: MapMesh,
  x: Float32Array,
  y: Float32Array,
  i: number,
  fy: number,
  out: Placed
): void {
  const { step, columns } = mesh;
  const { originX, originY, scaleX, scaleY } = source;
  const ax = x[i] * (1 - fy) + x[i + columns] * fy;
  const bx = x[i + 1] * (1 - fy) + x[i + columns + 1] * fy;
  const ay = y[i] * (1 - fy) + y[i + columns] * fy;
  const by = y[i + 1] * (1 - fy) + y[i + columns + 1] * fy;
  out.dx = ((bx - ax) / step) * scaleX;
  out.dy = ((by - ay) / step) * scaleY;
  out.startX = (ax - originX) * scaleX - 0.5 + out.dx / 2;
  out.startY = (ay - originY) * scaleY - 0.5 + out.dy / 2;
}

/** Away from the border, four by four taps: nearly all pixels at 1:1, so written out. */
function runFourTaps(
  source: PlacedPlanes,
  { weights }: KernelTable,
  { startX, startY, dx, dy }: Placed,
  count: number,
  out: Planes,
  target: number
): void {
  const { r, g, b, width } = source;
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    const ix = x | 0;
    const iy = y | 0;
    const px = (((x - ix) * PHASES + 0.5) | 0) * 4;
    const py = (((y - iy) * PHASES + 0.5) | 0) * 4;
    const x0 = weights[px];
    const x1 = weights[px + 1];
    const x2 = weights[px + 2];
    const x3 = weights[px + 3];
    let at = (iy - 1) * width + ix - 1;
    let sumR = 0;
    let sumG = 0;
    let sumB = 0;
    for (let j = 0; j < 4; j++) {
      const wy = weights[py + j];
      sumR += wy * (x0 * r[at] + x1 * r[at + 1] + x2 * r[at + 2] + x3 * r[at + 3]);
      sumG += wy * (x0 * g[at] + x1 * g[at + 1] + x2 * g[at + 2] + x3 * g[at + 3]);
      sumB += wy * (x0 * b[at] + x1 * b[at + 1] + x2 * b[at + 2] + x3 * b[at + 3]);
      at += width;
    }
    out.r[target + n] = sumR > 0 ? sumR : 0;
    out.g[target + n] = sumG > 0 ? sumG : 0;
    out.b[target + n] = sumB > 0 ? sumB : 0;
  }
}

type RunOfOne = (
  plane: Float32Array,
  width: number,
  height: number,
  table: KernelTable,
  placed: Placed,
  count: number,
  out: Float32Array,
  target: number
) => void;

/** One colour, away from the border, four by four taps. */
const runFourTapsOfOne: RunOfOne = (
  plane,
  width,
  _,
  table,
  { startX, startY, dx, dy },
  count,
  out,
  target
) => {
  const { weights } = table;
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    const ix = x | 0;
    const iy = y | 0;
    const px = (((x - ix) * PHASES + 0.5) | 0) * 4;
    const py = (((y - iy) * PHASES + 0.5) | 0) * 4;
    const x0 = weights[px];
    const x1 = weights[px + 1];
    const x2 = weights[px + 2];
    const x3 = weights[px + 3];
    let at = (iy - 1) * width + ix - 1;
    let sum = weights[py] * (x0 * plane[at] + x1 * plane[at + 1] + x2 * plane[at + 2] + x3 * plane[at + 3]);
    at += width;
    sum += weights[py + 1] * (x0 * plane[at] + x1 * plane[at + 1] + x2 * plane[at + 2] + x3 * plane[at + 3]);
    at += width;
    sum += weights[py + 2] * (x0 * plane[at] + x1 * plane[at + 1] + x2 * plane[at + 2] + x3 * plane[at + 3]);
    at += width;
    sum += weights[py + 3] * (x0 * plane[at] + x1 * plane[at + 1] + x2 * plane[at + 2] + x3 * plane[at + 3]);
    out[target + n] = sum > 0 ? sum : 0;
  }
};

/** One colour, away from the border, any number of taps. */
const runInteriorOfOne: RunOfOne = (
  plane,
  width,
  _,
  table,
  { startX, startY, dx, dy },
  count,
  out,
  target
) => {
  const { weights, taps } = table;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    const ix = x | 0;
    const iy = y | 0;
    const px = (((x - ix) * PHASES + 0.5) | 0) * taps;
    const py = (((y - iy) * PHASES + 0.5) | 0) * taps;
    let sum = 0;
    for (let j = 0; j < taps; j++) {
      const at = (iy - lead + j) * width + ix - lead;
      let row = 0;
      for (let i = 0; i < taps; i++) row += weights[px + i] * plane[at + i];
      sum += weights[py + j] * row;
    }
    out[target + n] = sum > 0 ? sum : 0;
  }
};

/** One colour near the border: places and taps beyond it repeat the outermost pixel. */
const runBorderOfOne: RunOfOne = (
  plane,
  width,
  height,
  table,
  { startX, startY, dx, dy },
  count,
  out,
  target
) => {
  const { weights, taps } = table;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const x = Math.min(width - 0.5, Math.max(-0.5, startX + dx * n));
    const y = Math.min(height - 0.5, Math.max(-0.5, startY + dy * n));
    const ix = Math.floor(x);
    const iy = Math.floor(y);
    const px = Math.round((x - ix) * PHASES) * taps;
    const py = Math.round((y - iy) * PHASES) * taps;
    let sum = 0;
    for (let j = 0; j < taps; j++) {
      const row = Math.min(height - 1, Math.max(0, iy - lead + j)) * width;
      for (let i = 0; i < taps; i++) {
        sum +=
          weights[py + j] * weights[px + i] * plane[row + Math.min(width - 1, Math.max(0, ix - lead + i))];
      }
    }
    out[target + n] = Math.max(0, sum);
  }
};

/** A pixel is real only where its green is. */
function clearWhereGreenIs(
  { startX, startY, dx, dy }: Placed,
  width: number,
  height: number,
  count: number,
  out: ValidPlanes,
  target: number
): void {
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    if (!(x >= -0.5 && y >= -0.5 && x <= width - 0.5 && y <= height - 0.5))
      out.r[target + n] = out.g[target + n] = out.b[target + n] = out.valid[target + n] = 0;
  }
}
