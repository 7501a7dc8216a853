/** Marks over what is clipped: dots on what is fully light, fine hatching on what is fully dark. Shape tells, not colour. */

import type { Clipping } from '../state/clipping.ts';

const CHANNELS: Record<Exclude<Clipping, 'off'>, readonly number[]> = {
  any: [0, 1, 2],
  red: [0],
  green: [1],
  blue: [2]
};

/** Pixels of the screen between two dots, their size, and between two lines of the hatching. */
const DOTS = 7;
const DOT = 2;
const LINES = 5;

export interface Pixels {
  /** 8-bit RGBA in rows. */
  data: ArrayLike<number>;
  width: number;
  height: number;
}

/** Where the picture lies on the screen. */
export interface Placed {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** 1 where a pixel is at its top, -1 where it is at its bottom, else 0: in any of the channels, or dark in all of them. */
export function clippedAt(
  { data, width }: Pixels,
  x: number,
  y: number,
  clipping: Exclude<Clipping, 'off'>
): -1 | 0 | 1 {
  const at = (y * width + x) * 4;
  // No picture lies there.
  if (data[at + 3] === 0) return 0;
  const channels = CHANNELS[clipping];
  if (channels.some((channel) => data[at + channel] === 255)) return 1;
  return channels.every((channel) => data[at + channel] === 0) ? -1 : 0;
}

/** The marks as pixels of the screen, to be laid over the picture: black on white, so that they read on any. */
export function clippingMarks(
  picture: Pixels,
  placed: Placed,
  size: { width: number; height: number },
  clipping: Exclude<Clipping, 'off'>
): Uint8ClampedArray<ArrayBuffer> {
  const marks = new Uint8ClampedArray(size.width * size.height * 4);
  const [scaleX, scaleY] = [picture.width / placed.width, picture.height / placed.height];
  const paint = (x: number, y: number, shade: number): void => {
    const at = (y * size.width + x) * 4;
    marks[at] = marks[at + 1] = marks[at + 2] = shade;
    marks[at + 3] = 255;
  };
  for (let y = 0; y < size.height; y++) {
    const row = Math.floor((y - placed.top) * scaleY);
    if (row < 0 || row >= picture.height) continue;
    for (let x = 0; x < size.width; x++) {
      const shift = Math.floor(y / DOTS) % 2 === 0 ? 0 : Math.floor(DOTS / 2);
      const [inX, inY] = [(x + shift) % DOTS, y % DOTS];
      const onDot = inX <= DOT && inY <= DOT;
      const onLine = (x + y) % LINES === 0;
      if (!onDot && !onLine) continue;
      const column = Math.floor((x - placed.left) * scaleX);
      if (column < 0 || column >= picture.width) continue;
      const clipped = clippedAt(picture, column, row, clipping);
      if (clipped > 0 && onDot) paint(x, y, inX < DOT && inY < DOT ? 0 : 255);
      else if (clipped < 0 && onLine) paint(x, y, 190);
    }
  }
  return marks;
}
