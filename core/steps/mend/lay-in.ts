/** Lays texture from elsewhere into a place: as it is (clone), or in the light and colour of the place (heal). */
import { smoothstep } from '../../math/smoothstep.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { extentOf, pixelsOf } from '../../picture/tile/sensor-rectangle.ts';
import { type CellGrid, cellsOf, distances, readCells } from './away-from.ts';
import { type Box, type PlacedRegion, RIM } from './box.ts';
import { type PlacedFill, fillReader } from './fill/fill.ts';
import { fillMembrane } from './membrane.ts';
import { COLOURS, type Reader, readerOf, root } from './reader.ts';

/** Cells to a radius. */
const CELLS = 5;
/** A place is made in pieces of so many radii, with so many about each: that far into a stroke its ends tell nothing. */
const PIECE = 32;
const MARGIN = 4;

export interface Laying extends PlacedRegion {
  source: readonly [number, number];
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
  const { left, top, right, bottom } = pixelsOf(own, box);
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

const clipped = (one: Box, other: Box): Box => ({
  left: Math.max(one.left, other.left),
  top: Math.max(one.top, other.top),
  right: Math.min(one.right, other.right),
  bottom: Math.min(one.bottom, other.bottom)
});
const isEmpty = ({ left, top, right, bottom }: Box): boolean => left >= right || top >= bottom;

/** The part of a polyline that comes near a box, as pieces of it: each a polyline of its own. */
function partsNear(points: readonly number[], box: Box, reach: number): number[][] {
  if (points.length === 2) {
    const [x, y] = points;
    const near =
      x + reach > box.left && x - reach < box.right && y + reach > box.top && y - reach < box.bottom;
    return near ? [[x, y]] : [];
  }
  const parts: number[][] = [];
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [ax, ay, bx, by] = [points[i], points[i + 1], points[i + 2], points[i + 3]];
    const near =
      Math.max(ax, bx) + reach > box.left &&
      Math.min(ax, bx) - reach < box.right &&
      Math.max(ay, by) + reach > box.top &&
      Math.min(ay, by) - reach < box.bottom;
    if (near) parts.push([ax, ay, bx, by]);
  }
  return parts;
}

/**
 * Writes a place into `out`. `own` holds planes about it and `source` about where its texture comes from, each on the grid of
 * `out`; `box`: the part of the sensor that they are read in about the place.
 */
export function layIn(
  laying: Laying,
  own: PlacedPlanes,
  source: PlacedPlanes,
  box: Box,
  out: PlacedPlanes
): void {
  const { radius, fill } = laying;
  const [dx, dy] = laying.source;
  // Whole sensor pixels: at full size the source keeps its grain.
  const readSource = fill
    ? fillReader(source, own, fill)
    : readerOf(source, own, Math.round(dx), Math.round(dy));
  const readOwn = readerOf(own, own);
  const made = extentOf(out);
  // Pieces lie where the place does, whatever part of the picture is made.
  const side = PIECE * radius;
  for (let top = box.top; top < box.bottom; top += side)
    for (let left = box.left; left < box.right; left += side) {
      const piece = clipped({ left, top, right: left + side, bottom: top + side }, box);
      const parts = isEmpty(clipped(piece, made)) ? [] : partsNear(laying.points, piece, radius);
      if (parts.length > 0) layPiece(laying, piece, own, box, out, [readOwn, readSource]);
    }
}

function layPiece(
  { points, radius, feather, opacity, heals }: Laying,
  piece: Box,
  own: PlacedPlanes,
  box: Box,
  out: PlacedPlanes,
  readers: readonly [Reader, Reader]
): void {
  const [readOwn, readSource] = readers;
  const margin = MARGIN * radius;
  const about = clipped(
    {
      left: piece.left - margin,
      top: piece.top - margin,
      right: piece.right + margin,
      bottom: piece.bottom + margin
    },
    box
  );
  const grid = cellsOf(about, Math.max(radius / CELLS, 1 / own.scaleX));
  const reach = radius * (RIM + 0.5);
  const away = new Float32Array(grid.columns * grid.rows).fill(reach);
  for (const part of partsNear(points, about, reach)) distances(part, grid, reach, away);
  const added = heals ? membranes(radius, away, grid, own, readers, about) : null;
  const inner = radius * (1 - feather);
  const [offX, offY] = [
    Math.round((own.originX - out.originX) * out.scaleX),
    Math.round((own.originY - out.originY) * out.scaleY)
  ];
  const planes = COLOURS.map((name) => out[name]);
  const { left, top, right, bottom } = pixelsOf(own, piece);
  for (let y = Math.max(top, -offY); y < Math.min(bottom, out.height - offY); y++) {
    const sy = own.originY + (y + 0.5) / own.scaleY;
    if (sy < piece.top || sy >= piece.bottom) continue;
    for (let x = Math.max(left, -offX); x < Math.min(right, out.width - offX); x++) {
      const sx = own.originX + (x + 0.5) / own.scaleX;
      if (sx < piece.left || sx >= piece.right) continue;
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
