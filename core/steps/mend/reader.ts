/** Reading planes by the pixels of others. */
import { catmullRom } from '../../picture/geometry/kernel.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import type { Box } from './box.ts';

export const COLOURS = ['r', 'g', 'b'] as const;

/** The value of a colour for a pixel of the planes that it is read by. */
export type Reader = (colour: 0 | 1 | 2, x: number, y: number) => number;

/** Nearer to a whole pixel than this, pixels are taken as they are: what is read between them loses its noise. */
const WHOLE = 0.02;

const clamp = (value: number, last: number): number => (value < 0 ? 0 : value > last ? last : value);

/** Reads planes by the pixels of `like`, `dx` and `dy` sensor pixels further; beyond the planes, their edge. */
export function readerOf(planes: PlacedPlanes, like: PlacedPlanes, dx = 0, dy = 0): Reader {
  const { width, height, originX, originY, scaleX, scaleY } = planes;
  const all = COLOURS.map((name) => planes[name]);
  const shiftX = (like.originX - originX + dx) * scaleX;
  const shiftY = (like.originY - originY + dy) * scaleY;
  const [wholeX, wholeY] = [Math.round(shiftX), Math.round(shiftY)];
  if (Math.abs(shiftX - wholeX) < WHOLE && Math.abs(shiftY - wholeY) < WHOLE)
    return (colour, x, y) =>
      all[colour][clamp(y + wholeY, height - 1) * width + clamp(x + wholeX, width - 1)];
  const [left, top] = [Math.floor(shiftX), Math.floor(shiftY)];
  const [fx, fy] = [shiftX - left, shiftY - top];
  return (colour, x, y) => {
    const plane = all[colour];
    const [x0, x1] = [clamp(x + left, width - 1), clamp(x + left + 1, width - 1)];
    const [y0, y1] = [clamp(y + top, height - 1) * width, clamp(y + top + 1, height - 1) * width];
    const upper = plane[y0 + x0] * (1 - fx) + plane[y0 + x1] * fx;
    return upper * (1 - fy) + (plane[y1 + x0] * (1 - fx) + plane[y1 + x1] * fx) * fy;
  };
}

/** A plane between its pixels, whose middles are at whole numbers; never beyond what the four nearest of them are. */
export function cubic(plane: Float32Array, width: number, height: number, x: number, y: number): number {
  const [ix, iy] = [Math.floor(clamp(x, width - 1)), Math.floor(clamp(y, height - 1))];
  const [fx, fy] = [clamp(x, width - 1) - ix, clamp(y, height - 1) - iy];
  let [sum, least, most] = [0, Infinity, -Infinity];
  for (let j = -1; j <= 2; j++) {
    const row = clamp(iy + j, height - 1) * width;
    let line = 0;
    for (let i = -1; i <= 2; i++) {
      const value = plane[row + clamp(ix + i, width - 1)];
      line += catmullRom(i - fx) * value;
      if (i >= 0 && i <= 1 && j >= 0 && j <= 1) {
        least = Math.min(least, value);
        most = Math.max(most, value);
      }
    }
    sum += catmullRom(j - fy) * line;
  }
  return Math.min(most, Math.max(least, sum));
}

/** Whether planes hold all of a box that lies on the frame. */
export function holds(
  { originX, originY, scaleX, scaleY, width, height }: PlacedPlanes,
  box: Box,
  frame: { width: number; height: number }
): boolean {
  // Planes end with whole pixels of their own.
  const [slackX, slackY] = [1 / scaleX, 1 / scaleY];
  return (
    originX <= Math.max(0, box.left) + slackX &&
    originY <= Math.max(0, box.top) + slackY &&
    originX + width / scaleX >= Math.min(frame.width, box.right) - slackX &&
    originY + height / scaleY >= Math.min(frame.height, box.bottom) - slackY
  );
}

/** The root of light: noise is as strong in bright as in dark places, and a difference of light neither a sum nor a factor. */
export const root = (value: number): number => (value > 0 ? Math.sqrt(value) : 0);
