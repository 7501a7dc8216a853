/** The outline of a stroke on the sheet: where it is as far from its line as it is wide, as closed rings of points. */
import { contours } from 'd3-contour';
import { cellsOf, distances } from '$core/steps/mend/away-from.ts';

/** Cells to a radius, and the most along the outline's longer side. */
const CELLS = 4;
const MOST = 220;

/** Rings of x and y one after another, in the pixels that the line is in. */
export function strokeOutline(line: readonly number[], radius: number): number[][] {
  const [xs, ys] = [line.filter((_, i) => i % 2 === 0), line.filter((_, i) => i % 2 === 1)];
  const margin = radius * 1.5 + 2;
  const box = {
    left: Math.min(...xs) - margin,
    top: Math.min(...ys) - margin,
    right: Math.max(...xs) + margin,
    bottom: Math.max(...ys) + margin
  };
  const cell = Math.max(radius / CELLS, Math.max(box.right - box.left, box.bottom - box.top) / MOST);
  const grid = cellsOf(box, cell);
  const away = distances(line, grid, 2 * radius + 2 * cell);
  // Contours go about what is above a threshold.
  const { coordinates } = contours()
    .size([grid.columns, grid.rows])
    .contour(
      [...away].map((value) => -value),
      -radius
    );
  return coordinates.flatMap((polygon) =>
    polygon.map((ring) =>
      ring.flatMap(([column, row]) => [grid.left + column * grid.cell, grid.top + row * grid.cell])
    )
  );
}
