import type { Point } from '../../math/frame-geometry.ts';

/** What a marked line should be in the true picture; `none` for a line that should be nothing, as clutter. */
export const MARK_KINDS = ['plumb', 'level', 'straight', 'none'] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

/** A line drawn on the photograph; its ends are field positions as the glass put them. */
export interface Mark {
  id: string;
  kind: MarkKind;
  a: Point;
  b: Point;
  /** Found by itself rather than drawn. */
  found?: true;
  /** Taken out: shown, but neither solved from nor read. */
  out?: true;
  /** Level in the building, but running away from the camera: its vanishing point lies to this side. */
  recedes?: 'left' | 'right';
  /** How much it counts against the others (default 1). */
  weight?: number;
}

/** Range of a mark's weight. */
export const WEIGHTS = [0.25, 4] as const;

/** Whether the mark is to be true: not taken out, and of a kind that says something. */
export const counts = (mark: Mark): boolean => !mark.out && mark.kind !== 'none';

/** Whether the mark should lie plumb or level in the true picture. */
export const aligns = (mark: Mark): boolean =>
  counts(mark) && (mark.kind === 'plumb' || (mark.kind === 'level' && !mark.recedes));
