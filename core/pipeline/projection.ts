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
} from '../camera/frame-geometry.ts';
import { type RadialModel, distort, distortionFactor, undistort } from '../lens/brown.ts';
import { type Matrix3, apply, transpose } from '../lines/rotation.ts';

export interface Projection {
  size: FrameSize;
  /** Focal length in field units. */
  focal: number;
  model: RadialModel;
  /** Turns camera rays into upright rays. */
  rotation: Matrix3;
}

/** Rays that look further than this from the upright axis (as Z of a ray with unit focal) have no place. */
const NEAREST_Z = 0.05;

/** Field position as the glass put it of an upright point, or null where no ray of the frame arrives. */
export function uprightToField([x, y]: Point, projection: Projection): Point | null {
  const { focal, model, rotation } = projection;
  const [rx, ry, rz] = apply(transpose(rotation), [x / focal, y / focal, 1]);
  if (rz < NEAREST_Z) return null;
  return distort([(focal * rx) / rz, (focal * ry) / rz], model);
}

/** Upright point of a field position as the glass put it, or null when it lies behind the upright view. */
export function fieldToUpright(point: Point, projection: Projection): Point | null {
  const { focal, model, rotation } = projection;
  const [u, v] = undistort(point, model);
  const [x, y, z] = apply(rotation, [u / focal, v / focal, 1]);
  if (z < NEAREST_Z) return null;
  return [(focal * x) / z, (focal * y) / z];
}

export function uprightToSensor(point: Point, projection: Projection): Point | null {
  const field = uprightToField(point, projection);
  return field && fieldToSensor(field, projection.size);
}

export function sensorToUpright(point: Point, projection: Projection): Point | null {
  return fieldToUpright(sensorToField(point, projection.size), projection);
}

/**
 * A function that maps upright to sensor positions without allocating: writes x, y and the squared field
 * radius (as the glass put it, for falloff) to `out`; NaN where no ray arrives.
 */
export function sensorMapper(projection: Projection): (x: number, y: number, out: Float64Array) => void {
  const { size, focal, model, rotation: r } = projection;
  const unit = halfDiagonal(size);
  const cx = size.width / 2;
  const cy = size.height / 2;
  return (x, y, out) => {
    const px = x / focal;
    const py = y / focal;
    // The transposed rotation leads from upright back to camera rays.
    const rz = r[2] * px + r[5] * py + r[8];
    if (rz < NEAREST_Z) {
      out[0] = out[1] = out[2] = NaN;
      return;
    }
    const u = (focal * (r[0] * px + r[3] * py + r[6])) / rz;
    const v = (focal * (r[1] * px + r[4] * py + r[7])) / rz;
    const r2 = u * u + v * v;
    const factor = distortionFactor(model, r2);
    out[0] = u * factor * unit + cx;
    out[1] = v * factor * unit + cy;
    out[2] = r2 * factor * factor;
  };
}
