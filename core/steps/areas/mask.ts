/** A shape drawn on a grid: how much of each place belongs to it. */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { type Arena, inArena } from '../../picture/kernels/arena.ts';
import { addressOf, takeFloat32, takeUint8, takenTogether } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { type Grid, gridOf } from '../../picture/tile/grid.ts';
import { type Guide, guideOf } from './guide.ts';
import { type InsideColours, continueColours } from './another-sky/inside-colours.ts';
import type { Pictured } from './pictured.ts';
import { drawPart } from './parts/part.ts';
import { lightShare } from './parts/ranges.ts';
import { PER_CELL, refinedLines } from './refine.ts';
import type { MaskSpec } from './shape.ts';
import { softened } from './soften.ts';

/** Cells along the longer edge; of what follows the picture's edges fewer, since each pixel sharpens it itself. */
export const CELLS = 1536;
const LINE_CELLS = 512;

/** A mask's memory is its maker's to give back. */
export interface Mask extends FrameSize {
  /** A byte for each cell over the whole frame: 0 is none, 255 all. */
  values: Uint8Array;
  /** What draws the weights to what the pixels' own colours say (`refine.ts`), on a grid of its own; null: nothing does. */
  lines: (FrameSize & { values: Float32Array }) | null;
  /** The colours of what lies inside, continued beyond it, where they are asked for. */
  inside: InsideColours | null;
  /** Shares of the frame, across and down, outside of which nothing belongs to it. */
  box: { left: number; top: number; right: number; bottom: number };
}

/** Draws a shape. */
export function makeMask(of: Pictured, spec: MaskSpec): Mask {
  const { planes } = of;
  const frame = { width: planes.width / planes.scaleX, height: planes.height / planes.scaleY };
  const grid = gridOf(frame, CELLS);
  const coarse = gridOf(frame, LINE_CELLS);
  return takenTogether((own) => {
    const size = grid.width * grid.height;
    const values = own(takeUint8(size));
    const { width, height } = coarse;
    const lines = spec.radius > 0 ? own(takeFloat32(PER_CELL * width * height)) : null;
    const plane = (): Float32Array => own(takeFloat32(width * height));
    const continued = spec.colours ? ([plane(), plane(), plane()] as const) : null;
    let inside: InsideColours | null = null;
    inArena((arena) => {
      const mask = drawnShape(spec, grid, of, arena);
      if (lines || continued) {
        const reduced = arena.float32(width * height);
        const work = addressOf(arena.float32(grid.width + 3));
        const [from, to] = [mask, reduced].map(addressOf);
        kernels().averageOnto(from, grid.width, grid.height, to, width, height, work);
        const about = guideOf(of, coarse);
        if (lines) refinedLines(reduced, about, spec, lines);
        if (continued) inside = insideColours(reduced, about, spec, continued, arena);
      }
      if (spec.invert) invert(mask, lines);
      for (let i = 0; i < size; i++) {
        const share = mask[i];
        values[i] = share <= 0 ? 0 : share >= 1 ? 255 : 255 * share + 0.5;
      }
    });
    // A refined edge lies within the radius of that which was drawn.
    const reach = 2 + (lines ? (spec.radius / 1000) * grid.unit + 2 * (grid.width / width) : 0);
    return {
      ...grid,
      values,
      lines: lines && { width, height, values: lines },
      inside,
      box: boxOf(values, grid, reach)
    };
  });
}

/** From this share on a cell lies inside. */
const INSIDE = 0.98;

/** The colours of cells that surely lie inside: away from the edge by as much as that is refined. */
function insideColours(
  mask: Float32Array,
  { colours, grid }: Guide,
  { radius, invert }: MaskSpec,
  out: readonly [Float32Array, Float32Array, Float32Array],
  arena: Arena
): InsideColours {
  const sure = arena.float32(mask.length);
  for (let i = 0; i < sure.length; i++) sure[i] = (invert ? 1 - mask[i] : mask[i]) > INSIDE ? 1 : 0;
  const [at, across] = [addressOf(sure), addressOf(arena.float32(mask.length + 2 * grid.width + 16))];
  const reach = 1 + Math.round(((radius / 1000) * grid.unit) / 2);
  kernels().extremes(at, grid.width, grid.height, reach, 0, across, at);
  return continueColours(colours, sure, grid, out);
}

/** The parts one after another, then what is done to all of them. */
function drawnShape(spec: MaskSpec, grid: Grid, of: Pictured, arena: Arena): Float32Array {
  let measured: Guide | null = null;
  const guide = (): Guide => (measured ??= guideOf(of, grid));
  const size = grid.width * grid.height;
  const [mask, part] = [arena.float32(size), arena.float32(size)];
  // What is first taken away from, or kept within, is everything.
  mask.fill(spec.parts[0]?.meets === 'add' || spec.parts.length === 0 ? 0 : 1);
  spec.parts.forEach((each, n) => {
    const isFirst = n === 0 && each.meets === 'add';
    drawPart(each, grid, of, guide, isFirst ? mask : part);
    if (isFirst) return;
    if (each.meets === 'add') for (let i = 0; i < size; i++) mask[i] += (1 - mask[i]) * part[i];
    else if (each.meets === 'take') for (let i = 0; i < size; i++) mask[i] *= 1 - part[i];
    else for (let i = 0; i < size; i++) mask[i] *= part[i];
  });
  const moved = Math.round((Math.abs(spec.grow) / 1000) * grid.unit);
  if (moved > 0) {
    const [at, across] = [mask, part].map(addressOf);
    kernels().extremes(at, grid.width, grid.height, moved, spec.grow > 0 ? 1 : 0, across, at);
  }
  softened(mask, grid, (spec.feather / 1000) * grid.unit);
  if (spec.limited) {
    const range = { low: spec.low, high: spec.high, feather: spec.soft };
    const { stops } = guide();
    for (let i = 0; i < size; i++) mask[i] *= lightShare(range, stops[i]);
  }
  return mask;
}

function invert(mask: Float32Array, lines: Float32Array | null): void {
  for (let i = 0; i < mask.length; i++) mask[i] = 1 - mask[i];
  // 1 - (line + keep · mask) = (1 - keep - line) + keep · (1 - mask)
  for (let at = 0; lines && at < lines.length; at += PER_CELL) {
    lines[at] = -lines[at];
    lines[at + 1] = -lines[at + 1];
    lines[at + 2] = 1 - lines[at + 3] - lines[at + 2];
  }
}

/** Where cells hold anything, and so many cells about them. */
function boxOf(values: Uint8Array, { width, height }: Grid, reach: number): Mask['box'] {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let [first, past] = [0, width];
    while (first < width && values[row + first] === 0) first++;
    if (first === width) continue;
    while (values[row + past - 1] === 0) past--;
    left = Math.min(left, first);
    right = Math.max(right, past);
    top = Math.min(top, y);
    bottom = y + 1;
  }
  if (right <= left) return { left: 2, top: 2, right: -1, bottom: -1 };
  return {
    left: (left - reach) / width,
    top: (top - reach) / height,
    right: (right + reach) / width,
    bottom: (bottom + reach) / height
  };
}
