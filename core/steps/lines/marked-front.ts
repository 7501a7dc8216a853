/** The front of a building as its marks tell it: the upright rectangle that they lie in. */
import type { Point } from '../../math/frame-geometry.ts';
import { type Projection, fieldToUpright, uprightToField } from '../../picture/geometry/projection.ts';
import { type Mark, aligns } from './mark.ts';

/** Share of the marks' length that may lie beyond each side: clutter beside the front. */
const BEYOND = 0.02;
/** Corners along each side: the lens bends it. */
const ALONG = 12;

/**
 * Outline in field positions as the glass put them, level and plumb in the corrected picture; null where no plumb or no level
 * marks say where it is.
 */
export function markedFront(marks: readonly Mark[], projection: Projection): Point[] | null {
  const upright = marks.filter(aligns).flatMap(({ kind, a, b }) => {
    const ends = [a, b].map((end) => fieldToUpright(end, projection));
    return ends[0] && ends[1] ? [{ kind, ends: ends as Point[] }] : [];
  });
  if (!['plumb', 'level'].every((kind) => upright.some((mark) => mark.kind === kind))) return null;
  // Level marks reach from side to side of a front, plumb ones from its foot to its eaves.
  const [left, right] = between(upright, 0);
  const [top, bottom] = between(upright, 1);
  if (right <= left || bottom <= top) return null;
  const corners: Point[] = [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom]
  ];
  const outline = corners.flatMap(([x, y], i) => {
    const [nextX, nextY] = corners[(i + 1) % corners.length];
    return Array.from({ length: ALONG }, (_, n): Point => [
      x + ((nextX - x) * n) / ALONG,
      y + ((nextY - y) * n) / ALONG
    ]);
  });
  const field = outline.flatMap((place) => {
    const there = uprightToField(place, projection);
    return there ? [there] : [];
  });
  return field.length === outline.length ? field : null;
}

/** Between which places along an axis nearly all of the marks lie, each end weighed by the length of its mark. */
function between(marks: readonly { ends: readonly Point[] }[], axis: 0 | 1): [number, number] {
  const ends = marks
    .flatMap(({ ends: [a, b] }) => {
      const weight = Math.hypot(b[0] - a[0], b[1] - a[1]);
      return [a, b].map((end) => ({ at: end[axis], weight }));
    })
    .sort((one, other) => one.at - other.at);
  const least = BEYOND * ends.reduce((sum, { weight }) => sum + weight, 0);
  const first = (from: readonly { at: number; weight: number }[]): number => {
    let left = least;
    return (from.find(({ weight }) => (left -= weight) < 0) ?? from[from.length - 1]).at;
  };
  return [first(ends), first([...ends].reverse())];
}
