/** A picture of a chart to its ordered corners. */
import { type Point, sensorToField } from '../../math/frame-geometry.ts';
import type { Planes } from '../../picture/tile/planes.ts';
import type { GreyPlane } from '../edges/trace-polyline.ts';
import { type ChartKind, SEARCH_EDGES, findCorners, refineCorner } from './find-corners.ts';
import { carry, homography } from '../../math/homography.ts';
import { type BoardCorner, orderGrid } from './order-grid.ts';

export interface MeasuredChart {
  kind: ChartKind;
  /** Corners in field units. */
  corners: BoardCorner[];
}

/** Windows and paving form grids too: a grid of lines has to be larger, full and even to pass for a chart. */
const FEWEST_LINES = 30;
const LEAST_FULL = 0.75;
/** Corners lie this near to an even grid seen aslant, in steps of it; a lens bends it by less. */
const MOST_UNEVEN = 0.2;
/** Share of the step to the next corner that belongs to a corner alone. */
const OWN_SHARE = 0.4;

function isChart(board: readonly BoardCorner[], kind: ChartKind): boolean {
  const columns = board.map((corner) => corner.column);
  const rows = board.map((corner) => corner.row);
  const across = Math.max(...columns) - Math.min(...columns) + 1;
  const down = Math.max(...rows) - Math.min(...rows) + 1;
  if (kind === 'lines' && (board.length < FEWEST_LINES || Math.min(across, down) < 5)) return false;
  if (kind === 'lines' && board.length < LEAST_FULL * across * down) return false;
  const places = board.map(({ column, row }): Point => [column / across, row / down]);
  const h = homography(
    places,
    board.map(({ at }) => at)
  );
  let squares = 0;
  board.forEach(({ at }, i) => {
    const [x, y] = carry(h, places[i]);
    squares += (x - at[0]) ** 2 + (y - at[1]) ** 2;
  });
  const span = (of: (at: Point) => number): number =>
    Math.max(...board.map(({ at }) => of(at))) - Math.min(...board.map(({ at }) => of(at)));
  const step =
    Math.hypot(
      span(([x]) => x),
      span(([, y]) => y)
    ) / Math.hypot(across, down);
  return Math.sqrt(squares / board.length) < MOST_UNEVEN * step;
}

/** Corners once more, each by as much of the picture about it as belongs to it alone. */
function refineBoard(plane: GreyPlane, board: readonly BoardCorner[]): BoardCorner[] {
  const places = new Map(board.map(({ column, row, at }) => [`${column},${row}`, at]));
  return board.map((corner) => {
    const { column, row, at } = corner;
    const steps = [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1]
    ].flatMap(([dx, dy]) => {
      const next = places.get(`${column + dx},${row + dy}`);
      return next ? [Math.hypot(next[0] - at[0], next[1] - at[1])] : [];
    });
    if (steps.length === 0) return corner;
    const refined = refineCorner(plane, at, Math.max(4, OWN_SHARE * Math.min(...steps)));
    return refined ? { ...corner, at: refined } : corner;
  });
}

/** Null when the picture shows no chart. */
export function measureChart(planes: Planes): MeasuredChart | null {
  const { width, height } = planes;
  const size = { width, height };
  const plane = (data: Float32Array) => ({ width, height, data });
  for (const [kind, edge] of [
    ['chessboard', SEARCH_EDGES[0]],
    ...SEARCH_EDGES.map((size) => ['lines', size] as const),
    ['chessboard', SEARCH_EDGES[1]]
  ] as const) {
    const board = orderGrid(findCorners(plane(planes.g), kind, edge));
    if (!board || !isChart(board, kind)) continue;
    const refined =
      kind === 'chessboard'
        ? refineBoard(plane(planes.g.map((light) => Math.sqrt(Math.max(0, light))) as Float32Array), board)
        : board;
    return { kind, corners: refined.map((corner) => ({ ...corner, at: sensorToField(corner.at, size) })) };
  }
  return null;
}
