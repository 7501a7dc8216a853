/** The boxes of the sensor that a patch writes and reads. */
import { type FrameSize, type Point, fieldToSensor, halfDiagonal } from '../../math/frame-geometry.ts';
import type { SensorRectangle } from '../../picture/tile/sensor-rectangle.ts';
import { fillSource, placedFill } from './fill/fill.ts';
import type { Patch, Region } from './patch.ts';

export type Box = SensorRectangle;

/** How far about a place its surroundings are looked at, in radii: light and colour are taken over from there. */
export const RIM = 1.6;
/** From how far beside a cable its texture is taken, in radii from its middle. */
export const BESIDE = 2.6;

/** A region in sensor pixels. */
export interface PlacedRegion {
  points: number[];
  radius: number;
}

export function placed({ points, size }: Region, frame: FrameSize): PlacedRegion {
  const unit = halfDiagonal(frame);
  const on: number[] = [];
  for (let i = 0; i + 1 < points.length; i += 2)
    on.push(...fieldToSensor([points[i], points[i + 1]] as Point, frame));
  return { points: on, radius: (size / 1000) * unit };
}

/** From a patch to where its texture is taken from, in sensor pixels. */
export function placedSource({ source: [dx, dy] }: Patch, frame: FrameSize): [number, number] {
  const unit = halfDiagonal(frame);
  return [dx * unit, dy * unit];
}

function about(points: readonly number[], by: number): Box {
  const box: Box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i + 1 < points.length; i += 2) {
    box.left = Math.min(box.left, points[i] - by);
    box.right = Math.max(box.right, points[i] + by);
    box.top = Math.min(box.top, points[i + 1] - by);
    box.bottom = Math.max(box.bottom, points[i + 1] + by);
  }
  return box;
}

const moved = ({ left, top, right, bottom }: Box, [dx, dy]: readonly [number, number]): Box => ({
  left: left + dx,
  top: top + dy,
  right: right + dx,
  bottom: bottom + dy
});

/** What a patch changes. */
export const writtenBox = (region: Region, frame: FrameSize): Box => {
  const { points, radius } = placed(region, frame);
  return about(points, radius);
};

/** What it reads: about its place, and where its texture comes from. */
export function readBoxes(patch: Patch, frame: FrameSize): Box[] {
  const { points, radius } = placed(patch, frame);
  if (patch.kind === 'cable') return [about(points, radius * (BESIDE + 3) + 4)];
  const own = about(points, radius * RIM + 2);
  if (patch.fill) return [own, fillSource(placedFill(patch.fill, frame))];
  return [own, moved(own, placedSource(patch, frame))];
}

/** The part of a box that lies on the frame; of one that lies beyond it, the pixels of the edge next to it. */
function onFrame({ left, top, right, bottom }: Box, { width, height }: FrameSize): Box {
  const [x, y] = [Math.min(width - 1, Math.max(0, left)), Math.min(height - 1, Math.max(0, top))];
  return {
    left: x,
    top: y,
    right: Math.max(x + 1, Math.min(width, right)),
    bottom: Math.max(y + 1, Math.min(height, bottom))
  };
}

/** What it reads to make a part of the picture, on the frame: a cable what lies about that part, others all of what they read. */
export function boxesFor(patch: Patch, frame: FrameSize, made: Box): Box[] {
  const boxes = readBoxes(patch, frame);
  if (patch.kind !== 'cable') return boxes.map((box) => onFrame(box, frame));
  const by = placed(patch, frame).radius * (BESIDE + 3) + 4;
  const [all] = boxes;
  const box = {
    left: Math.max(all.left, made.left - by),
    top: Math.max(all.top, made.top - by),
    right: Math.min(all.right, made.right + by),
    bottom: Math.min(all.bottom, made.bottom + by)
  };
  return [onFrame(box, frame)];
}

/** Whether a segment passes through a box (Liang & Barsky 1984). */
function passes([ax, ay, bx, by]: readonly number[], { left, top, right, bottom }: Box): boolean {
  let [from, to] = [0, 1];
  for (const [start, move, low, high] of [
    [ax, bx - ax, left, right],
    [ay, by - ay, top, bottom]
  ]) {
    if (move === 0) {
      if (start < low || start > high) return false;
      continue;
    }
    const [one, other] = [(low - start) / move, (high - start) / move];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  return from <= to;
}

/** Whether a patch changes anything of a part of the picture. */
export function changes(patch: Patch, frame: FrameSize, made: Box): boolean {
  if (patch.kind !== 'cable') return overlap(writtenBox(patch, frame), made);
  const { points, radius } = placed(patch, frame);
  const about: Box = {
    left: made.left - radius,
    top: made.top - radius,
    right: made.right + radius,
    bottom: made.bottom + radius
  };
  return points.some((_, i) => i % 2 === 0 && i + 3 < points.length && passes(points.slice(i, i + 4), about));
}

export const overlap = (one: Box, other: Box): boolean =>
  one.left < other.right && other.left < one.right && one.top < other.bottom && other.top < one.bottom;
