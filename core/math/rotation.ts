/**
 * The rotation that makes a picture true: upright ray = Ry(yaw) · Rx(pitch) · Rz(roll) · camera ray.
 *
 * Camera axes: x right, y down, z forward. Roll first levels the camera, pitch then sets verticals plumb,
 * yaw last turns about the plumb line, so that it never disturbs the verticals.
 *
 * Signs: positive roll turns the picture clockwise; positive pitch corrects a camera that looked up
 * (verticals that converge upwards open); positive yaw turns the view to the right.
 */
import { type Matrix3, multiply, transpose } from './matrix3.ts';

export interface Angles {
  /** Degrees. */
  roll: number;
  /** Degrees. */
  pitch: number;
  /** Degrees. */
  yaw: number;
}

const RADIANS = Math.PI / 180;

export function rotationFromAngles({ roll, pitch, yaw }: Angles): Matrix3 {
  const [cr, sr] = [Math.cos(roll * RADIANS), Math.sin(roll * RADIANS)];
  const [cp, sp] = [Math.cos(pitch * RADIANS), Math.sin(pitch * RADIANS)];
  const [cy, sy] = [Math.cos(yaw * RADIANS), Math.sin(yaw * RADIANS)];
  const rz: Matrix3 = [cr, -sr, 0, sr, cr, 0, 0, 0, 1];
  const rx: Matrix3 = [1, 0, 0, 0, cp, -sp, 0, sp, cp];
  const ry: Matrix3 = [cy, 0, -sy, 0, 1, 0, sy, 0, cy];
  return multiply(ry, multiply(rx, rz));
}

/** Angles of a rotation, in degrees; pitch lies within ±90. */
export function anglesFromRotation(r: Matrix3): Angles {
  // R = Ry Rx Rz: the middle row is (cp sr, cp cr, -sp), the last column (-sy cp, -sp, cy cp).
  return {
    roll: Math.atan2(r[3], r[4]) / RADIANS,
    pitch: Math.asin(Math.max(-1, Math.min(1, -r[5]))) / RADIANS,
    yaw: Math.atan2(-r[2], r[8]) / RADIANS
  };
}

/** Angle of the rotation that leads from one to the other, in degrees. */
export function rotationDistance(a: Matrix3, b: Matrix3): number {
  const between = multiply(a, transpose(b));
  // From the skew part, which stays exact for small angles where the trace does not.
  const sine = Math.hypot(between[7] - between[5], between[2] - between[6], between[3] - between[1]) / 2;
  return Math.atan2(sine, (between[0] + between[4] + between[8] - 1) / 2) / RADIANS;
}
