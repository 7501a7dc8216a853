/** What a step does with the pointer on the sheet. */
import type { Point } from '$core/math/frame-geometry.ts';

export interface Press {
  place: Point;
  /** Nothing that is drawn over the picture lies there. */
  empty: boolean;
  /** What lies there can be dragged by itself. */
  draggable: boolean;
  event?: PointerEvent;
}

export interface SheetTool {
  /** Cursor over the picture. */
  readonly cursor: string;
  /** Place to look at closely, while something is being placed. */
  readonly magnified: Point | null;
  /** Whether a press with Alt held is for the tool, in place of moving the picture. */
  readonly heedsAlt?: boolean;
  /** Takes the press; false leaves it to the sheet, which then moves the picture. */
  down(press: Press): boolean;
  move(place: Point, event?: PointerEvent): void;
  up(event: { shiftKey: boolean }): void;
  /** Drops what is being drawn. */
  drop(): void;
}
