import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { Point } from './frame-geometry.ts';

/** Homography from board to field places by the direct linear transformation, with normalised board places. */
export function homography(from: readonly Point[], to: readonly Point[]): number[] {
  const rows = from.flatMap(([x, y], i) => {
    const [u, v] = to[i];
    return [
      [x, y, 1, 0, 0, 0, -u * x, -u * y, -u],
      [0, 0, 0, x, y, 1, -v * x, -v * y, -v]
    ];
  });
  const svd = new SingularValueDecomposition(new Matrix(rows), { autoTranspose: true });
  const h = svd.rightSingularVectors.getColumn(8);
  return h.slice(0, 8).map((value) => value / h[8]);
}

/** Where a homography, whose eight figures begin at `o`, carries a place. */
export const carry = (h: readonly number[], [x, y]: Point, o = 0): Point => {
  const w = h[o + 6] * x + h[o + 7] * y + 1;
  return [(h[o] * x + h[o + 1] * y + h[o + 2]) / w, (h[o + 3] * x + h[o + 4] * y + h[o + 5]) / w];
};
