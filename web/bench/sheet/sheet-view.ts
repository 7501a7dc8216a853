/** What part of the upright plane the sheet shows. */
import equal from 'fast-deep-equal';
import { type Point, halfDiagonal } from '$core/math/frame-geometry.ts';
import { type Projection, fieldToUpright, uprightToField } from '$core/picture/geometry/projection.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import type { Plan } from '$core/render/plan.ts';

export interface SheetSize {
  width: number;
  height: number;
}

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

/** All of an area with free space about it, its corner on a whole pixel of the screen, so that its edges are crisp. */
export function fitView(area: Rectangle, sheet: SheetSize, margin: number): View {
  const pixel = Math.max(area.width / (sheet.width - 2 * margin), area.height / (sheet.height - 2 * margin));
  const view = viewAbout([area.x, area.y], pixel, sheet);
  const onGrid = (from: number, corner: number): number =>
    corner - Math.round((corner - from) / pixel) * pixel;
  return {
    ...view,
    left: onGrid(view.left, area.x - area.width / 2),
    top: onGrid(view.top, area.y - area.height / 2)
  };
}

/** Screen pixels for one pixel of the full-size picture, at least (a fit may be smaller) and at most. */
export const ZOOMS = [0.05, 8] as const;
/** Steps that keys and buttons take. */
const ZOOM_STEPS = [0.05, 0.1, 0.25, 0.33, 0.5, 0.67, 1, 1.5, 2, 3, 4, 6, 8];

/** The next step of zoom beyond one, upwards or downwards. */
export function nextZoom(zoom: number, direction: 1 | -1): number {
  const steps = direction > 0 ? ZOOM_STEPS : [...ZOOM_STEPS].reverse();
  return steps.find((step) => (step - zoom) * direction > zoom * 0.02) ?? steps[steps.length - 1];
}

/** The part of the upright plane that is seen at a zoom. */
export function zoomView(centre: Point, zoom: number, plan: Plan, sheet: SheetSize): View {
  return viewAbout(centre, 1 / (halfDiagonal(plan.projection.size) * zoom), sheet);
}

/** Middle of the view after zooming so that what lies at a place of the sheet stays there. */
export function zoomedAbout(place: Point, view: View, pixel: number): Point {
  const [x, y] = toUpright(place, view);
  return [x - (place[0] - view.width / 2) * pixel, y - (place[1] - view.height / 2) * pixel];
}

/** The nearest middle of the view that lies on the area: the picture cannot be lost out of sight. */
export function keptWithin([x, y]: Point, area: Rectangle): Point {
  const kept = (value: number, middle: number, size: number): number =>
    Math.max(middle - size / 2, Math.min(middle + size / 2, value));
  return [kept(x, area.x, area.width), kept(y, area.y, area.height)];
}

/**
 * What is drawn for a view: the view itself, or, where it enlarges, the pixels of the picture that it shows, one for
 * one and on the grid of the output, which the screen then enlarges without blurring them.
 */
export function drawnView(view: View, plan: Plan): View {
  const unit = 1 / halfDiagonal(plan.projection.size);
  if (view.pixel > unit * 0.999) return view;
  const { crop } = plan;
  const [x0, y0] = [crop.x - crop.width / 2, crop.y - crop.height / 2];
  const first = (from: number, zero: number): number => zero + Math.floor((from - zero) / unit) * unit;
  const [left, top] = [first(view.left, x0), first(view.top, y0)];
  const count = (from: number, size: number, start: number): number =>
    Math.ceil((from + size * view.pixel - start) / unit - 1e-6);
  return {
    left,
    top,
    pixel: unit,
    width: count(view.left, view.width, left),
    height: count(view.top, view.height, top)
  };
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

/** A rectangle in pixels of the sheet. */
export interface Placed {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Whether two pictures of this shape are larger one above the other than one beside the other. */
export function largerStacked(ratio: number, { width, height }: SheetSize): boolean {
  const areaIn = (w: number, h: number): number => Math.min(w, h * ratio) ** 2 / ratio;
  return areaIn(width, height / 2) > areaIn(width / 2, height);
}

/**
 * By how much another picture of the frame is to be moved in the upright plane so that both show the same part of the frame in the
 * middle of a view.
 */
export function shiftBetween(view: View, from: Projection, to: Projection): Point {
  if (equal(from, to)) return [0, 0];
  const middle = toUpright([view.width / 2, view.height / 2], view);
  const field = uprightToField(middle, from);
  const other = field && fieldToUpright(field, to);
  return other ? [other[0] - middle[0], other[1] - middle[1]] : [0, 0];
}

/** Where a picture lies on the sheet that was drawn for a view. */
export function placedBy(of: View, view: View): Placed {
  return {
    left: (of.left - view.left) / view.pixel,
    top: (of.top - view.top) / view.pixel,
    width: (of.width * of.pixel) / view.pixel,
    height: (of.height * of.pixel) / view.pixel
  };
}

/** A rectangle of the upright plane in pixels of the sheet. */
export function boxOnSheet({ x, y, width, height }: Rectangle, view: View): Placed {
  const [left, top] = toSheet([x - width / 2, y - height / 2], view);
  return { left, top, width: width / view.pixel, height: height / view.pixel };
}
