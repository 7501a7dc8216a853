/** The four lines that a bright piece of a picture ends at, if it is an upright opening. */
import type { FrameSize, Point } from '../../../math/frame-geometry.ts';
import type { Lean } from './plumb-lean.ts';

/** How far, in cells to one cell, the sides of an opening may be off what is upright there, and its head off what is level. */
const OFF_PLUMB = 0.075;
const OFF_LEVEL = 1.3;
/** Slopes that are tried to both sides, and ends that a line is told by at most. */
const TRIED = 16;
const ENDS = 150;
/** Cells that an edge may be off its line by. */
const NEAR = 1.3;
/** Share by which a line at the end of what is tried has to be the better one. */
const STRAYS = 0.05;
/** Share of the rows whose ends lie on each side, and of the columns whose upper ends lie on the head. */
const SIDES = 0.58;
const HEAD = 0.3;
/** Share of the piece that may lie outside of its four lines, and that of the inside that it fills at least. */
const BEYOND = 0.22;
const FILLED = 0.4;

/** A straight line along one direction of a picture: `at + slope · along`. */
interface Line {
  at: number;
  slope: number;
  /** Share of the ends that lie on it. */
  share: number;
}

export interface UprightQuad {
  left: Line;
  right: Line;
  top: Line;
  bottom: Line;
  /** Share of the inside that the piece fills. */
  filled: number;
}

/** The line, of slopes within a reach about one, that most of the ends lie on: exhaustively, since there are few. */
function lineOf(ends: readonly Point[], slope: number, reach: number): Line {
  let best: Line = { at: 0, slope, share: 0 };
  const every = Math.ceil(ends.length / ENDS);
  const some = ends.filter((_, i) => i % every === 0);
  for (let n = -TRIED; n <= TRIED; n++) {
    const tried = slope + (n / TRIED) * reach;
    const places = Float32Array.from(some, ([along, across]) => across - tried * along).sort();
    let first = 0;
    for (let last = 0; last < places.length; last++) {
      while (places[last] - places[first] > 2 * NEAR) first++;
      const share = (last - first + 1) / places.length - STRAYS * Math.abs(n / TRIED);
      if (share > best.share) best = { at: (places[first] + places[last]) / 2, slope: tried, share };
    }
  }
  return best;
}

export const along = ({ at, slope }: Line, place: number): number => at + slope * place;

/** Where an upright line meets a level one. */
export function meet(upright: Line, level: Line): Point {
  const y = (level.at + level.slope * upright.at) / (1 - level.slope * upright.slope);
  return [along(upright, y), y];
}

/** Null: it is no upright opening. */
export function uprightQuad(
  cells: ArrayLike<number>,
  { width, height }: FrameSize,
  lean: Lean
): UprightQuad | null {
  const [rows, columns] = [new Map<number, Point>(), new Map<number, Point>()];
  const widen = (of: Map<number, Point>, at: number, place: number): void => {
    const known = of.get(at);
    of.set(at, known ? [Math.min(known[0], place), Math.max(known[1], place)] : [place, place]);
  };
  for (let i = 0; i < cells.length; i++) {
    const [x, y] = [cells[i] % width, Math.floor(cells[i] / width)];
    widen(rows, y, x);
    widen(columns, x, y);
  }
  const ends = (of: Map<number, Point>, which: 0 | 1): Point[] =>
    [...of].map(([at, pair]) => [at, pair[which] + which - 0.5]);
  const side = (which: 0 | 1): Line => {
    const places = ends(rows, which);
    const middle = places.reduce((sum, [, x]) => sum + x, 0) / places.length;
    return lineOf(places, lean(middle), OFF_PLUMB);
  };
  const [left, right] = [side(0), side(1)];
  if (Math.min(left.share, right.share) < SIDES) return null;
  const [top, bottom] = [0, 1].map((which) => lineOf(ends(columns, which as 0 | 1), 0, OFF_LEVEL));
  const atFrame = along(top, width / 2) < 2 || along(top, width / 2) > height;
  if (top.share < HEAD && !atFrame) return null;
  const quad = { left, right, top, bottom, filled: 0 };
  let outside = 0;
  for (let i = 0; i < cells.length; i++)
    if (!isWithin(quad, cells[i] % width, Math.floor(cells[i] / width), 1)) outside++;
  const filled = (cells.length - outside) / areaOf(quad);
  return outside > BEYOND * cells.length || filled < FILLED ? null : { ...quad, filled };
}

/** Whether a cell lies within the four lines, or so far outside of them. */
export const isWithin = (
  { left, right, top, bottom }: Omit<UprightQuad, 'filled'>,
  x: number,
  y: number,
  beyond = 0
): boolean =>
  x > along(left, y) - beyond &&
  x < along(right, y) + beyond &&
  y > along(top, x) - beyond &&
  y < along(bottom, x) + beyond;

export const cornersOf = ({ left, right, top, bottom }: UprightQuad): Point[] => [
  meet(left, top),
  meet(right, top),
  meet(right, bottom),
  meet(left, bottom)
];

export function areaOf(quad: UprightQuad): number {
  const corners = cornersOf(quad);
  return Math.abs(
    corners.reduce((sum, [x, y], i) => {
      const [nextX, nextY] = corners[(i + 1) % corners.length];
      return sum + (x * nextY - nextX * y) / 2;
    }, 0)
  );
}
