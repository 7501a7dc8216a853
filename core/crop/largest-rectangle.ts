/**
 * The largest rectangle of a ratio in a polygon.
 *
 * With the polygon scaled so that the wanted ratio becomes 1:1, the largest square about a point reaches to
 * the nearest outline point in the maximum norm. The best centre is the pole of inaccessibility in that norm,
 * found by branch and bound (as in the well-known polylabel search): the distance changes by no more than the
 * centre moves, so that a cell whose bound is below the best found can be dropped. The result is therefore
 * the true largest to within the stated precision, for outlines that bow inwards too.
 */
import type { Point } from '../camera/frame-geometry.ts';
import type { Rectangle } from './rectangle.ts';

/** Largest relative shortfall of the rectangle's half height. */
const PRECISION = 1e-4;

/** Maximum-norm distance from the origin to the segment a–b. */
function maximumNormToSegment(ax: number, ay: number, bx: number, by: number): number {
  // max(|x|, |y|) along a segment is convex and piecewise linear: its least value lies at an end or where
  // x or y is zero or |x| = |y|.
  const dx = bx - ax;
  const dy = by - ay;
  let best = Math.min(Math.max(Math.abs(ax), Math.abs(ay)), Math.max(Math.abs(bx), Math.abs(by)));
  const consider = (numerator: number, denominator: number): void => {
    if (denominator === 0) return;
    const t = numerator / denominator;
    if (t > 0 && t < 1) best = Math.min(best, Math.max(Math.abs(ax + dx * t), Math.abs(ay + dy * t)));
  };
  consider(-ax, dx);
  consider(-ay, dy);
  consider(ay - ax, dx - dy);
  consider(-ay - ax, dx + dy);
  return best;
}

/** Distance to the outline in the maximum norm, negative outside. */
export function reach(x: number, y: number, outline: readonly Point[]): number {
  let inside = false;
  let nearest = Infinity;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, ay] = outline[j];
    const [bx, by] = outline[i];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    // A segment whose box is further than the nearest found cannot be nearer itself.
    const gap = Math.max(
      Math.min(ax, bx) - x,
      x - Math.max(ax, bx),
      Math.min(ay, by) - y,
      y - Math.max(ay, by),
      0
    );
    if (gap < nearest) nearest = Math.min(nearest, maximumNormToSegment(ax - x, ay - y, bx - x, by - y));
  }
  return inside ? nearest : -nearest;
}

interface Cell {
  x: number;
  y: number;
  half: number;
  bound: number;
}

/** Largest rectangle with width / height = ratio inside a closed outline; null when there is no room. */
export function largestRectangle(outline: readonly Point[], ratio: number): Rectangle | null {
  if (outline.length < 3) return null;
  const scaled = outline.map(([x, y]): Point => [x / ratio, y]);
  const xs = scaled.map((p) => p[0]);
  const ys = scaled.map((p) => p[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
  const size = Math.min(right - left, bottom - top);
  if (!(size > 0)) return null;
  let best = { x: 0, y: 0, distance: 0 };
  const consider = (x: number, y: number): number => {
    const distance = reach(x, y, scaled);
    if (distance > best.distance) best = { x, y, distance };
    return distance;
  };
  consider((left + right) / 2, (top + bottom) / 2);
  const queue: Cell[] = [];
  const add = (x: number, y: number, half: number): void => {
    const bound = consider(x, y) + half;
    if (bound > best.distance * (1 + PRECISION)) queue.push({ x, y, half, bound });
  };
  const half = size / 4;
  for (let x = left; x < right; x += half * 2) {
    for (let y = top; y < bottom; y += half * 2) add(x + half, y + half, half);
  }
  while (queue.length > 0) {
    let next = 0;
    for (let i = 1; i < queue.length; i++) if (queue[i].bound > queue[next].bound) next = i;
    const [cell] = queue.splice(next, 1);
    if (cell.bound <= best.distance * (1 + PRECISION)) break;
    const h = cell.half / 2;
    add(cell.x - h, cell.y - h, h);
    add(cell.x + h, cell.y - h, h);
    add(cell.x - h, cell.y + h, h);
    add(cell.x + h, cell.y + h, h);
  }
  if (best.distance <= 0) return null;
  const height = best.distance * 2;
  return { x: best.x * ratio, y: best.y, width: height * ratio, height };
}

/** Largest rectangle by area of any ratio between 1:4 and 4:1, to a thousandth of its ratio's logarithm. */
function largestFreeRectangle(outline: readonly Point[]): Rectangle | null {
  const area = (log: number): number => {
    const found = largestRectangle(outline, Math.exp(log));
    return found ? found.width * found.height : 0;
  };
  let centre = 0;
  let span = Math.log(4);
  while (span > 1e-3) {
    let best = centre;
    let bestArea = -1;
    for (let i = -4; i <= 4; i++) {
      const log = Math.max(-Math.log(4), Math.min(Math.log(4), centre + (span * i) / 4));
      const value = area(log);
      if (value > bestArea) [best, bestArea] = [log, value];
    }
    centre = best;
    span /= 3;
  }
  return largestRectangle(outline, Math.exp(centre));
}

/** Largest rectangle of a ratio, or of any when it is null. */
export function largestCrop(outline: readonly Point[], ratio: number | null): Rectangle | null {
  return ratio === null ? largestFreeRectangle(outline) : largestRectangle(outline, ratio);
}
