import { type FrameSize, type Point, fieldToSensor, halfDiagonal } from '../../math/frame-geometry.ts';
import { type Matrix3, apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import type { PlacedPlanes } from './planes.ts';

/** How far about a place its colour is averaged, in units of half the diagonal: a patch as large at every size of picture. */
const REACH = 0.0025;

/** Mean working colour, as shot, about a field position; null outside of the picture. */
export function meanColour(
  planes: PlacedPlanes,
  field: Point,
  size: FrameSize,
  toWorking: Matrix3
): Vector3 | null {
  const [x, y] = fieldToSensor(field, size);
  const reach = REACH * halfDiagonal(size);
  const range = (at: number, origin: number, scale: number, count: number): [number, number] => [
    Math.max(0, Math.floor((at - reach - origin) * scale)),
    Math.min(count - 1, Math.floor((at + reach - origin) * scale))
  ];
  const [left, right] = range(x, planes.originX, planes.scaleX, planes.width);
  const [top, bottom] = range(y, planes.originY, planes.scaleY, planes.height);
  const sum: Vector3 = [0, 0, 0];
  for (let row = top; row <= bottom; row++)
    for (let at = row * planes.width + left; at <= row * planes.width + right; at++) {
      sum[0] += planes.r[at];
      sum[1] += planes.g[at];
      sum[2] += planes.b[at];
    }
  const count = (right - left + 1) * (bottom - top + 1);
  if (right < left || bottom < top) return null;
  return apply(toWorking, sum.map((value) => value / count) as Vector3);
}
