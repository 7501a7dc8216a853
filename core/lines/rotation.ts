/**
 * The rotation that makes a picture true: upright ray = Ry(yaw) · Rx(pitch) · Rz(roll) · camera ray.
 *
 * Camera axes: x right, y down, z forward. Roll first levels the camera, pitch then sets verticals plumb,
 * yaw last turns about the plumb line, so that it never disturbs the verticals.
 *
 * Signs: positive roll turns the picture clockwise; positive pitch corrects a camera that looked up
 * (verticals that converge upwards open); positive yaw turns the view to the right.
 */
export type Matrix3 = [number, number, number, number, number, number, number, number, number];
export type Vector3 = [number, number, number];

export interface Angles {
  /** Degrees. */
  roll: number;
  /** Degrees. */
  pitch: number;
  /** Degrees. */
  yaw: number;
}

export const IDENTITY: Matrix3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];
const RADIANS = Math.PI / 180;

export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const out = new Array(9) as Matrix3;
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 3; column++) {
      out[row * 3 + column] =
        a[row * 3] * b[column] + a[row * 3 + 1] * b[3 + column] + a[row * 3 + 2] * b[6 + column];
    }
  }
  return out;
}

export function transpose(m: Matrix3): Matrix3 {
  return [m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]];
}

export function apply(m: Matrix3, [x, y, z]: Vector3): Vector3 {
  return [m[0] * x + m[1] * y + m[2] * z, m[3] * x + m[4] * y + m[5] * z, m[6] * x + m[7] * y + m[8] * z];
}

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
