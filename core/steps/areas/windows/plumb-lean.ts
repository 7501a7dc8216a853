/** How upright lines lean at each place of a picture: those of a tilted camera run together upwards or downwards. */
import { quantiles } from '../../../math/quantiles.ts';
import type { Looks } from '../sky/looks.ts';

/** Stops across three cells from which on there is an edge, and how much of them may be along an upright one. */
const EDGE = 0.4;
const UPRIGHT = 0.35;
/** Columns in which the lean is told by itself, and edges that one needs. */
const COLUMNS = 12;
const LEAST = 60;

/** Cells to the right for each one down, of what is upright at a column; 0 where nothing is. */
export type Lean = (column: number) => number;

/**
 * The lean as it changes over the width: the median of what each column of the picture shows, and the line that the medians of
 * pairs of columns agree on (Theil & Sen).
 */
export function plumbLean({ stops, width, height }: Looks): Lean {
  const seen: number[][] = Array.from({ length: COLUMNS }, () => []);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const across = sobel(stops, i, 1, width);
      if (Math.abs(across) < EDGE) continue;
      const down = sobel(stops, i, width, 1);
      if (Math.abs(down) > UPRIGHT * Math.abs(across)) continue;
      seen[Math.floor((x * COLUMNS) / width)].push(-down / across);
    }
  const told = seen.flatMap((leans, n) =>
    leans.length < LEAST
      ? []
      : [{ at: ((n + 0.5) * width) / COLUMNS, lean: quantiles(Float32Array.from(leans))(0.5) }]
  );
  if (told.length === 0) return () => 0;
  const slopes = told.flatMap((one, i) =>
    told.slice(i + 1).map((other) => (other.lean - one.lean) / (other.at - one.at))
  );
  const slope = slopes.length > 0 ? middle(slopes) : 0;
  const start = middle(told.map(({ at, lean }) => lean - slope * at));
  return (column) => start + slope * column;
}

const middle = (of: readonly number[]): number => quantiles(Float32Array.from(of))(0.5);

/** Mean change over two cells in one direction, across three in the other. */
const sobel = (of: Float32Array, i: number, ahead: number, beside: number): number =>
  (of[i + ahead - beside] -
    of[i - ahead - beside] +
    2 * (of[i + ahead] - of[i - ahead]) +
    of[i + ahead + beside] -
    of[i - ahead + beside]) /
  4;
