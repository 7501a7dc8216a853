/** Lays texture from elsewhere into a place: as it is (clone), or in the light and colour of the place (heal). */
import { smoothstep } from '../../math/smoothstep.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { type CellGrid, cellsOf, distances, readCells } from './away-from.ts';
import { type Box, type PlacedPatch, RIM } from './box.ts';
import { type PlacedFill, fillReader } from './fill/fill.ts';
import { fillMembrane } from './membrane.ts';
import { COLOURS, type Reader, pixelsIn, readerOf, root } from './reader.ts';

/** Cells to a radius, and the most that a place has: long strokes have coarser ones. */
const CELLS = 5;
const MOST_CELLS = 160_000;

export interface Laying extends PlacedPatch {
  /** Shares, 0..1. */
  feather: number;
  opacity: number;
  heals: boolean;
  /** Where its picture is taken from cell by cell, in place of one source. */
  fill: PlacedFill | null;
}

/** What is added to the roots of the source's colours, on cells: differences on the rim, and the membrane within. */
function membranes(
  radius: number,
  away: Float32Array,
  grid: CellGrid,
  own: PlacedPlanes,
  [readOwn, readSource]: readonly [Reader, Reader],
  box: Box
): Float32Array[] {
  const counts = new Uint32Array(away.length);
  const sums = COLOURS.map(() => new Float32Array(away.length));
  const { left, top, right, bottom } = pixelsIn(own, box);
  for (let y = top; y < bottom; y++) {
    const row = Math.floor((own.originY + (y + 0.5) / own.scaleY - grid.top) / grid.cell);
    if (row < 0 || row >= grid.rows) continue;
    for (let x = left; x < right; x++) {
      const column = Math.floor((own.originX + (x + 0.5) / own.scaleX - grid.left) / grid.cell);
      if (column < 0 || column >= grid.columns) continue;
      const at = row * grid.columns + column;
      if (away[at] < radius || away[at] > radius * RIM) continue;
      counts[at]++;
      for (let c = 0; c < 3; c++) sums[c][at] += root(readOwn(c as 0, x, y)) - root(readSource(c as 0, x, y));
    }
  }
  const known = Uint8Array.from(counts, (count) => (count > 0 ? 1 : 0));
  const inside = Uint8Array.from(away, (distance) => (distance < radius ? 1 : 0));
  for (const values of sums) {
    for (let at = 0; at < values.length; at++) if (counts[at] > 0) values[at] /= counts[at];
    fillMembrane(values, known, inside, grid.columns);
  }
  return sums;
}

/**
 * Writes a place into `out`. `own` holds planes about it and `source` about where its texture comes from, each on the grid of
 * `out`; `box`: the part of the sensor that they are read in about the place.
 */
export function layIn(
  { points, radius, source: [dx, dy], feather, opacity, heals, fill }: Laying,
  own: PlacedPlanes,
  source: PlacedPlanes,
  box: Box,
  out: PlacedPlanes
): void {
  const area = (box.right - box.left) * (box.bottom - box.top);
  const cell = Math.max(radius / CELLS, 1 / own.scaleX, Math.sqrt(area / MOST_CELLS));
  const grid = cellsOf(box, cell);
  const away = distances(points, grid, radius * (RIM + 0.5));
  // Whole sensor pixels: at full size the source keeps its grain.
  const readSource = fill
    ? fillReader(source, own, fill)
    : readerOf(source, own, Math.round(dx), Math.round(dy));
  const readOwn = readerOf(own, own);
  const added = heals ? membranes(radius, away, grid, own, [readOwn, readSource], box) : null;
  const inner = radius * (1 - feather);
  const [offX, offY] = [
    Math.round((own.originX - out.originX) * out.scaleX),
    Math.round((own.originY - out.originY) * out.scaleY)
  ];
  const { left, top, right, bottom } = pixelsIn(own, box);
  const planes = COLOURS.map((name) => out[name]);
  for (let y = Math.max(top, -offY); y < Math.min(bottom, out.height - offY); y++) {
    const sy = own.originY + (y + 0.5) / own.scaleY;
    for (let x = Math.max(left, -offX); x < Math.min(right, out.width - offX); x++) {
      const sx = own.originX + (x + 0.5) / own.scaleX;
      const distance = readCells(away, grid, sx, sy);
      if (distance >= radius) continue;
      const share = opacity * (inner >= radius ? 1 : 1 - smoothstep(inner, radius, distance));
      const at = (y + offY) * out.width + x + offX;
      for (let c = 0; c < 3; c++) {
        const taken = readSource(c as 0, x, y);
        const value = added ? Math.max(0, root(taken) + readCells(added[c], grid, sx, sy)) ** 2 : taken;
        planes[c][at] += share * (value - readOwn(c as 0, x, y));
      }
    }
  }
}
