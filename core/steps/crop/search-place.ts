/**
 * The best place for a rectangle of a ratio in a polygon.
 *
 * With the polygon scaled so that the ratio becomes 1:1, the largest square about a point reaches to the nearest
 * outline point in the maximum norm. That reach changes by no more than the point moves, and so does the way from
 * where the square is wanted: a cell of points has an upper bound for any score that grows with the reach and falls
 * with the way, and is dropped when the bound is below the best found (branch and bound, as in the well-known
 * polylabel search). The result is the best there is to within the slack, for outlines that bow inwards too.
 */
import FlatQueue from 'flatqueue';
import type { Point } from '../../math/frame-geometry.ts';

/** The outline of a rectangle problem as that of a square. */
export const squared = (outline: readonly Point[], ratio: number): Point[] =>
  outline.map(([x, y]): Point => [x / ratio, y]);

/** Ends of the segments of a closed outline, each from the point before its own. */
interface Segments {
  ax: Float64Array;
  ay: Float64Array;
  bx: Float64Array;
  by: Float64Array;
}

function segmentsOf(outline: readonly Point[]): Segments {
  const before = outline.map((_, i) => outline[i > 0 ? i - 1 : outline.length - 1]);
  const column = (points: readonly Point[], axis: 0 | 1): Float64Array =>
    Float64Array.from(points, (point) => point[axis]);
  return { ax: column(before, 0), ay: column(before, 1), bx: column(outline, 0), by: column(outline, 1) };
}

/** The distance at one point of a segment, or `best` where that is nearer or the point beyond the ends. */
function nearer(best: number, ax: number, ay: number, dx: number, dy: number, t: number): number {
  return t > 0 && t < 1 ? Math.min(best, Math.max(Math.abs(ax + dx * t), Math.abs(ay + dy * t))) : best;
}

/** Maximum-norm distance from the origin to the segment a–b. */
function maximumNormToSegment(ax: number, ay: number, bx: number, by: number): number {
  // max(|x|, |y|) along a segment is convex and piecewise linear: its least value lies at an end or where
  // x or y is zero or |x| = |y|. A division by zero falls beyond the ends.
  const dx = bx - ax;
  const dy = by - ay;
  let best = Math.min(Math.max(Math.abs(ax), Math.abs(ay)), Math.max(Math.abs(bx), Math.abs(by)));
  best = nearer(best, ax, ay, dx, dy, -ax / dx);
  best = nearer(best, ax, ay, dx, dy, -ay / dy);
  best = nearer(best, ax, ay, dx, dy, (ay - ax) / (dx - dy));
  return nearer(best, ax, ay, dx, dy, (-ay - ax) / (dx + dy));
}

/**
 * Distance to the nearest of some segments in the maximum norm. `gaps` takes for each a distance that it is not nearer
 * than.
 */
function distance(
  x: number,
  y: number,
  { ax, ay, bx, by }: Segments,
  some: readonly number[],
  gaps?: Float64Array
): number {
  let nearest = Infinity;
  for (let n = 0; n < some.length; n++) {
    const i = some[n];
    const [x0, y0, x1, y1] = [ax[i] - x, ay[i] - y, bx[i] - x, by[i] - y];
    // A segment is no nearer than its box.
    const gap = Math.max(Math.min(x0, x1), -Math.max(x0, x1), Math.min(y0, y1), -Math.max(y0, y1), 0);
    if (gaps) gaps[n] = gap;
    if (gap < nearest) nearest = Math.min(nearest, maximumNormToSegment(x0, y0, x1, y1));
  }
  return nearest;
}

/** Whether a point lies inside the outline, by the crossings of a ray. */
function encloses({ ax, ay, bx, by }: Segments, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0; i < ax.length; i++)
    if (ay[i] > y !== by[i] > y && x < ((bx[i] - ax[i]) * (y - ay[i])) / (by[i] - ay[i]) + ax[i])
      inside = !inside;
  return inside;
}

/** Distance to the outline in the maximum norm, negative outside. */
export function reach(x: number, y: number, outline: readonly Point[]): number {
  const segments = segmentsOf(outline);
  const nearest = distance(x, y, segments, [...outline.keys()]);
  return encloses(segments, x, y) ? nearest : -nearest;
}

/** A place for a square's middle, and the half side that has room there. */
export interface Place {
  x: number;
  y: number;
  reach: number;
  score: number;
}

/** Grows with the reach (half a side), falls with the way from where the square is wanted, across and down. */
export type Score = (reach: number, across: number, down: number) => number;

/** A square of places. */
interface Cell {
  x: number;
  y: number;
  half: number;
  /** Segments that can be the nearest to a place in it. */
  near: readonly number[];
  /** Whether all of it lies inside, or outside; null when the outline passes through. */
  inside: boolean | null;
}

/** Cells looked at before the best so far is taken: far more than any frame's outline needs. */
const MOST_CELLS = 50_000;

export interface SearchOptions {
  /** Where the square is wanted. */
  from: Point;
  score: Score;
  /** The best may be better by this much, given its score. */
  slack: (score: number) => number;
}

/** The place of a squared outline with the highest score; null where none has room, or every score is minus infinity. */
export function searchPlace(
  outline: readonly Point[],
  { from: [wantedX, wantedY], score, slack }: SearchOptions
): Place | null {
  if (outline.length < 3) return null;
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
  const size = Math.min(right - left, bottom - top);
  if (!(size > 0)) return null;
  const segments = segmentsOf(outline);
  const gaps = new Float64Array(outline.length);
  let best: Place = { x: 0, y: 0, reach: 0, score: -Infinity };
  const consider = (x: number, y: number, room: number): void => {
    const value = score(room, Math.abs(x - wantedX), Math.abs(y - wantedY));
    if (value > best.score) best = { x, y, reach: room, score: value };
  };
  const queue = new FlatQueue<Cell>();
  const add = (x: number, y: number, half: number, parent: Pick<Cell, 'near' | 'inside'>): void => {
    const nearest = distance(x, y, segments, parent.near, gaps);
    const here = parent.inside ?? encloses(segments, x, y);
    if (here) consider(x, y, nearest);
    else if (nearest >= half) return;
    const bound = score(
      (here ? nearest : -nearest) + half,
      Math.max(0, Math.abs(x - wantedX) - half),
      Math.max(0, Math.abs(y - wantedY) - half)
    );
    if (bound <= best.score + slack(best.score)) return;
    // What is further than this from the middle is nowhere in the cell the nearest.
    const furthest = nearest + 2 * half;
    const near = parent.near.filter((_, n) => gaps[n] <= furthest);
    queue.push({ x, y, half, near, inside: nearest > half ? here : null }, -bound);
  };
  const room = reach(wantedX, wantedY, outline);
  if (room > 0) consider(wantedX, wantedY, room);
  const all = { near: [...outline.keys()], inside: null };
  const first = size / 4;
  for (let x = left; x < right; x += first * 2) {
    for (let y = top; y < bottom; y += first * 2) add(x + first, y + first, first, all);
  }
  for (let cells = 0; queue.length > 0 && cells < MOST_CELLS; cells++) {
    if (-queue.peekValue()! <= best.score + slack(best.score)) break;
    const cell = queue.pop()!;
    const h = cell.half / 2;
    add(cell.x - h, cell.y - h, h, cell);
    add(cell.x + h, cell.y - h, h, cell);
    add(cell.x - h, cell.y + h, h, cell);
    add(cell.x + h, cell.y + h, h, cell);
  }
  return best.score > -Infinity ? best : null;
}
