/** What a picture shows at even places of a quadrangle. */
import type { Point } from '../../../math/frame-geometry.ts';
import type { Looks } from '../sky/looks.ts';

const PLACES = 80;

/** Places from one share to another. */
export const evenly = (from: number, to: number): number[] =>
  Array.from({ length: PLACES }, (_, i) => from + ((i + 0.5) / PLACES) * (to - from));

/** Between corners (upper left, upper right, lower right, lower left), at shares across and down, also beyond 0..1. */
export const placeIn = ([a, b, c, d]: readonly Point[], across: number, down: number): Point => {
  const at = (axis: 0 | 1): number =>
    (a[axis] * (1 - across) + b[axis] * across) * (1 - down) +
    (d[axis] * (1 - across) + c[axis] * across) * down;
  return [at(0), at(1)];
};

/** Stops at places across for each place down, without those that lie outside of the picture. */
export const samples = (
  across: readonly number[],
  down: readonly number[],
  corners: readonly Point[],
  { width, height, stops }: Looks
): number[][] =>
  down.map((v) =>
    across.flatMap((u) => {
      const [x, y] = placeIn(corners, u, v).map(Math.round);
      return x >= 0 && y >= 0 && x < width && y < height ? [stops[y * width + x]] : [];
    })
  );
