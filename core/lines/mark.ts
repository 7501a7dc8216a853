import type { Point } from '../camera/frame-geometry.ts';

/** What a marked line should be in the true picture. */
export type MarkKind = 'plumb' | 'level';

/** A line drawn on the photograph; its ends are field positions as the glass put them. */
export interface Mark {
  id: string;
  kind: MarkKind;
  a: Point;
  b: Point;
  /** Found by itself rather than drawn. */
  found?: true;
}
