/** The mark of Lines under a press: what lies beside it can be an area. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Mark } from '$core/steps/lines/mark.ts';

/** Pixels within which a line is meant. */
const NEAR = 12;

/** The nearest mark on the sheet; null where none is near. */
export function markAt(
  bench: { recipe: { lines: { marks: readonly Mark[] } } },
  sheet: { toPlace(field: Point): Point | null },
  [x, y]: Point
): Mark | null {
  let best: { mark: Mark; away: number } | null = null;
  for (const mark of bench.recipe.lines.marks) {
    const [a, b] = [sheet.toPlace(mark.a), sheet.toPlace(mark.b)];
    if (!a || !b) continue;
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const along = Math.min(
      1,
      Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / Math.max(1e-6, dx * dx + dy * dy))
    );
    const away = Math.hypot(x - a[0] - along * dx, y - a[1] - along * dy);
    if (away <= NEAR && (!best || away < best.away)) best = { mark, away };
  }
  return best?.mark ?? null;
}
