/** How much pixels belong to areas, by masks that are drawn in field coordinates and refined by the pixels' own light. */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { FLOOR } from '../../measure/light/average-light.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { cellNodes } from '../../picture/tile/cell-nodes.ts';
import type { MapMesh } from '../../picture/tile/mesh.ts';
import { addresses } from '../../picture/tile/planes.ts';
import { resourceFor } from '../../picture/tile/resource.ts';
import type { ReadingTile, RowWeights, Rows } from '../../picture/tile/tile.ts';
import { SPECK } from './guide.ts';
import type { Mask } from './mask.ts';
import { maskResource } from './mask-resource.ts';
import { PER_CELL } from './refine.ts';
import type { MaskSpec } from './shape.ts';

/** An area whose shape weighs pixels. */
export interface Weighed {
  id: string;
  mask: MaskSpec;
  /** 0..1. */
  opacity: number;
}

/** What refined masks are read by: stops of luminance of each pixel, and of blue against red. */
interface Looks {
  stops: Float32Array;
  hues: Float32Array;
}

/**
 * Makes a function that weighs rows of a tile in the working space, always into the same memory. `gained`: stops at the nodes of the
 * mesh by which the rows are lighter than the masks were drawn by (0: none).
 */
export function weighingRows(
  tile: ReadingTile,
  areas: readonly Weighed[],
  gained: number,
  arena: Arena
): (rows: Rows) => Map<string, RowWeights> {
  const weighed = areas.map(({ id, mask: spec, opacity }) => ({
    id,
    weigh: weighing(tile, resourceFor(tile.resources, maskResource, spec), opacity, gained, arena)
  }));
  const refined = areas.some(({ mask }) => mask.radius > 0);
  let memory: { rows: number; looks: Looks; of: RowWeights[] } | null = null;
  const numbers = arena.addressOf([...LUMINANCE_REC2020, FLOOR]);
  return (rows) => {
    const count = rows.width * rows.height;
    if (!memory || memory.rows < rows.height)
      memory = {
        rows: rows.height,
        looks: { stops: arena.float32(refined ? count : 1), hues: arena.float32(refined ? count : 1) },
        of: weighed.map(() => ({
          values: arena.float32(count),
          from: new Int32Array(rows.height),
          to: new Int32Array(rows.height)
        }))
      };
    const { looks, of } = memory;
    if (refined) {
      const [r, g, b] = addresses(rows);
      kernels().logLight(r, g, b, count, numbers, addressOf(looks.stops));
      kernels().logRatio(b, r, count, SPECK, addressOf(looks.hues));
    }
    return new Map(weighed.map(({ id, weigh }, i) => [id, weigh(rows, looks, of[i])]));
  };
}

/** Makes a function that writes the weights of rows. */
function weighing(
  tile: ReadingTile,
  mask: Mask,
  opacity: number,
  gained: number,
  arena: Arena
): (rows: Rows, looks: Looks, out: RowWeights) => RowWeights {
  const { mesh, size } = tile;
  const { values, lines } = mask;
  const runs = runsOf(mesh, size, mask);
  const nodes = cellNodes(tile, mask, arena);
  const lineNodes = lines && cellNodes(tile, lines, arena);
  const { weighLines, weighRow } = kernels();
  return (rows, { stops, hues }, out) => {
    const to = addressOf(out.values);
    for (let row = 0; row < rows.height; row++) {
      const line = rows.top + row;
      const base = row * rows.width;
      let [first, end] = [Infinity, 0];
      for (const run of runs[Math.floor((line + 0.5) / mesh.step)]) {
        const from = Math.max(0, run.from - rows.left);
        const past = Math.min(rows.width, run.to - rows.left);
        if (from >= past) continue;
        if (run.weight >= 0) out.values.fill(run.weight, base + from, base + past);
        else {
          const offset = 4 * (base + from);
          const place = [mesh.columns, mesh.step, line, rows.left + from, past - from] as const;
          weighRow(...nodes, ...place, addressOf(values), mask.width, mask.height, to + offset);
          if (lines && lineNodes) {
            const own = [addressOf(lines.values), lines.width, lines.height] as const;
            const looks = [addressOf(stops) + offset, addressOf(hues) + offset] as const;
            weighLines(...lineNodes, gained, ...place, ...own, ...looks, to + offset);
          }
        }
        if (run.weight === 0) continue;
        first = Math.min(first, from);
        end = past;
      }
      trim(out, rows.width, row, Math.min(first, end), end, opacity);
    }
    return out;
  };
}

/** Columns of a tile in which a mask weighs the same everywhere, or has to be read (-1). */
interface Run {
  from: number;
  to: number;
  weight: number;
}

/** The runs of each row of the mesh's cells, from the left. */
function runsOf({ x, y, columns, rows, step }: MapMesh, frame: FrameSize, mask: Mask): Run[][] {
  return Array.from({ length: Math.max(1, rows - 1) }, (_, row) => {
    const runs: Run[] = [];
    let before = null as Run | null;
    for (let column = 0; column + 1 < columns; column++) {
      const i = row * columns + column;
      const j = i + columns;
      const weight = evenWeight(
        mask,
        Math.min(x[i], x[i + 1], x[j], x[j + 1]) / frame.width,
        Math.min(y[i], y[i + 1], y[j], y[j + 1]) / frame.height,
        Math.max(x[i], x[i + 1], x[j], x[j + 1]) / frame.width,
        Math.max(y[i], y[i + 1], y[j], y[j + 1]) / frame.height
      );
      if (before?.weight === weight) before.to += step;
      else runs.push((before = { from: column * step, to: (column + 1) * step, weight }));
    }
    return runs;
  });
}

/** The cell of an axis that a share of the frame begins or ends in, kept within the grid. */
const cellOf = (share: number, cells: number, round: (value: number) => number): number =>
  Math.min(cells - 1, Math.max(0, round(share * cells - 0.5)));

/** The weight that a mask has everywhere in a part of the frame, in shares of it; -1: it changes there. */
function evenWeight(
  { width, height, values, lines, box }: Mask,
  left: number,
  top: number,
  right: number,
  bottom: number
): number {
  // Where no ray arrives the places are no numbers.
  if (!(left <= right && top <= bottom)) return -1;
  if (right < box.left || left > box.right || bottom < box.top || top > box.bottom) return 0;
  const x0 = cellOf(left, width, Math.floor);
  const y0 = cellOf(top, height, Math.floor);
  const x1 = cellOf(right, width, Math.ceil);
  const y1 = cellOf(bottom, height, Math.ceil);
  const first = values[y0 * width + x0];
  if (first !== 0 && first !== 255) return -1;
  for (let y = y0; y <= y1; y++)
    for (let at = y * width + x0, end = y * width + x1; at <= end; at++) if (values[at] !== first) return -1;
  if (lines) {
    const u1 = cellOf(right, lines.width, Math.ceil);
    const v1 = cellOf(bottom, lines.height, Math.ceil);
    // A line that keeps all of the mask adds nothing to it.
    for (let v = cellOf(top, lines.height, Math.floor); v <= v1; v++)
      for (let u = cellOf(left, lines.width, Math.floor); u <= u1; u++)
        if (lines.values[(v * lines.width + u) * PER_CELL + 3] !== 1) return -1;
  }
  return first / 255;
}

/** Leaves out what weighs nothing at both ends of a row, and weighs the rest by the area's opacity. */
function trim(
  { values, from, to }: RowWeights,
  width: number,
  row: number,
  first: number,
  last: number,
  opacity: number
): void {
  const base = row * width;
  while (first < last && values[base + first] === 0) first++;
  while (last > first && values[base + last - 1] === 0) last--;
  if (opacity < 1) for (let i = base + first; i < base + last; i++) values[i] *= opacity;
  from[row] = first;
  to[row] = last;
}
