/** How far places are from a stroke: on a grid of cells about it, read between them. */
import type { Box } from './box.ts';

/** Cells of a box of the sensor, whose first corner is `left`, `top`. */
export interface CellGrid {
  left: number;
  top: number;
  /** Sensor pixels to a cell. */
  cell: number;
  columns: number;
  rows: number;
}

export function cellsOf({ left, top, right, bottom }: Box, cell: number): CellGrid {
  return {
    left,
    top,
    cell,
    columns: Math.max(2, Math.ceil((right - left) / cell)),
    rows: Math.max(2, Math.ceil((bottom - top) / cell))
  };
}

/**
 * Distance in sensor pixels of every cell's middle from a polyline of sensor positions (x, y one after another), as far as
 * `most`; what is further has `most`. `out`: distances from others, of which the least are kept.
 */
export function distances(
  points: readonly number[],
  grid: CellGrid,
  most: number,
  out = new Float32Array(grid.columns * grid.rows).fill(most)
): Float32Array {
  const { left, top, cell, columns, rows } = grid;
  const count = points.length / 2;
  for (let i = 0; i < Math.max(1, count - 1); i++) {
    const [ax, ay] = [points[2 * i], points[2 * i + 1]];
    const next = count > 1 ? i + 1 : i;
    const [bx, by] = [points[2 * next], points[2 * next + 1]];
    const [dx, dy] = [bx - ax, by - ay];
    const square = dx * dx + dy * dy;
    const column = (x: number): number => Math.min(columns, Math.max(0, Math.floor((x - left) / cell)));
    const row = (y: number): number => Math.min(rows, Math.max(0, Math.floor((y - top) / cell)));
    const [x0, x1] = [column(Math.min(ax, bx) - most), column(Math.max(ax, bx) + most + cell)];
    const [y0, y1] = [row(Math.min(ay, by) - most), row(Math.max(ay, by) + most + cell)];
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const [px, py] = [left + (x + 0.5) * cell - ax, top + (y + 0.5) * cell - ay];
        const along = square === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / square));
        const away = Math.hypot(px - along * dx, py - along * dy);
        const at = y * columns + x;
        if (away < out[at]) out[at] = away;
      }
  }
  return out;
}

/** Reads values of cells between their middles at sensor positions; beyond the middles of the outer ones, theirs. */
export function readCells(values: Float32Array, grid: CellGrid, x: number, y: number): number {
  const { left, top, cell, columns, rows } = grid;
  const cx = Math.min(columns - 1, Math.max(0, (x - left) / cell - 0.5));
  const cy = Math.min(rows - 1, Math.max(0, (y - top) / cell - 0.5));
  const ix = Math.min(columns - 2, cx | 0);
  const iy = Math.min(rows - 2, cy | 0);
  const [fx, fy] = [cx - ix, cy - iy];
  const at = iy * columns + ix;
  const upper = values[at] * (1 - fx) + values[at + 1] * fx;
  const lower = values[at + columns] * (1 - fx) + values[at + columns + 1] * fx;
  return upper * (1 - fy) + lower * fy;
}
