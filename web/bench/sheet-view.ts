/** What part of the upright plane the sheet shows. */
import { type Point, halfDiagonal } from '$core/math/frame-geometry.ts';
import type { Rectangle } from '$core/crop/rectangle.ts';
import type { View } from '$core/tile/mesh.ts';
import type { Plan } from '$core/render/plan.ts';

export interface SheetSize {
  width: number;
  height: number;
}

/** Free space kept about the picture, in pixels. */
const MARGIN = 14;
/** Most of the surroundings of the crop that are shown, as a multiple of its size. */
const WIDEST = 1.7;

/** The area to fit: the crop alone, or with it the real pixels about it, as far as they are of use. */
export function shownArea(plan: Plan, whole: boolean): Rectangle {
  const { crop, valid } = plan;
  if (!whole) return crop;
  const xs = valid.map((p) => p[0]);
  const ys = valid.map((p) => p[1]);
  const within = (value: number, centre: number, size: number): number =>
    Math.max(centre - (size * WIDEST) / 2, Math.min(centre + (size * WIDEST) / 2, value));
  const left = within(Math.min(...xs), crop.x, crop.width);
  const right = within(Math.max(...xs), crop.x, crop.width);
  const top = within(Math.min(...ys), crop.y, crop.height);
  const bottom = within(Math.max(...ys), crop.y, crop.height);
  return { x: (left + right) / 2, y: (top + bottom) / 2, width: right - left, height: bottom - top };
}

export function fitView(area: Rectangle, sheet: SheetSize): View {
  const pixel = Math.max(area.width / (sheet.width - 2 * MARGIN), area.height / (sheet.height - 2 * MARGIN));
  return viewAbout([area.x, area.y], pixel, sheet);
}

/** One screen pixel for one pixel of the full-size output. */
export function oneToOneView(centre: Point, plan: Plan, sheet: SheetSize): View {
  return viewAbout(centre, 1 / halfDiagonal(plan.projection.size), sheet);
}

export function viewAbout([x, y]: Point, pixel: number, { width, height }: SheetSize): View {
  return { left: x - (pixel * width) / 2, top: y - (pixel * height) / 2, pixel, width, height };
}

export function toSheet([x, y]: Point, view: View): Point {
  return [(x - view.left) / view.pixel, (y - view.top) / view.pixel];
}

export function toUpright([x, y]: Point, view: View): Point {
  return [view.left + x * view.pixel, view.top + y * view.pixel];
}
