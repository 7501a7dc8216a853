/** Where a sky lies behind a frame, and its light there. */
import type { Planes } from '../../../picture/tile/planes.ts';
import type { SkyPicture } from './sky-resource.ts';
import type { SkySettings } from './sky-settings.ts';

/** Half of a frame's width and height in field units. */
export interface HalfFrame {
  x: number;
  y: number;
}

/** A sky laid out: from upright positions to its light. */
export interface LaidSky {
  planes: Planes;
  /** Pixels of it to one upright unit, to the right and down, and where the origin lies on it. */
  right: readonly [x: number, y: number];
  down: readonly [x: number, y: number];
  origin: readonly [x: number, y: number];
}

/**
 * The foot of the sky lies on the horizon of the corrected picture, where upright y is 0; its middle is that of the frame.
 * `pixel`: upright units of one pixel of the output; of the sky's sizes the one is taken that has none to spare.
 */
export function laySky(sky: SkyPicture, settings: SkySettings, half: HalfFrame, pixel: number): LaidSky {
  const full = sky.levels[0];
  const perUnit = full.width / ((2 * half.x * settings.scale) / 100);
  const level = Math.min(sky.levels.length - 1, Math.max(0, Math.round(Math.log2(perUnit * pixel))));
  const planes = sky.levels[level];
  const scale = planes.width / full.width;
  const angle = (-settings.turn * Math.PI) / 180;
  const [cos, sin] = [perUnit * scale * Math.cos(angle), perUnit * scale * Math.sin(angle)];
  const side = settings.mirrored ? -1 : 1;
  const [x, y] = [(2 * half.x * settings.across) / 100, (-2 * half.y * settings.up) / 100];
  return {
    planes,
    right: [side * cos, sin],
    down: [-side * sin, cos],
    origin: [planes.width / 2 - side * (cos * x - sin * y), planes.height - (sin * x + cos * y)]
  };
}

/** Beyond its edges a sky goes on as in a mirror. */
function mirrored(place: number, size: number): number {
  const turned = Math.abs(place) % (2 * size);
  return turned < size ? turned : 2 * size - turned;
}

/** Writes the light at an upright position. */
export function skyAt(
  { planes, right, down, origin }: LaidSky,
  x: number,
  y: number,
  out: Float64Array
): void {
  const { width, height, r, g, b } = planes;
  const px = mirrored(origin[0] + right[0] * x + down[0] * y - 0.5, width - 1);
  const py = mirrored(origin[1] + right[1] * x + down[1] * y - 0.5, height - 1);
  const column = Math.min(width - 2, px | 0);
  const row = Math.min(height - 2, py | 0);
  const [fx, fy] = [px - column, py - row];
  const at = row * width + column;
  const below = at + width;
  const [a, c, d, e] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
  out[0] = a * r[at] + c * r[at + 1] + d * r[below] + e * r[below + 1];
  out[1] = a * g[at] + c * g[at + 1] + d * g[below] + e * g[below + 1];
  out[2] = a * b[at] + c * b[at + 1] + d * b[below] + e * b[below + 1];
}
