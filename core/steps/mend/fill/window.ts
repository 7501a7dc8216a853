/** The part of a picture that a place is filled from, at some size: what is known of it, and what is alike in it. */
import { type FrameSize, halfDiagonal } from '../../../math/frame-geometry.ts';
import { type Matrix3, invert3, multiply } from '../../../math/matrix3.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { pixelsOf } from '../../../picture/tile/sensor-rectangle.ts';
import { cellsOf, distances, readCells } from '../away-from.ts';
import { type Box, placed, writtenBox } from '../box.ts';
import type { Region } from '../patch.ts';
import { COLOURS, root } from '../reader.ts';
import { type Surface, movedAlong } from './surface.ts';

/** Squared difference from which on two pixels are simply not alike. */
export const UNLIKE = 0.02;

export interface Window {
  width: number;
  height: number;
  /** Roots of light, three a pixel. */
  values: Float32Array;
  /** 1 in the place that is filled. */
  hole: Uint8Array;
  /** Surfaces by the window's pixels, with their inverses. */
  surfaces: readonly { to: Matrix3; back: Matrix3 }[];
}

/** A move within the picture (`surface` 0) or along a surface (from 1), in pixels of the window. */
export interface Shift {
  surface: number;
  dx: number;
  dy: number;
}

/** Where a window lies: a box of the planes' pixels. */
export interface WindowPlace {
  planes: PlacedPlanes;
  box: Box;
  frame: FrameSize;
}

/** From a window's pixels, by their indices, to field positions; `by` pixels of the planes are one of the window's. */
export function pixelToField({ planes, box, frame }: WindowPlace, by: number): Matrix3 {
  const unit = halfDiagonal(frame);
  const axis = (origin: number, scale: number, first: number, side: number): [number, number] => [
    by / scale / unit,
    (origin + (first + by / 2) / scale - side / 2) / unit
  ];
  const [across, left] = axis(planes.originX, planes.scaleX, box.left, frame.width);
  const [down, top] = axis(planes.originY, planes.scaleY, box.top, frame.height);
  return [across, 0, left, 0, down, top, 0, 0, 1];
}

/** Surfaces as a window has them. */
export function surfacesBy(toField: Matrix3, surfaces: readonly Surface[]): Window['surfaces'] {
  const toPixel = invert3(toField);
  return surfaces.map((surface) => {
    const to = multiply(toPixel, multiply(surface, toField));
    return { to, back: invert3(to) };
  });
}

/** A window at the size of its planes, without surfaces. */
export function windowOf({ planes, box, frame }: WindowPlace, region: Region): Window {
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  const values = new Float32Array(width * height * 3);
  COLOURS.forEach((name, c) => {
    for (let y = 0, at = c; y < height; y++) {
      const row = (box.top + y) * planes.width + box.left;
      for (let x = 0; x < width; x++, at += 3) values[at] = root(planes[name][row + x]);
    }
  });
  const hole = new Uint8Array(width * height);
  const { points, radius } = placed(region, frame);
  const about = writtenBox(region, frame);
  const grid = cellsOf(about, Math.max(radius / 5, 1 / planes.scaleX));
  const away = distances(points, grid, radius * 1.2);
  // A pixel that is half in it is all in it.
  const reach = radius + 0.5 / planes.scaleX;
  const { left, top, right, bottom } = pixelsOf(planes, about);
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const sx = planes.originX + (x + 0.5) / planes.scaleX;
      const sy = planes.originY + (y + 0.5) / planes.scaleY;
      if (readCells(away, grid, sx, sy) < reach) hole[(y - box.top) * width + x - box.left] = 1;
    }
  return { width, height, values, hole, surfaces: [] };
}

/** A window at half the size, without surfaces. */
export function halveWindow({ width, height, values, hole }: Window): Window {
  const [across, down] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Float32Array(across * down * 3);
  const holes = new Uint8Array(across * down);
  for (let y = 0, at = 0; y < down; y++)
    for (let x = 0; x < across; x++, at++) {
      const first = 2 * y * width + 2 * x;
      for (const i of [first, Math.min(first + 1, hole.length - 1)])
        for (const j of [i, Math.min(i + width, hole.length - 1)]) {
          for (let c = 0; c < 3; c++) out[at * 3 + c] += values[j * 3 + c] / 4;
          if (hole[j]) holes[at] = 1;
        }
    }
  return { width: across, height: down, values: out, hole: holes, surfaces: [] };
}

const place: [number, number] = [0, 0];

/** Writes the colour that a shift lays at a pixel; false where it has none to lay. */
export function laidAt(
  { width, height, values, hole, surfaces }: Window,
  x: number,
  y: number,
  { surface, dx, dy }: Shift,
  out: Float64Array
): boolean {
  if (surface === 0) {
    const [sx, sy] = [x + dx, y + dy];
    if (sx < 0 || sy < 0 || sx >= width || sy >= height) return false;
    const at = sy * width + sx;
    if (hole[at]) return false;
    for (let c = 0; c < 3; c++) out[c] = values[at * 3 + c];
    return true;
  }
  const { to, back } = surfaces[surface - 1];
  if (!movedAlong(to, back, [x, y], [dx, dy], place)) return false;
  const [ix, iy] = [Math.floor(place[0]), Math.floor(place[1])];
  if (ix < 0 || iy < 0 || ix >= width - 1 || iy >= height - 1) return false;
  const at = iy * width + ix;
  if (hole[at] || hole[at + 1] || hole[at + width] || hole[at + width + 1]) return false;
  const [fx, fy] = [place[0] - ix, place[1] - iy];
  for (let c = 0, i = at * 3; c < 3; c++, i++) {
    const upper = values[i] * (1 - fx) + values[i + 3] * fx;
    const under = i + width * 3;
    out[c] = upper * (1 - fy) + (values[under] * (1 - fx) + values[under + 3] * fx) * fy;
  }
  return true;
}

const laid = new Float64Array(3);

/** How unlike a pixel is to what a shift lays there; the most where that is nothing. */
export function unlike(window: Window, at: number, shift: Shift): number {
  const { width, values } = window;
  if (!laidAt(window, at % width, Math.floor(at / width), shift, laid)) return UNLIKE;
  const i = at * 3;
  const [r, g, b] = [values[i] - laid[0], values[i + 1] - laid[1], values[i + 2] - laid[2]];
  return Math.min(UNLIKE, r * r + g * g + b * b);
}

/** Known pixels that lie within so many of the hole, across, down or both. */
export function rimOf({ width, height, hole }: Window, reach: number): Int32Array {
  const wide = new Uint8Array(hole.length);
  spread(hole, wide, { lines: height, toLine: width, length: width, toNext: 1 }, reach);
  const near = new Uint8Array(hole.length);
  spread(wide, near, { lines: width, toLine: 1, length: height, toNext: width }, reach);
  const out: number[] = [];
  for (let at = 0; at < hole.length; at++) if (near[at] && !hole[at]) out.push(at);
  return Int32Array.from(out);
}

/** Sets what lies within so many of something that is set, along lines. */
function spread(
  of: Uint8Array,
  out: Uint8Array,
  { lines, toLine, length, toNext }: { lines: number; toLine: number; length: number; toNext: number },
  reach: number
): void {
  for (let line = 0; line < lines; line++) {
    // How long ago one was set, forth and back.
    for (const [first, step] of [
      [0, toNext],
      [length - 1, -toNext]
    ]) {
      let since = Infinity;
      for (let i = 0, at = line * toLine + first * toNext; i < length; i++, at += step) {
        since = of[at] ? 0 : since + 1;
        if (since <= reach) out[at] = 1;
      }
    }
  }
}
