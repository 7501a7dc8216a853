/** The Straight reading: how far samples of edges that should be straight lie from straight lines. */
import { type Point, halfDiagonal } from '../../math/frame-geometry.ts';
import type { Curve } from '../../optics/curve.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { type Projection, fieldToUpright } from '../../picture/geometry/projection.ts';

export interface CurveStraightness {
  id: string;
  /** RMS and largest distance from the best line, in pixels at full output size. */
  rms: number;
  worst: number;
}

export interface Straightness {
  /** RMS over all samples, in pixels at full output size. */
  rms: number;
  curves: CurveStraightness[];
}

/** Straight reading of curves in the corrected picture; null when there are none. */
export function straightness(curves: readonly Curve[], projection: Projection): Straightness | null {
  const unit = halfDiagonal(projection.size);
  const measured: CurveStraightness[] = [];
  let sum = 0;
  let count = 0;
  for (const { id, points } of curves) {
    const placed = points.flatMap((point) => {
      const upright = fieldToUpright(point, projection);
      return upright ? [upright as Point] : [];
    });
    // Two points are straight whatever the lens does.
    if (placed.length < 3) continue;
    const line = fitLine(placed);
    const distances = placed.map((point) => Math.abs(distanceFrom(line, point)) * unit);
    const squares = distances.reduce((total, d) => total + d * d, 0);
    measured.push({ id, rms: Math.sqrt(squares / placed.length), worst: Math.max(...distances) });
    sum += squares;
    count += placed.length;
  }
  return count === 0 ? null : { rms: Math.sqrt(sum / count), curves: measured };
}
