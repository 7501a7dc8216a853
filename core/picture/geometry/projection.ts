/**
 * The composed geometry of one frame: upright → rays → field → sensor, and back.
 *
 * upright: the corrected picture plane in field units; (x, y) = focal · (X/Z, Y/Z) of the upright ray.
 */
import {
  type FrameSize,
  type Point,
  fieldToSensor,
  halfDiagonal,
  sensorToField
} from '../../math/frame-geometry.ts';
import {
  type LensModel,
  distort,
  distortRadius,
  lateralShift,
  shownRadius,
  undistort
} from '../../optics/lens-model.ts';
import { type Matrix3, apply, transpose } from '../../math/matrix3.ts';

export interface Projection {
  size: FrameSize;
  /** Focal length in field units. */
  focal: number;
  model: LensModel;
  /** Turns camera rays into upright rays. */
  rotation: Matrix3;
  /** Height of the upright picture against what the geometry gives (default 1). */
  stretch?: number;
}

/** Rays that look further than this from the upright axis (as Z of a ray with unit focal) have no place. */
const NEAREST_Z = 0.05;

/** Field position as the glass put it of an upright point, or null where no ray of the frame arrives. */
export function uprightToField([x, y]: Point, projection: Projection): Point | null {
  const { focal, model, rotation, stretch = 1 } = projection;
  const [rx, ry, rz] = apply(transpose(rotation), [x / focal, y / stretch / focal, 1]);
  if (rz < NEAREST_Z) return null;
  const ideal: Point = [(focal * rx) / rz, (focal * ry) / rz];
  if (Math.hypot(ideal[0] - model.centre[0], ideal[1] - model.centre[1]) > shownRadius(model)) return null;
  return distort(ideal, model);
}

/** Upright point of a field position as the glass put it, or null when it lies behind the upright view. */
export function fieldToUpright(point: Point, projection: Projection): Point | null {
  const { focal, model, rotation, stretch = 1 } = projection;
  const [u, v] = undistort(point, model);
  const [x, y, z] = apply(rotation, [u / focal, v / focal, 1]);
  if (z < NEAREST_Z) return null;
  return [(focal * x) / z, (stretch * focal * y) / z];
}

export function uprightToSensor(point: Point, projection: Projection): Point | null {
  const field = uprightToField(point, projection);
  return field && fieldToSensor(field, projection.size);
}

export function sensorToUpright(point: Point, projection: Projection): Point | null {
  return fieldToUpright(sensorToField(point, projection.size), projection);
}

/** Values that a sensor mapper writes: place of green, squared field radius, then places of red and of blue. */
export const MAPPED = 7;

/**
 * A function that maps upright to sensor positions without allocating: writes x and y (of green), the squared field radius
 * about the optical centre as the glass put it, and x and y of red and of blue to `out`; NaN where no ray arrives.
 */
export function sensorMapper(projection: Projection): (x: number, y: number, out: Float64Array) => void {
  const { size, focal, model, rotation: r, stretch = 1 } = projection;
  const focalY = focal * stretch;
  const { lateral } = model;
  const unit = halfDiagonal(size);
  const [fx, fy] = model.centre;
  const cx = size.width / 2 + fx * unit;
  const cy = size.height / 2 + fy * unit;
  const furthest = shownRadius(model);
  const [p1, p2] = model.tangential;
  return (x, y, out) => {
    const px = x / focal;
    const py = y / focalY;
    // The transposed rotation leads from upright back to camera rays.
    const rz = r[2] * px + r[5] * py + r[8];
    const u = (focal * (r[0] * px + r[3] * py + r[6])) / rz - fx;
    const v = (focal * (r[1] * px + r[4] * py + r[7])) / rz - fy;
    const radius = Math.sqrt(u * u + v * v);
    if (rz < NEAREST_Z || radius > furthest) {
      out.fill(NaN);
      return;
    }
    const factor = model.limit === Infinity || radius === 0 ? 1 : distortRadius(radius, model) / radius;
    let dx = u * factor;
    let dy = v * factor;
    if (p1 !== 0 || p2 !== 0) {
      const r2 = radius * radius;
      dx += model.amount * (2 * p1 * u * v + p2 * (r2 + 2 * u * u));
      dy += model.amount * (p1 * (r2 + 2 * v * v) + 2 * p2 * u * v);
    }
    const d2 = dx * dx + dy * dy;
    out[0] = dx * unit + cx;
    out[1] = dy * unit + cy;
    out[2] = d2;
    if (!lateral) return;
    const d = Math.sqrt(d2);
    const red = 1 + lateralShift(lateral.red, d);
    const blue = 1 + lateralShift(lateral.blue, d);
    out[3] = dx * red * unit + cx;
    out[4] = dy * red * unit + cy;
    out[5] = dx * blue * unit + cx;
    out[6] = dy * blue * unit + cy;
  };
}
