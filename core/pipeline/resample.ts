/**
 * The one resampling: fills output rows from the source planes through the mesh.
 */
import type { MapMesh } from './map-mesh.ts';
import { type KernelTable, PHASES, kernelTable } from './kernel.ts';
import type { PlacedPlanes, Planes } from './planes.ts';

export interface ResampleOptions {
  /** First output row (default 0) and the row after the last (default: all). */
  from?: number;
  to?: number;
  /** Take the plain four-tap kernel whatever the reduction: fast, for a picture in motion. */
  draft?: boolean;
}

/** Value written where no real pixel exists. */
export const BLANK = -1;

/**
 * Fills rows [from, to) of an output as wide as the mesh's view; row `from` goes to the first row of `out`.
 * Positions outside the source get BLANK in all planes.
 */
export function resample(
  source: PlacedPlanes,
  mesh: MapMesh,
  out: Planes,
  options: ResampleOptions = {}
): void {
  const { view, step, columns } = mesh;
  const { from = 0, to = view.height, draft = false } = options;
  const { originX, originY, scaleX, scaleY, width, height } = source;
  for (let row = from; row < to; row++) {
    const position = (row + 0.5) / step;
    const meshRow = Math.floor(position);
    const fy = position - meshRow;
    const base = meshRow * columns;
    for (let column = 0; column * step < view.width; column++) {
      const i = base + column;
      const ax = mesh.x[i] * (1 - fy) + mesh.x[i + columns] * fy;
      const bx = mesh.x[i + 1] * (1 - fy) + mesh.x[i + columns + 1] * fy;
      const ay = mesh.y[i] * (1 - fy) + mesh.y[i + columns] * fy;
      const by = mesh.y[i + 1] * (1 - fy) + mesh.y[i + columns + 1] * fy;
      const first = column * step;
      const last = Math.min(first + step, view.width);
      const target = (row - from) * view.width;
      const dx = ((bx - ax) / step) * scaleX;
      const dy = ((by - ay) / step) * scaleY;
      const startX = (ax - originX) * scaleX - 0.5 + dx / 2;
      const startY = (ay - originY) * scaleY - 0.5 + dy / 2;
      const endX = startX + dx * (last - first);
      const endY = startY + dy * (last - first);
      // A position counts as real up to half a source pixel beyond the outermost centres.
      const outside =
        !(Math.max(startX, endX) >= -0.5 && Math.max(startY, endY) >= -0.5) ||
        Math.min(startX, endX) > width - 0.5 ||
        Math.min(startY, endY) > height - 0.5;
      if (outside) {
        out.r.fill(BLANK, target + first, target + last);
        out.g.fill(BLANK, target + first, target + last);
        out.b.fill(BLANK, target + first, target + last);
        continue;
      }
      const down = Math.hypot(
        ((mesh.x[i + columns] - mesh.x[i]) / step) * scaleX,
        ((mesh.y[i + columns] - mesh.y[i]) / step) * scaleY
      );
      const table = kernelTable(draft ? 1 : Math.max(Math.hypot(dx, dy), down));
      const reach = table.taps / 2;
      const interior =
        Math.min(startX, endX) >= reach &&
        Math.min(startY, endY) >= reach &&
        Math.max(startX, endX) < width - reach - 1 &&
        Math.max(startY, endY) < height - reach - 1;
      const run = interior ? (table.taps === 4 ? runFourTaps : runInterior) : runBorder;
      run(source, table, startX, startY, dx, dy, last - first, out, target + first);
    }
  }
}

type Run = (
  source: PlacedPlanes,
  table: KernelTable,
  startX: number,
  startY: number,
  dx: number,
  dy: number,
  count: number,
  out: Planes,
  target: number
) => void;

/** Away from the border, four by four taps: nearly all pixels at 1:1, so written out. */
const runFourTaps: Run = (source, table, startX, startY, dx, dy, count, out, target) => {
  const { r, g, b, width } = source;
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
};

/** Away from the border, any number of taps. */
const runInterior: Run = (source, table, startX, startY, dx, dy, count, out, target) => {
  const { r, g, b, width } = source;
  const { weights, taps } = table;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    const ix = x | 0;
    const iy = y | 0;
    const px = (((x - ix) * PHASES + 0.5) | 0) * taps;
    const py = (((y - iy) * PHASES + 0.5) | 0) * taps;
    let sumR = 0;
    let sumG = 0;
    let sumB = 0;
    for (let j = 0; j < taps; j++) {
      const wy = weights[py + j];
      const at = (iy - lead + j) * width + ix - lead;
      let rowR = 0;
      let rowG = 0;
      let rowB = 0;
      for (let i = 0; i < taps; i++) {
        const wx = weights[px + i];
        rowR += wx * r[at + i];
        rowG += wx * g[at + i];
        rowB += wx * b[at + i];
      }
      sumR += wy * rowR;
      sumG += wy * rowG;
      sumB += wy * rowB;
    }
    out.r[target + n] = sumR > 0 ? sumR : 0;
    out.g[target + n] = sumG > 0 ? sumG : 0;
    out.b[target + n] = sumB > 0 ? sumB : 0;
  }
};

/** Near the border: taps beyond it repeat the outermost pixel; positions beyond it are blank. */
const runBorder: Run = (source, table, startX, startY, dx, dy, count, out, target) => {
  const { r, g, b, width, height } = source;
  const { weights, taps } = table;
  const lead = taps / 2 - 1;
  for (let n = 0; n < count; n++) {
    const x = startX + dx * n;
    const y = startY + dy * n;
    if (!(x >= -0.5 && y >= -0.5 && x <= width - 0.5 && y <= height - 0.5)) {
      out.r[target + n] = out.g[target + n] = out.b[target + n] = BLANK;
      continue;
    }
    const ix = Math.floor(x);
    const iy = Math.floor(y);
    const px = Math.round((x - ix) * PHASES) * taps;
    const py = Math.round((y - iy) * PHASES) * taps;
    let sumR = 0;
    let sumG = 0;
    let sumB = 0;
    for (let j = 0; j < taps; j++) {
      const row = Math.min(height - 1, Math.max(0, iy - lead + j)) * width;
      for (let i = 0; i < taps; i++) {
        const w = weights[py + j] * weights[px + i];
        const at = row + Math.min(width - 1, Math.max(0, ix - lead + i));
        sumR += w * r[at];
        sumG += w * g[at];
        sumB += w * b[at];
      }
    }
    out.r[target + n] = Math.max(0, sumR);
    out.g[target + n] = Math.max(0, sumG);
    out.b[target + n] = Math.max(0, sumB);
  }
};
