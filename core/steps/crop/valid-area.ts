import type { Point } from '../../math/frame-geometry.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { distortRadius, shownRadius } from '../../optics/lens-model.ts';
import { type Projection, sensorToUpright } from '../../picture/geometry/projection.ts';

/** Points per side of the outline; the arc between two of them bows by under 0.05 px at 24 MP. */
const POINTS_PER_SIDE = 96;

/**
 * Outline, in upright coordinates, of the area that has real pixels: the frame's border carried through lens
 * and rotation. A closed polygon, clockwise on screen. Border points behind the view are left out; those that a fisheye
 * sees beyond what a flat picture can show are drawn in to where it can.
 */
export function validArea(projection: Projection): Point[] {
  const { width, height } = projection.size;
  const [left, top, right, bottom] = [0, 0, width, height];
  const corners: Point[] = [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom]
  ];
  const { model } = projection;
  const { centre } = model;
  const unit = halfDiagonal(projection.size);
  const [cx, cy] = [width / 2 + centre[0] * unit, height / 2 + centre[1] * unit];
  const shown = shownRadius(model);
  const furthest = (shown < model.limit ? distortRadius(shown, model) : model.limitDistorted) * unit * 0.9999;
  const outline: Point[] = [];
  for (let side = 0; side < 4; side++) {
    const [ax, ay] = corners[side];
    const [bx, by] = corners[(side + 1) % 4];
    for (let i = 0; i < POINTS_PER_SIDE; i++) {
      const t = i / POINTS_PER_SIDE;
      const x = ax + (bx - ax) * t;
      const y = ay + (by - ay) * t;
      const inwards = Math.min(1, furthest / Math.hypot(x - cx, y - cy));
      const point = sensorToUpright([cx + (x - cx) * inwards, cy + (y - cy) * inwards], projection);
      if (point) outline.push(point);
    }
  }
  return outline;
}
