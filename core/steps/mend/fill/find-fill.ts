/**
 * Looks for what a larger place can be filled with: a few shifts under which the picture about it is like itself (He & Sun,
 * "Statistics of Patch Offsets for Image Completion", ECCV 2012), within the picture and along the floor and the walls that it
 * shows, laid side by side where they differ least.
 */
import { type FrameSize, type Point, halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import type { Projection } from '../../../picture/geometry/projection.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { pixelsOf } from '../../../picture/tile/sensor-rectangle.ts';
import { type Box, writtenBox } from '../box.ts';
import type { Region } from '../patch.ts';
import { REACH, betweenPixels, chooseShifts, finerShifts } from './choose-shifts.ts';
import { type Fill, PER_UNIT } from './fill.ts';
import { layOut } from './lay-out.ts';
import { type Surface, surfacesAbout } from './surface.ts';
import {
  type Shift,
  type Window,
  type WindowPlace,
  halveWindow,
  pixelToField,
  surfacesBy,
  windowOf
} from './window.ts';

/** Length of the hole's side at which shifts are looked for, in pixels. */
const COARSE = 26;
/** Largest picture in which lines are looked for, by its longer side. */
const LARGEST = 800;
/** Another try does without shifts that so much of the one before was made of. */
const MUCH = 0.08;

export interface FindFillOptions {
  /** What the place was filled with, which another try does without. */
  before?: Fill | null;
  /** How the frame's geometry has the scene: with it, pieces are moved along the floor and the walls, too. */
  projection?: Projection | null;
}

/** What a place is filled with. Null where nothing about it could be taken. */
export function findFill(
  planes: PlacedPlanes,
  region: Region,
  frame: FrameSize,
  { before = null, projection = null }: FindFillOptions = {}
): Fill | null {
  const own = writtenBox(region, frame);
  const side = Math.max(own.right - own.left, own.bottom - own.top);
  const box = pixelsOf(planes, {
    left: own.left - (REACH + 0.6) * side,
    top: own.top - (REACH + 0.6) * side,
    right: own.right + (REACH + 0.6) * side,
    bottom: own.bottom + (REACH + 0.6) * side
  });
  const length = Math.sqrt((own.right - own.left) * (own.bottom - own.top)) * planes.scaleX;
  const place: WindowPlace = { planes, box, frame };
  // From the size of the planes down to that at which shifts are looked for.
  let sizes = [windowOf(place, region)];
  const halvings = Math.max(0, Math.round(Math.log2(length / COARSE)));
  for (let n = 0; n < halvings; n++) sizes.push(halveWindow(sizes[n]));
  const surfaces = projection ? surfacesIn(sizes, place, own, projection) : [];
  sizes = sizes.map((window, n) => ({
    ...window,
    surfaces: surfacesBy(pixelToField(place, 2 ** n), surfaces)
  }));
  const times = 2 ** halvings;
  const used = usedBy(before, surfaces, (halfDiagonal(frame) * planes.scaleX) / times);
  let shifts = chooseShifts(sizes[halvings], length / times, used);
  if (shifts.length === 0) return null;
  for (let n = halvings - 1; n >= 0; n--) shifts = finerShifts(sizes[n], shifts, 2);
  return layOut(sizes[0], place, betweenPixels(sizes[0], shifts), own, surfaces);
}

/** The floor and the walls that the picture about a place shows; `sizes`: it, each half the size of the one before. */
function surfacesIn(
  sizes: readonly Window[],
  place: WindowPlace,
  own: Box,
  projection: Projection
): Surface[] {
  const fits = sizes.findIndex(({ width, height }) => Math.max(width, height) <= LARGEST);
  const size = fits < 0 ? sizes.length - 1 : fits;
  const { width, height, values } = sizes[size];
  const grey = {
    width,
    height,
    data: Float32Array.from({ length: width * height }, (_, i) => Math.min(1, values[i * 3 + 1]))
  };
  const [pixel, , left, , down, top] = pixelToField(place, 2 ** size);
  // Edges lie by the corners of pixels.
  const toField = ([x, y]: Point): Point => [left + (x - 0.5) * pixel, top + (y - 0.5) * down];
  const middle = sensorToField([(own.left + own.right) / 2, (own.top + own.bottom) / 2], projection.size);
  const part = { middle, across: (width * pixel) / 2, down: (height * down) / 2 };
  return surfacesAbout(grey, { toField, pixel }, part, projection);
}

/** Whether two surfaces are the same but for rounding. */
const isSame = (one: readonly number[], other: readonly number[]): boolean =>
  one.every((value, i) => Math.abs(value - other[i]) < 1e-6);

/** Shifts that much of a fill was made with, in pixels of which a field unit has `unit`. */
function usedBy(fill: Fill | null, surfaces: readonly Surface[], unit: number): Shift[] {
  const counts = new Map<string, Shift & { count: number }>();
  const cells = fill ? Math.floor(fill.offsets.length / 2) : 0;
  for (let i = 0; fill && i < cells; i++) {
    const [x, y, along] = [fill.offsets[2 * i], fill.offsets[2 * i + 1], fill.along?.[i] ?? 0];
    const on = along > 0 ? (fill.surfaces?.[along - 1] ?? []) : [];
    const surface = along > 0 ? surfaces.findIndex((each) => isSame(each, on)) + 1 : 0;
    // Along a surface that the scene no longer has nothing is moved.
    if (along > 0 && surface === 0) continue;
    const key = `${surface} ${x} ${y}`;
    const known = counts.get(key) ?? {
      surface,
      dx: (x / PER_UNIT) * unit,
      dy: (y / PER_UNIT) * unit,
      count: 0
    };
    known.count++;
    counts.set(key, known);
  }
  return [...counts.values()].filter(({ count }) => count > MUCH * cells);
}
