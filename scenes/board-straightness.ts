/** How far the rows and columns of a measured board are from straight once a lens is undone: for tests and figures. */
import type { BoardView } from '../core/measure/chart/calibrate.ts';
import type { Point } from '../core/math/frame-geometry.ts';
import { distanceFrom, fitLine } from '../core/optics/fit-line.ts';
import { type LensModel, undistort } from '../core/optics/lens-model.ts';

/** Corners that a row or column has to have. */
const FEWEST = 5;

/** Distances of corners from the lines through their row and their column, in field units. */
export function unevenness(corners: BoardView, model: LensModel): number[] {
  return (['row', 'column'] as const).flatMap((key) => {
    const lines = new Map<number, Point[]>();
    for (const corner of corners)
      lines.set(corner[key], [...(lines.get(corner[key]) ?? []), undistort(corner.at, model)]);
    return [...lines.values()].flatMap((points) => {
      if (points.length < FEWEST) return [];
      const line = fitLine(points);
      return points.map((point) => Math.abs(distanceFrom(line, point)));
    });
  });
}
