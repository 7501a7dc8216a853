/** A picture of a chart to its ordered corners. */
import { sensorToField } from '../camera/frame-geometry.ts';
import type { Planes } from '../pipeline/planes.ts';
import { type ChartKind, SEARCH_EDGES, findCorners } from './find-corners.ts';
import { type BoardCorner, orderGrid } from './order-grid.ts';

export interface MeasuredChart {
  kind: ChartKind;
  /** Corners in field units. */
  corners: BoardCorner[];
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
    if (!board) continue;
    return { kind, corners: board.map((corner) => ({ ...corner, at: sensorToField(corner.at, size) })) };
  }
  return null;
}
