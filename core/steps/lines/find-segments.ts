/**
 * Straight line segments of a picture, with the lens undone: chains of edge pixels cut where they bend, looked for at
 * several sizes (blurred and noisy edges are whole only in smaller ones), and joined where they go on.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { edgeChains } from '../../measure/edges/edge-chains.ts';
import { halveGrey } from '../../measure/edges/halve-grey.ts';
import type { GreyPlane } from '../../measure/edges/trace-polyline.ts';
import { distanceFrom, fitLine } from '../../optics/fit-line.ts';
import { type LensModel, distort, undistort } from '../../optics/lens-model.ts';
import { joinSegments } from './join-segments.ts';

export interface Segment {
  /** Ends in field units with the lens undone. */
  a: Point;
  b: Point;
  length: number;
  /** Standard error of an end across the segment, in field units. */
  error: number;
}

export interface FindSegmentsOptions {
  model: LensModel;
  /** From the plane's pixels to field positions as the glass put them. */
  toField: (place: Point) => Point;
  /** Shortest segment, in field units (default 0.03). */
  shortest?: number;
  most?: number;
  /** Length of the plane's pixel, in field units; by default the plane is all of the frame. */
  pixel?: number;
}

/** Places of a straight edge lie this near to its line, and its ends are known so well, in pixels. */
const STRAIGHT = 0.7;
const END_ERROR = 0.3;
/** Smallest picture in which edges are looked for, by its longer side in pixels. */
const SMALLEST = 400;

/** Cuts a chain of undistorted places into straight parts. */
function cutStraight(points: readonly Point[], shortest: number, straight: number): Point[][] {
  const [a, b] = [points[0], points[points.length - 1]];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (points.length < 8) return [];
  const line = fitLine(points);
  let squares = 0;
  for (const point of points) squares += distanceFrom(line, point) ** 2;
  if (Math.sqrt(squares / points.length) <= straight) return length >= shortest ? [[...points]] : [];
  let furthest = points.length >> 1;
  let most = 0;
  points.forEach((p, i) => {
    const d = Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0]));
    if (d > most && i > 3 && i < points.length - 4) {
      most = d;
      furthest = i;
    }
  });
  return [
    ...cutStraight(points.slice(0, furthest), shortest, straight),
    ...cutStraight(points.slice(furthest), shortest, straight)
  ];
}

/** Ends of the line through places, at the outermost of them. */
function toSegment(points: readonly Point[], error: number): Segment {
  const { at, normal } = fitLine(points);
  const [tx, ty] = [normal[1], -normal[0]];
  const along = points.map((p) => (p[0] - at[0]) * tx + (p[1] - at[1]) * ty);
  const [from, to] = [Math.min(...along), Math.max(...along)];
  return {
    a: [at[0] + tx * from, at[1] + ty * from],
    b: [at[0] + tx * to, at[1] + ty * to],
    length: to - from,
    error
  };
}

/** Segments, longest first. */
export function findSegments(
  plane: GreyPlane,
  {
    model,
    toField,
    shortest = 0.03,
    most = 600,
    pixel: side = 1 / (Math.hypot(plane.width, plane.height) / 2)
  }: FindSegmentsOptions
): Segment[] {
  const found: Segment[] = [];
  let size = 1;
  for (let level = plane; ; level = halveGrey(level), size *= 2) {
    const pixel = size * side;
    for (const chain of edgeChains(level)) {
      const places = chain.map(([x, y]) => undistort(toField([x * size, y * size]), model));
      for (const part of cutStraight(places, shortest, STRAIGHT * pixel))
        found.push(toSegment(part, END_ERROR * pixel));
    }
    if (Math.max(level.width, level.height) < 2 * SMALLEST) break;
  }
  return joinSegments(found).slice(0, most);
}

/** The segment's ends as the glass put them, as marks store them. */
export const segmentEnds = ({ a, b }: Segment, model: LensModel): [Point, Point] => [
  distort(a, model),
  distort(b, model)
];
