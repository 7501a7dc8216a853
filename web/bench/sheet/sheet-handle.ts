/** What of the things over the picture can be taken by the keyboard: each end, corner and edge. */
import type { Point } from '$core/math/frame-geometry.ts';

export interface SheetHandle {
  id: string;
  /** Its name, for the reader of the screen. */
  label: string;
  /** Where it lies on the sheet. */
  at: Point;
  /** Moves it by steps of the arrow keys. */
  nudge(dx: number, dy: number): void;
  /** What Enter does with it. */
  press?(): void;
  remove?(): void;
  focused?(inside: boolean): void;
}
