import type { Point } from '../../math/frame-geometry.ts';

/** Kinds of lines with an angle that is true. */
export type AlignedKind = 'plumb' | 'level';

export interface PlacedLine {
  id: string;
  kind: AlignedKind;
  /** Ends in the corrected picture, any unit. */
  a: Point;
  b: Point;
}

export interface LineAngles {
  /** Length-weighted RMS angle from true, in degrees. */
  rms: number;
  /** Largest angle from true, in degrees, with its sign (clockwise positive). */
  worst: number;
  worstId: string;
  count: number;
}

const DEGREES = 180 / Math.PI;

/** Signed angle of a line from vertical (plumb) or horizontal (level), in degrees within ±90, clockwise positive. */
export function angleFromTrue(line: PlacedLine): number {
  const dx = line.b[0] - line.a[0];
  const dy = line.b[1] - line.a[1];
  return line.kind === 'plumb' ? -Math.atan(dx / dy) * DEGREES : Math.atan(dy / dx) * DEGREES;
}

/** Plumb or level reading of the lines of one kind; null when there are none. */
export function lineAngles(lines: readonly PlacedLine[], kind: AlignedKind): LineAngles | null {
  let total = 0;
  let sum = 0;
  let worst = 0;
  let worstId = '';
  let count = 0;
  for (const line of lines) {
    if (line.kind !== kind) continue;
    const length = Math.hypot(line.b[0] - line.a[0], line.b[1] - line.a[1]);
    if (length === 0) continue;
    const angle = angleFromTrue(line);
    total += length;
    sum += length * angle * angle;
    count++;
    if (worstId === '' || Math.abs(angle) > Math.abs(worst)) {
      worst = angle;
      worstId = line.id;
    }
  }
  return count === 0 ? null : { rms: Math.sqrt(sum / total), worst, worstId, count };
}
