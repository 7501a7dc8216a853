/** Points of a line drawn by hand, without those that tell nothing (Douglas & Peucker 1973). */
import type { Point } from '$core/math/frame-geometry.ts';

/** Those that no line through the kept ones misses by more than `most`; first and last stay. */
export function thinnedOut<P extends readonly number[]>(points: readonly P[], most: number): P[] {
  if (points.length < 3) return [...points];
  const keep = new Uint8Array(points.length);
  keep[0] = keep[points.length - 1] = 1;
  const spans: [number, number][] = [[0, points.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    let [worst, at] = [most, -1];
    for (let i = from + 1; i < to; i++) {
      const away = distanceFromStretch(points[i], points[from], points[to]);
      if (away > worst) [worst, at] = [away, i];
    }
    if (at < 0) continue;
    keep[at] = 1;
    spans.push([from, at], [at, to]);
  }
  return points.filter((_, i) => keep[i]);
}

/** From a point to the stretch between two. */
export function distanceFromStretch(
  point: readonly number[],
  a: readonly number[],
  b: readonly number[]
): number {
  const [dx, dy]: Point = [b[0] - a[0], b[1] - a[1]];
  const square = dx * dx + dy * dy;
  const along = square === 0 ? 0 : ((point[0] - a[0]) * dx + (point[1] - a[1]) * dy) / square;
  const held = Math.min(1, Math.max(0, along));
  return Math.hypot(point[0] - a[0] - held * dx, point[1] - a[1] - held * dy);
}
