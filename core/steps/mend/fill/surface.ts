/**
 * Flat things of the scene (a wall, the floor) as a picture shows them: under the homography of one, its courses and flags are
 * alike when they are moved (Huang et al., "Image Completion using Planar Structure Guidance", SIGGRAPH 2014).
 */
import type { Point } from '../../../math/frame-geometry.ts';
import { homography } from '../../../math/homography.ts';
import { type Matrix3, apply, invert3, multiply } from '../../../math/matrix3.ts';
import type { Vector3 } from '../../../math/vector3.ts';
import { undistort } from '../../../optics/lens-model.ts';
import type { Projection } from '../../../picture/geometry/projection.ts';
import type { GreyPlane } from '../../../measure/edges/trace-polyline.ts';
import { type FindSegmentsOptions, findSegments } from '../../lines/find-segments.ts';
import { levelDirections } from '../../lines/plumb/level-evidence.ts';
import { RADIANS, toLines } from '../../lines/plumb/picture-lines.ts';
import { BATTER, plumbShares } from '../../lines/plumb/plumb-evidence.ts';

/** From field positions to places on the surface; about one position both are the same to first order. */
export type Surface = Matrix3;

/** Surfaces of one fill: the floor, and walls along the level directions about it. */
export const MOST_SURFACES = 4;

/** How far surfaces may be foreshortened at the place: the cosine between a ray and what stands upright on it. */
const GRAZING = 0.06;
/** Share of the depth at the place that a position may have to be told by. */
const NEAREST = 0.4;
/** Positions along each side of the part of the picture that a surface is fitted in. */
const ALONG = 7;

/** How much larger or smaller a surface may be shown where its picture is taken from, as a ratio of depths. */
export const DEPTHS = { least: 0.63, most: 1.6 };

/**
 * Writes where the picture of a place is taken from when a surface, given with its inverse, is moved by `dx`, `dy`: false where
 * that lies beyond its horizon, or much larger or smaller than what it is taken for.
 */
export function movedAlong(
  to: Matrix3,
  back: Matrix3,
  [x, y]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  out: [number, number]
): boolean {
  const depth = to[6] * x + to[7] * y + to[8];
  const u = (to[0] * x + to[1] * y + to[2]) / depth + dx;
  const v = (to[3] * x + to[4] * y + to[5]) / depth + dy;
  // The inverse gives a depth as what it divides by.
  const w = back[6] * u + back[7] * v + back[8];
  const ratio = 1 / (w * depth);
  if (!(depth > 0 && ratio >= DEPTHS.least && ratio <= DEPTHS.most)) return false;
  out[0] = (back[0] * u + back[1] * v + back[2]) / w;
  out[1] = (back[3] * u + back[4] * v + back[5]) / w;
  return true;
}

/** A part of the field: its middle, and how far it reaches to each side. */
export interface FieldPart {
  middle: Point;
  across: number;
  down: number;
}

/** The floor, and the walls along the level directions of the lines that a part of the picture shows. */
export function surfacesAbout(
  grey: GreyPlane,
  { toField, pixel }: Required<Pick<FindSegmentsOptions, 'toField' | 'pixel'>>,
  part: FieldPart,
  projection: Projection
): Surface[] {
  const { focal, model, rotation } = projection;
  const lines = toLines(findSegments(grey, { model, toField, pixel }));
  const plumb = plumbShares(lines, rotation, focal, (BATTER.usual * RADIANS) ** 2);
  const walls = levelDirections(lines, rotation, plumb, focal).map(({ azimuth }) => wallAlong(azimuth));
  return [FLOOR, ...walls]
    .map((axes) => surfaceOf(axes, part, projection))
    .filter((surface) => surface !== null)
    .slice(0, MOST_SURFACES);
}

/** Two directions within a flat thing and the one that stands on it, in upright rays, row by row. */
const FLOOR: Matrix3 = [1, 0, 0, 0, 0, 1, 0, 1, 0];
function wallAlong(azimuth: number): Matrix3 {
  const [c, s] = [Math.cos(azimuth), Math.sin(azimuth)];
  return [c, 0, -s, 0, 1, 0, s, 0, c];
}

function surfaceOf(
  axes: Matrix3,
  { middle, across, down }: FieldPart,
  { focal, model, rotation }: Projection
): Surface | null {
  const toAxes = multiply(axes, rotation);
  const rayOf = (field: Point): Vector3 => {
    const [x, y] = undistort(field, model);
    return apply(toAxes, [x / focal, y / focal, 1]);
  };
  const first = rayOf(middle);
  if (Math.abs(first[2]) < GRAZING * Math.hypot(...first)) return null;
  const place = (field: Point): Point | null => {
    const [a, b, depth] = rayOf(field);
    return depth / first[2] < NEAREST ? null : [a / depth, b / depth];
  };
  const at = place(middle)!;
  const step = 1e-3;
  const [right, below] = [place([middle[0] + step, middle[1]]), place([middle[0], middle[1] + step])];
  if (!right || !below) return null;
  const affine = invert3([
    (right[0] - at[0]) / step,
    (below[0] - at[0]) / step,
    0,
    (right[1] - at[1]) / step,
    (below[1] - at[1]) / step,
    0,
    0,
    0,
    1
  ]);
  const [from, to]: [Point[], Point[]] = [[], []];
  for (let j = 0; j < ALONG; j++)
    for (let i = 0; i < ALONG; i++) {
      const [x, y] = [(i / (ALONG - 1) - 0.5) * 2 * across, (j / (ALONG - 1) - 0.5) * 2 * down];
      const on = place([middle[0] + x, middle[1] + y]);
      if (!on) continue;
      const [u, v] = apply(affine, [on[0] - at[0], on[1] - at[1], 1]);
      from.push([x, y]);
      to.push([u, v]);
    }
  if (from.length < 2 * ALONG) return null;
  const about = [...homography(from, to), 1] as Matrix3;
  if (!about.every(Number.isFinite)) return null;
  const [x, y] = middle;
  return multiply([1, 0, x, 0, 1, y, 0, 0, 1], multiply(about, [1, 0, -x, 0, 1, -y, 0, 0, 1]));
}
