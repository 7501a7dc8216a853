/** What lies within a closed outline: a polygon of corners, or what was drawn freely. */
import type { FrameSize, Point } from '../../../math/frame-geometry.ts';
import { percent } from '../../../settings/percent-schema.ts';
import { point } from '../../../settings/point-schema.ts';
import { partSwitch } from './part-base.ts';
import { type Grid, toCells } from '../../../picture/tile/grid.ts';
import { softened } from '../soften.ts';

/** Corners of one outline: what is drawn freely is thinned out below that. */
export const MOST_CORNERS = 2000;

export const outlineProperties = {
  points: { type: 'array', minItems: 3, maxItems: MOST_CORNERS, items: point },
  feather: percent(
    'Feather',
    0,
    'How soft the outline is: at 100 % over a fifth of the way from the middle of the frame to its corner.'
  )
} as const;

/** Where it came from. */
export const outlineOrigin = {
  front: partSwitch(
    'Front',
    'The front that Lines trued up: on another frame it is where its own lines have it.'
  )
} as const;

export interface Outline {
  points: readonly Point[];
  feather: number;
  front?: boolean;
}

/** Lines of a cell's height that its share is told by. */
const LINES = 4;
/** Field units of the widest feather. */
const WIDEST = 0.2;

export function drawOutline({ points, feather }: Outline, grid: Grid, out: Float32Array): void {
  out.fill(0);
  fillOutline(
    points.map((each) => toCells(grid, each)),
    grid,
    out
  );
  if (feather > 0) softened(out, grid, (feather / 100) * WIDEST * grid.unit);
}

/** Adds to cells as much of each as lies within an outline, whose corners are places in cells. */
export function fillOutline(corners: readonly Point[], grid: FrameSize, out: Float32Array): void {
  const crossings: number[] = [];
  const top = Math.max(0, Math.floor(Math.min(...corners.map(([, y]) => y))));
  const bottom = Math.min(grid.height - 1, Math.ceil(Math.max(...corners.map(([, y]) => y))));
  for (let y = top; y <= bottom; y++)
    for (let line = 0; line < LINES; line++) {
      const at = y - 0.5 + (line + 0.5) / LINES;
      crossings.length = 0;
      for (let i = 0, j = corners.length - 1; i < corners.length; j = i++) {
        const [[ax, ay], [bx, by]] = [corners[j], corners[i]];
        if (ay > at !== by > at) crossings.push(ax + ((at - ay) / (by - ay)) * (bx - ax));
      }
      crossings.sort((one, other) => one - other);
      // Even and odd: between each two crossings the outline is filled.
      for (let i = 0; i + 1 < crossings.length; i += 2)
        fillSpan(out, y * grid.width, grid.width, crossings[i] + 0.5, crossings[i + 1] + 0.5, 1 / LINES);
    }
}

/** Adds to the cells of a row as much as they lie between two places; a cell begins at its number. */
function fillSpan(
  out: Float32Array,
  row: number,
  width: number,
  left: number,
  right: number,
  by: number
): void {
  const [from, to] = [Math.max(0, left), Math.min(width, right)];
  if (to <= from) return;
  const [first, last] = [Math.floor(from), Math.min(width - 1, Math.floor(to))];
  if (first === last) {
    out[row + first] += by * (to - from);
    return;
  }
  out[row + first] += by * (first + 1 - from);
  for (let x = first + 1; x < last; x++) out[row + x] += by;
  out[row + last] += by * (to - last);
}
