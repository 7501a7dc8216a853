/** Parts of the sensor, in its pixels, and of planes that lie on it. */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { type PlacedPlanes, takePlanes } from './planes.ts';

export interface SensorRectangle {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export const wholeSensor = ({ width, height }: FrameSize): SensorRectangle => ({
  left: 0,
  top: 0,
  right: width,
  bottom: height
});

/** The part of a rectangle that lies on the sensor; null where none does. */
export function onSensor(rectangle: SensorRectangle, { width, height }: FrameSize): SensorRectangle | null {
  const left = Math.max(0, rectangle.left);
  const top = Math.max(0, rectangle.top);
  const right = Math.min(width, rectangle.right);
  const bottom = Math.min(height, rectangle.bottom);
  return left < right && top < bottom ? { left, top, right, bottom } : null;
}

/** Whether all of a rectangle that lies on the sensor is in another. */
export function isWithin(rectangle: SensorRectangle, other: SensorRectangle, size: FrameSize): boolean {
  const part = onSensor(rectangle, size);
  return (
    part === null ||
    (part.left >= other.left &&
      part.top >= other.top &&
      part.right <= other.right &&
      part.bottom <= other.bottom)
  );
}

/** The part of the sensor that planes lie on. */
export const extentOf = ({
  originX,
  originY,
  scaleX,
  scaleY,
  width,
  height
}: PlacedPlanes): SensorRectangle => ({
  left: originX,
  top: originY,
  right: originX + width / scaleX,
  bottom: originY + height / scaleY
});

/** Columns and rows of planes that touch a rectangle, within the planes. */
export function pixelsOf(
  planes: PlacedPlanes,
  { left, top, right, bottom }: SensorRectangle
): SensorRectangle {
  const { originX, originY, scaleX, scaleY, width, height } = planes;
  // A thousandth of a pixel is rounding.
  return {
    left: Math.max(0, Math.floor((left - originX) * scaleX + 1e-3)),
    top: Math.max(0, Math.floor((top - originY) * scaleY + 1e-3)),
    right: Math.min(width, Math.ceil((right - originX) * scaleX - 1e-3)),
    bottom: Math.min(height, Math.ceil((bottom - originY) * scaleY - 1e-3))
  };
}

/** Planes for the pixels of a rectangle, on the same grid as others; they are the caller's to give back. */
export function takePart(like: PlacedPlanes, rectangle: SensorRectangle): PlacedPlanes {
  const { left, top, right, bottom } = pixelsOf(like, rectangle);
  const { originX, originY, scaleX, scaleY } = like;
  return {
    ...takePlanes(right - left, bottom - top),
    originX: originX + left / scaleX,
    originY: originY + top / scaleY,
    scaleX,
    scaleY
  };
}
