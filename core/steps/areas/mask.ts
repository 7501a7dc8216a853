/** A shape drawn on a grid: how much of each place belongs to it. */
import type { Matrix3 } from '../../math/matrix3.ts';
import { type Arena, inArena } from '../../picture/kernels/arena.ts';
import { addressOf, takeFloat32, takeUint8, takenTogether } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { FieldWeights } from '../../picture/tile/field-weights.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { type Grid, gridOf } from './grid.ts';
import { type Guide, measureGuide } from './guide.ts';
import { drawPart } from './parts/part.ts';
import { lightShare } from './parts/ranges.ts';
import { PER_CELL, refinedLines } from './refine.ts';
import type { MaskSpec } from './shape.ts';
import { softened } from './soften.ts';

/** Cells along the longer edge; of masks that follow the picture's edges fewer, since each pixel sharpens them itself. */
const CELLS = 1536;
const CELLS_REFINED = 800;

/** A mask's memory is its maker's to give back. */
export interface Mask extends FieldWeights {
  /** What tells the weight of a pixel from its own colours: see `refine.ts`; empty where the bytes are the weight. */
  lines: Float32Array;
  /** Cells outside of which nothing belongs to it: [left, right) and [top, bottom). */
  box: { left: number; top: number; right: number; bottom: number };
}

/** Draws a shape; `planes` is the whole frame as it was developed. */
export function makeMask(planes: PlacedPlanes, toWorking: Matrix3, spec: MaskSpec): Mask {
  const frame = { width: planes.width / planes.scaleX, height: planes.height / planes.scaleY };
  const refined = spec.radius > 0;
  const grid = gridOf(frame, refined ? CELLS_REFINED : CELLS);
  return takenTogether((own) => {
    const size = grid.width * grid.height;
    const values = own(takeUint8(size));
    const lines = refined ? own(takeFloat32(PER_CELL * size)) : new Float32Array(0);
    inArena((arena) => {
      let measured: Guide | null = null;
      const guide = (): Guide => (measured ??= measureGuide(planes, toWorking, grid, arena));
      const mask = drawnShape(spec, grid, guide, arena);
      if (refined) {
        refinedLines(mask, guide(), spec, lines);
        throughLines(lines, guide(), mask);
      }
      if (spec.invert) invert(mask, lines);
      for (let i = 0; i < size; i++) values[i] = Math.round(255 * Math.min(1, Math.max(0, mask[i])));
    });
    return { ...grid, values, lines, box: boxOf(values, grid) };
  });
}

/** The parts one after another, then what is done to all of them. */
function drawnShape(spec: MaskSpec, grid: Grid, guide: () => Guide, arena: Arena): Float32Array {
  const size = grid.width * grid.height;
  const [mask, part] = [arena.float32(size), arena.float32(size)];
  // What is first taken away from, or kept within, is everything.
  mask.fill(spec.parts[0]?.meets === 'add' || spec.parts.length === 0 ? 0 : 1);
  for (const each of spec.parts) {
    drawPart(each, grid, part, guide);
    if (each.meets === 'add') for (let i = 0; i < size; i++) mask[i] += (1 - mask[i]) * part[i];
    else if (each.meets === 'take') for (let i = 0; i < size; i++) mask[i] *= 1 - part[i];
    else for (let i = 0; i < size; i++) mask[i] *= part[i];
  }
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

/** What the lines make of the cells themselves. */
function throughLines(lines: Float32Array, { stops, hues }: Guide, out: Float32Array): void {
  for (let i = 0, at = 0; i < out.length; i++, at += PER_CELL)
    out[i] = Math.min(1, Math.max(0, lines[at] * stops[i] + lines[at + 1] * hues[i] + lines[at + 2]));
}

function invert(mask: Float32Array, lines: Float32Array): void {
  for (let i = 0; i < mask.length; i++) mask[i] = 1 - mask[i];
  for (let at = 0; at < lines.length; at += PER_CELL) {
    lines[at] = -lines[at];
    lines[at + 1] = -lines[at + 1];
    lines[at + 2] = 1 - lines[at + 2];
  }
}

/** The cells that hold anything, and one about them: pixels between two read both. */
function boxOf(values: Uint8Array, { width, height }: Grid): Mask['box'] {
  const box = { left: width, top: height, right: 0, bottom: 0 };
  for (let y = 0; y < height; y++) {
    const row = values.subarray(y * width, (y + 1) * width);
    const first = row.findIndex((value) => value > 0);
    if (first < 0) continue;
    box.left = Math.min(box.left, first - 1);
    box.right = Math.max(box.right, row.findLastIndex((value) => value > 0) + 2);
    box.top = Math.min(box.top, y - 1);
    box.bottom = y + 2;
  }
  return box;
}
