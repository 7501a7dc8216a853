/**
 * Sensor and field coordinates.
 *
 * sensor: pixels of the oriented picture, centre of the first pixel at (0.5, 0.5).
 * field:  sensor positions about the image centre, divided by half the diagonal, so that the
 *         corners lie on the unit circle. y grows downwards in both.
 */
export type Point = [number, number];

export interface FrameSize {
  /** Width of the oriented picture in pixels. */
  width: number;
  /** Height of the oriented picture in pixels. */
  height: number;
}

/** Half the diagonal in pixels: the length of one field unit. */
export function halfDiagonal(size: FrameSize): number {
  return Math.hypot(size.width, size.height) / 2;
}

export function sensorToField([x, y]: Point, size: FrameSize): Point {
  const unit = halfDiagonal(size);
  return [(x - size.width / 2) / unit, (y - size.height / 2) / unit];
}

export function fieldToSensor([x, y]: Point, size: FrameSize): Point {
  const unit = halfDiagonal(size);
  return [x * unit + size.width / 2, y * unit + size.height / 2];
}
