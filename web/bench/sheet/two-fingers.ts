/** Two fingers on the sheet: apart and together they zoom about their middle, side by side they move the picture. */
import type { Point } from '$core/math/frame-geometry.ts';

export interface FingersMoved {
  /** Middle of the two before, and now. */
  from: Point;
  to: Point;
  /** How much further apart they are. */
  factor: number;
}

const middle = ([ax, ay]: Point, [bx, by]: Point): Point => [(ax + bx) / 2, (ay + by) / 2];
const apart = ([ax, ay]: Point, [bx, by]: Point): number => Math.max(1, Math.hypot(ax - bx, ay - by));

export function createFingers() {
  const places = new Map<number, Point>();
  let gesture = false;
  return {
    /** Whether two fingers have been down, and not all are lifted since: one finger alone draws nothing then. */
    get gesture() {
      return gesture;
    },
    /** True when this is the second finger: what the first one began is to be dropped. */
    down(id: number, place: Point): boolean {
      places.set(id, place);
      const begins = places.size === 2;
      if (begins) gesture = true;
      return begins;
    },
    /** What two fingers did; null for one, and for more. */
    move(id: number, place: Point): FingersMoved | null {
      const before = [...places.values()];
      if (!places.has(id)) return null;
      places.set(id, place);
      const now = [...places.values()];
      if (!gesture || now.length !== 2) return null;
      return {
        from: middle(before[0], before[1]),
        to: middle(now[0], now[1]),
        factor: apart(now[0], now[1]) / apart(before[0], before[1])
      };
    },
    up(id: number): void {
      places.delete(id);
      if (places.size === 0) gesture = false;
    }
  };
}
