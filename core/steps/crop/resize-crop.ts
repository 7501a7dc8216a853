/** Changing a crop by hand: an edge, a corner or the inside is dragged, and it never leaves the real pixels. */
import type { Point } from '../../math/frame-geometry.ts';
import { isInside } from './fit-crop.ts';
import type { Rectangle } from './rectangle.ts';

/** The part dragged: -1 is left or top, 1 right or bottom, 0 neither. */
export interface CropHandle {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

/** Smallest side of a crop, in field units. */
export const SMALLEST_SIDE = 0.05;

/** The crop with one handle at a point; the opposite side stays. With a ratio, it is kept. */
function dragged(crop: Rectangle, handle: CropHandle, [px, py]: Point, ratio: number | null): Rectangle {
  const fixedX = crop.x - (handle.x * crop.width) / 2;
  const fixedY = crop.y - (handle.y * crop.height) / 2;
  let width = handle.x === 0 ? crop.width : Math.max(SMALLEST_SIDE, (px - fixedX) * handle.x);
  let height = handle.y === 0 ? crop.height : Math.max(SMALLEST_SIDE, (py - fixedY) * handle.y);
  if (ratio !== null) {
    if (handle.x === 0) width = height * ratio;
    else if (handle.y === 0) height = width / ratio;
    else {
      width = Math.max(width, height * ratio);
      height = width / ratio;
    }
  }
  return {
    x: handle.x === 0 ? crop.x : fixedX + (handle.x * width) / 2,
    y: handle.y === 0 ? crop.y : fixedY + (handle.y * height) / 2,
    width,
    height
  };
}

const between = (a: Rectangle, b: Rectangle, t: number): Rectangle => ({
  x: a.x + (b.x - a.x) * t,
  y: a.y + (b.y - a.y) * t,
  width: a.width + (b.width - a.width) * t,
  height: a.height + (b.height - a.height) * t
});

/** As far from one crop (inside) towards another as stays inside. */
function asFarAsInside(from: Rectangle, to: Rectangle, outline: readonly Point[] | null): Rectangle {
  if (!outline || isInside(to, outline)) return to;
  let low = 0;
  let high = 1;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (isInside(between(from, to, middle), outline)) low = middle;
    else high = middle;
  }
  return between(from, to, low);
}

/** Drags a handle of a valid crop to a point, as far as there are real pixels (anywhere without an outline). */
export function resizeCrop(
  crop: Rectangle,
  handle: CropHandle,
  point: Point,
  ratio: number | null,
  outline: readonly Point[] | null
): Rectangle {
  return asFarAsInside(crop, dragged(crop, handle, point, ratio), outline);
}

/** Moves a valid crop to a centre, sliding along the border of the real pixels where it meets it. */
export function moveCrop(crop: Rectangle, [x, y]: Point, outline: readonly Point[] | null): Rectangle {
  const across = asFarAsInside(crop, { ...crop, x, y }, outline);
  const slidX = asFarAsInside(across, { ...across, x }, outline);
  return asFarAsInside(slidX, { ...slidX, y }, outline);
}
