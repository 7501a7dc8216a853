/**
 * The crop that keeps what the marked lines belong to: a large one, placed and made smaller as far as it pays, where the
 * largest would cut off the building and keep stretched sky. Marked length counts by the pixels it was made of.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { type Projection, fieldToUpright } from '../../picture/geometry/projection.ts';
import { type Mark, counts } from '../lines/mark.ts';
import { nearestPlace } from './largest-rectangle.ts';
import type { Rectangle } from './rectangle.ts';
import { reach, squared } from './search-place.ts';

/** A piece of a marked line in upright coordinates, with its length in the photograph. */
export interface MarkedPiece {
  at: Point;
  length: number;
}

const PIECES = 5;

/** Marked lines in pieces; those that the corrected view does not reach are left out. */
export function markedPieces(marks: readonly Mark[], projection: Projection): MarkedPiece[] {
  return marks.filter(counts).flatMap(({ a, b }) => {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) / PIECES;
    return Array.from({ length: PIECES }, (_, i) => (i + 0.5) / PIECES).flatMap((t) => {
      const at = fieldToUpright([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], projection);
      return at ? [{ at, length }] : [];
    });
  });
}

/** Share of the marked length, 0…1, that a crop holds; 1 where nothing is marked. */
export function keptShare({ x, y, width, height }: Rectangle, pieces: readonly MarkedPiece[]): number {
  const [halfWidth, halfHeight] = [width / 2, height / 2];
  let kept = 0;
  let all = 0;
  for (let i = 0; i < pieces.length; i++) {
    const piece = pieces[i];
    all += piece.length;
    if (Math.abs(piece.at[0] - x) <= halfWidth && Math.abs(piece.at[1] - y) <= halfHeight)
      kept += piece.length;
  }
  return all === 0 ? 1 : kept / all;
}

/** More than this share of the marked length is not lost where a crop of at least so much of the largest area keeps it. */
const LEAST_KEPT = 0.8;
const LEAST_AREA = 0.8;
/** Nothing worth a change is lost. */
const WHOLE = 0.995;
/** Sides that are looked at, as shares of the largest; places across and down, and how often the best is looked at closer. */
const SIDES = [0.9999, 0.98, 0.96, 0.93, 0.9, Math.sqrt(LEAST_AREA), 0.86, 0.82, 0.77, 0.71];
const PLACES = 20;
const CLOSER = 4;
/** Points of the outline of which one is looked at. */
const COARSE = 4;
/** Worth of the marked lines' middle in that of the crop, against all of what is marked. */
const CENTRED = 0.03;

interface Found extends Rectangle {
  score: number;
  /** Keeps as much as has to be kept. */
  keeps: boolean;
}

/**
 * The best crop of the ratio of `largest`, the largest in an outline of real pixels. What is kept counts against the side,
 * so that half of the area is worth three tenths of the building.
 */
export function keepingCrop(
  largest: Rectangle,
  outline: readonly Point[],
  pieces: readonly MarkedPiece[]
): Rectangle {
  if (pieces.length === 0 || keptShare(largest, pieces) >= WHOLE) return largest;
  const ratio = largest.width / largest.height;
  // A coarser outline serves for looking; what is found is held to the real one.
  const scaled = squared(
    outline.filter((_, i) => i % COARSE === 0),
    ratio
  );
  const all = pieces.reduce((sum, { length }) => sum + length, 0);
  const middle = [0, 1].map((c) => pieces.reduce((sum, { at, length }) => sum + at[c] * length, 0) / all);
  let best: Found = { ...largest, score: -Infinity, keeps: false };
  const cropAt = (x: number, y: number, side: number): Rectangle => ({
    x,
    y,
    width: largest.width * side,
    height: largest.height * side
  });
  const consider = (x: number, y: number): void => {
    const away = Math.hypot((middle[0] - x) / largest.width, (middle[1] - y) / largest.height);
    // A smaller crop at the same place keeps no more.
    const most = keptShare(cropAt(x, y, SIDES[0]), pieces);
    const better = most - CENTRED * away > best.score;
    if (most === 0 || (most < LEAST_KEPT ? best.keeps || !better : best.keeps && !better)) return;
    const room = reach(x / ratio, y, scaled);
    for (const side of SIDES) {
      if ((largest.height / 2) * side > room) continue;
      const crop = cropAt(x, y, side);
      const kept = keptShare(crop, pieces);
      const score = kept * side - CENTRED * away;
      const keeps = kept >= LEAST_KEPT && side * side >= LEAST_AREA * 0.999;
      if (keeps === best.keeps ? score > best.score : keeps) best = { ...crop, score, keeps };
    }
  };
  consider(largest.x, largest.y);
  for (const side of [0.95, Math.sqrt(LEAST_AREA)]) {
    const near = nearestPlace(scaled, [middle[0] / ratio, middle[1]], (largest.height / 2) * side);
    if (near) consider(near.x * ratio, near.y);
  }
  const [xs, ys] = [0, 1].map((axis) => outline.map((point) => point[axis]));
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  let [across, down] = [(Math.max(...xs) - left) / PLACES, (Math.max(...ys) - top) / PLACES];
  const places = Array.from({ length: (PLACES - 1) ** 2 }, (_, i): Point => [
    left + (1 + (i % (PLACES - 1))) * across,
    top + (1 + Math.floor(i / (PLACES - 1))) * down
  ]);
  // Those near the middle first: a good one soon rules out most others.
  const from = ([x, y]: Point): number => Math.hypot(x - middle[0], y - middle[1]);
  for (const [x, y] of places.sort((p, q) => from(p) - from(q))) consider(x, y);
  for (let round = 0; round < CLOSER; round++) {
    [across, down] = [across / 2, down / 2];
    const { x, y } = best;
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++) if (i !== 0 || j !== 0) consider(x + i * across, y + j * down);
  }
  const { x, y, height } = best;
  const half = Math.min(height / 2, reach(x / ratio, y, squared(outline, ratio)));
  return half > 0 ? { x, y, width: half * 2 * ratio, height: half * 2 } : largest;
}
