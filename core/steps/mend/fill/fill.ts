/** What a larger place is filled with: for each cell of a grid over it, from where its picture is taken. */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { fieldToSensor, halfDiagonal } from '../../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import type { Box } from '../box.ts';
import { type Matrix3, invert3, multiply } from '../../../math/matrix3.ts';
import { COLOURS, type Reader, cubic } from '../reader.ts';
import { MOST_SURFACES, type Surface, movedAlong } from './surface.ts';

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
    },
    /** Floor and walls: homographies from field positions to places on them, row by row, as they are at the place itself. */
    surfaces: {
      type: 'array',
      maxItems: MOST_SURFACES,
      items: {
        type: 'array',
        minItems: 9,
        maxItems: 9,
        items: { type: 'number', minimum: -1000, maximum: 1000 }
      }
    },
    /** Of each cell, along which of them it is moved, from 1; 0: within the picture. */
    along: {
      type: 'array',
      maxItems: MOST_CELLS,
      items: { type: 'integer', minimum: 0, maximum: MOST_SURFACES }
    }
  }
} as const;

export interface Fill {
  left: number;
  top: number;
  cell: number;
  columns: number;
  offsets: readonly number[];
  surfaces?: readonly (readonly number[])[];
  along?: readonly number[];
}

export const PER_UNIT = 1e5;

/** A fill in sensor pixels; offsets within the picture are whole ones, so that its grain stays. */
export interface PlacedFill {
  left: number;
  top: number;
  cell: number;
  columns: number;
  rows: number;
  dx: Float64Array;
  dy: Float64Array;
  /** Which surface each cell is moved along, from 1; 0: none. */
  along: Uint8Array;
  surfaces: readonly { to: Matrix3; back: Matrix3 }[];
}

export function placedFill(
  { left, top, cell, columns, offsets, surfaces = [], along = [] }: Fill,
  frame: FrameSize
): PlacedFill {
  const unit = halfDiagonal(frame);
  const [x, y] = fieldToSensor([left, top], frame);
  const count = Math.floor(offsets.length / 2);
  const on = Uint8Array.from({ length: count }, (_, i) =>
    (along[i] ?? 0) <= surfaces.length ? (along[i] ?? 0) : 0
  );
  const of = (first: 0 | 1): Float64Array =>
    Float64Array.from({ length: count }, (_, i) => {
      const offset = (offsets[2 * i + first] / PER_UNIT) * unit;
      return on[i] > 0 ? offset : Math.round(offset);
    });
  return {
    left: x,
    top: y,
    cell: cell * unit,
    columns,
    rows: Math.max(1, Math.ceil(count / columns)),
    dx: of(0),
    dy: of(1),
    along: on,
    surfaces: surfaces.map((surface) => {
      const to = onSensor(surface as Surface, frame);
      return { to, back: invert3(to) };
    })
  };
}

/** A homography of field positions as one of sensor positions. */
function onSensor(surface: Surface, frame: FrameSize): Matrix3 {
  const unit = halfDiagonal(frame);
  const [x, y] = [frame.width / 2, frame.height / 2];
  const toField: Matrix3 = [1 / unit, 0, -x / unit, 0, 1 / unit, -y / unit, 0, 0, 1];
  return multiply([unit, 0, x, 0, unit, y, 0, 0, 1], multiply(surface, toField));
}

const moved: [number, number] = [0, 0];

/** Writes where a cell's picture of a place is taken from, in sensor pixels; false where a surface has nothing there. */
function sourceOf(
  { dx, dy, along, surfaces }: PlacedFill,
  cell: number,
  x: number,
  y: number,
  out: [number, number]
): boolean {
  if (along[cell] > 0) {
    const { to, back } = surfaces[along[cell] - 1];
    return movedAlong(to, back, [x, y], [dx[cell], dy[cell]], out);
  }
  out[0] = x + dx[cell];
  out[1] = y + dy[cell];
  return true;
}

/** The part of the sensor that a fill takes its picture from. */
export function fillSource(fill: PlacedFill): Box {
  const { left, top, cell, columns, dx } = fill;
  const box: Box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < dx.length; i++) {
    const [x, y] = [left + (i % columns) * cell, top + Math.floor(i / columns) * cell];
    // Cells reach into their neighbours, and the outer ones beyond the grid.
    for (const across of [-4, 0.5, 5])
      for (const down of [-4, 0.5, 5]) {
        if (!sourceOf(fill, i, x + across * cell, y + down * cell, moved)) continue;
        // What is read between pixels needs some about it.
        box.left = Math.min(box.left, moved[0] - 4);
        box.top = Math.min(box.top, moved[1] - 4);
        box.right = Math.max(box.right, moved[0] + 4);
        box.bottom = Math.max(box.bottom, moved[1] + 4);
      }
  }
  // A fill all of whose surfaces lie elsewhere takes what is there.
  return box.left <= box.right ? box : { left, top, right: left + 1, bottom: top + 1 };
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
  const { left, top, cell, columns, rows, dx, dy, along } = fill;
  const from: [number, number] = [0, 0];
  const at = (colour: 0 | 1 | 2, sx: number, sy: number, i: number): number => {
    const own = Math.min(i, dx.length - 1);
    const known = sourceOf(fill, own, sx, sy, from);
    const x = ((known ? from[0] : sx) - planes.originX) * scaleX - 0.5;
    const y = ((known ? from[1] : sy) - planes.originY) * scaleY - 0.5;
    if (along[own] > 0) return cubic(all[colour], width, height, x, y);
    return all[colour][clamp(Math.round(y), height - 1) * width + clamp(Math.round(x), width - 1)];
  };
  const ownOf = (i: number): number => Math.min(i, dx.length - 1);
  return (colour, x, y) => {
    const sx = like.originX + (x + 0.5) / like.scaleX;
    const sy = like.originY + (y + 0.5) / like.scaleY;
    const cx = clamp((sx - left) / cell - 0.5, columns - 1);
    const cy = clamp((sy - top) / cell - 0.5, rows - 1);
    const [ix, iy] = [Math.min(columns - 1, cx | 0), Math.min(rows - 1, cy | 0)];
    const [jx, jy] = [Math.min(columns - 1, ix + 1), Math.min(rows - 1, iy + 1)];
    const corners = [iy * columns + ix, iy * columns + jx, jy * columns + ix, jy * columns + jx].map(ownOf);
    const [first] = corners;
    const same = corners.every(
      (i) => dx[i] === dx[first] && dy[i] === dy[first] && along[i] === along[first]
    );
    if (same) return at(colour, sx, sy, first);
    const [fx, fy] = [steep(cx - ix), steep(cy - iy)];
    return (
      (at(colour, sx, sy, corners[0]) * (1 - fx) + at(colour, sx, sy, corners[1]) * fx) * (1 - fy) +
      (at(colour, sx, sy, corners[2]) * (1 - fx) + at(colour, sx, sy, corners[3]) * fx) * fy
    );
  };
}
