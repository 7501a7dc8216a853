/** What a larger place is filled with: for each cell of a grid over it, from where its picture is taken. */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { fieldToSensor, halfDiagonal } from '../../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import type { Box } from '../box.ts';
import { COLOURS, type Reader } from '../reader.ts';

/** Cells of a place. */
export const MOST_CELLS = 3000;

export const fillSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['left', 'top', 'cell', 'columns', 'offsets'],
  properties: {
    /** Field position of the first cell's corner, and the length of a cell's side. */
    left: { type: 'number', minimum: -1.6, maximum: 1.6 },
    top: { type: 'number', minimum: -1.6, maximum: 1.6 },
    cell: { type: 'number', minimum: 0.0005, maximum: 0.2 },
    columns: { type: 'integer', minimum: 1, maximum: 400 },
    /** Across and down to where each cell's picture is taken from, in hundred-thousandths of half the diagonal, row by row. */
    offsets: {
      type: 'array',
      minItems: 2,
      maxItems: MOST_CELLS * 2,
      items: { type: 'integer', minimum: -250000, maximum: 250000 }
    }
  }
} as const;

export interface Fill {
  left: number;
  top: number;
  cell: number;
  columns: number;
  offsets: readonly number[];
}

export const PER_UNIT = 1e5;

/** A fill in sensor pixels; offsets are whole ones, so that the grain of the picture stays. */
export interface PlacedFill {
  left: number;
  top: number;
  cell: number;
  columns: number;
  rows: number;
  dx: Int32Array;
  dy: Int32Array;
}

export function placedFill({ left, top, cell, columns, offsets }: Fill, frame: FrameSize): PlacedFill {
  const unit = halfDiagonal(frame);
  const [x, y] = fieldToSensor([left, top], frame);
  const count = Math.floor(offsets.length / 2);
  const of = (first: 0 | 1): Int32Array =>
    Int32Array.from({ length: count }, (_, i) => Math.round((offsets[2 * i + first] / PER_UNIT) * unit));
  return {
    left: x,
    top: y,
    cell: cell * unit,
    columns,
    rows: Math.max(1, Math.ceil(count / columns)),
    dx: of(0),
    dy: of(1)
  };
}

/** The part of the sensor that a fill takes its picture from. */
export function fillSource({ left, top, cell, columns, dx, dy }: PlacedFill): Box {
  const box: Box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < dx.length; i++) {
    const [x, y] = [left + (i % columns) * cell + dx[i], top + Math.floor(i / columns) * cell + dy[i]];
    // Cells reach into their neighbours, and the outer ones beyond the grid.
    box.left = Math.min(box.left, x - 4 * cell);
    box.top = Math.min(box.top, y - 4 * cell);
    box.right = Math.max(box.right, x + 5 * cell);
    box.bottom = Math.max(box.bottom, y + 5 * cell);
  }
  return box;
}

const clamp = (value: number, last: number): number => (value < 0 ? 0 : value > last ? last : value);

/** Between cells that take from different places their pictures are mixed over a part of a cell only. */
const steep = (share: number): number => {
  const t = Math.min(1, Math.max(0, (share - 0.25) * 2));
  return t * t * (3 - 2 * t);
};

/** Reads what a fill lays in, by the pixels of `like`; beyond its grid, what its outer cells lay. */
export function fillReader(planes: PlacedPlanes, like: PlacedPlanes, fill: PlacedFill): Reader {
  const { width, height, scaleX, scaleY } = planes;
  const all = COLOURS.map((name) => planes[name]);
  const { left, top, cell, columns, rows, dx, dy } = fill;
  const at = (colour: 0 | 1 | 2, sx: number, sy: number, i: number): number => {
    const own = Math.min(i, dx.length - 1);
    const x = clamp(Math.round((sx + dx[own] - planes.originX) * scaleX - 0.5), width - 1);
    const y = clamp(Math.round((sy + dy[own] - planes.originY) * scaleY - 0.5), height - 1);
    return all[colour][y * width + x];
  };
  return (colour, x, y) => {
    const sx = like.originX + (x + 0.5) / like.scaleX;
    const sy = like.originY + (y + 0.5) / like.scaleY;
    const cx = clamp((sx - left) / cell - 0.5, columns - 1);
    const cy = clamp((sy - top) / cell - 0.5, rows - 1);
    const [ix, iy] = [Math.min(columns - 1, cx | 0), Math.min(rows - 1, cy | 0)];
    const [jx, jy] = [Math.min(columns - 1, ix + 1), Math.min(rows - 1, iy + 1)];
    const corners = [iy * columns + ix, iy * columns + jx, jy * columns + ix, jy * columns + jx];
    const first = Math.min(corners[0], dx.length - 1);
    const same = corners.every((i) => {
      const own = Math.min(i, dx.length - 1);
      return dx[own] === dx[first] && dy[own] === dy[first];
    });
    if (same) return at(colour, sx, sy, first);
    const [fx, fy] = [steep(cx - ix), steep(cy - iy)];
    return (
      (at(colour, sx, sy, corners[0]) * (1 - fx) + at(colour, sx, sy, corners[1]) * fx) * (1 - fy) +
      (at(colour, sx, sy, corners[2]) * (1 - fx) + at(colour, sx, sy, corners[3]) * fx) * fy
    );
  };
}
