/**
 * How much every pixel belongs to each area. Reckoned right after the working space, by the light that the masks were drawn
 * by, and left with the rows for the stages in which areas act.
 */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import type { Falloff } from '../../optics/falloff.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { addresses } from '../../picture/tile/planes.ts';
import { resourceFor } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { ReadingTile, RowWeights, Rows } from '../../picture/tile/tile.ts';
import { gainNodes } from '../lens/falloff-stage.ts';
import { FLOOR, SPECK } from './guide.ts';
import type { Mask } from './mask.ts';
import { maskAsk, maskResource } from './mask-resource.ts';
import { type MaskSpec, maskSpecOf } from './shape.ts';
import { type AreasSettings, areasAtWork } from './step.ts';

interface Given {
  plan: { falloff: Falloff | null };
  recipe: { areas: AreasSettings };
}

export interface WeightsData {
  areas: readonly { id: string; mask: MaskSpec; opacity: number }[];
  /** Masks are drawn by the file's light; falloff was made good since. */
  falloff: Falloff | null;
}

/** What refined masks are read by: stops of luminance of each pixel, and of blue against red. */
interface Looks {
  stops: Float32Array;
  hues: Float32Array;
}

/** Gains below this are of no picture. */
const LEAST_GAIN = 1e-3;

export const areaWeightsStage: PixelStage<'areaWeights', Given, WeightsData> = {
  name: 'areaWeights',
  kind: 'pixel',
  prepare({ plan: { falloff }, recipe: { areas } }) {
    const works = areasAtWork(areas).map(({ area: { id, opacity }, shape }) => ({
      id,
      mask: maskSpecOf(shape),
      opacity: opacity / 100
    }));
    return works.length === 0 ? null : { areas: works, falloff };
  },
  reads: ({ areas }) => areas.map(({ mask }) => maskAsk(mask)),
  begin(tile, { areas, falloff }, arena) {
    const gained = falloff && gainedNodes(tile, falloff, arena);
    const weighed = areas.map(({ id, mask: spec, opacity }) => ({
      id,
      weigh: weighing(tile, resourceFor(tile.resources, maskResource, spec), opacity, gained ?? 0, arena)
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
      rows.weights = new Map(weighed.map(({ id, weigh }, i) => [id, weigh(rows, looks, of[i])]));
    };
  }
};

/** Stops that the falloff's correction added at each node of the mesh. */
function gainedNodes(tile: ReadingTile, falloff: Falloff, arena: Arena): number {
  const [, green] = gainNodes(tile, falloff, arena);
  const stops = arena.float32(green.length);
  for (let i = 0; i < stops.length; i++) stops[i] = Math.log2(Math.max(LEAST_GAIN, green[i]));
  return addressOf(stops);
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
  const { width, height, values, lines } = mask;
  const nodes = (places: Float32Array, cells: number, pixels: number): Float32Array => {
    const at = arena.float32(places.length);
    for (let i = 0; i < at.length; i++) at[i] = (places[i] * cells) / pixels - 0.5;
    return at;
  };
  const [x, y] = [nodes(mesh.x, width, size.width), nodes(mesh.y, height, size.height)];
  const reached = columnsReached(x, y, mesh, mask.box);
  const [xs, ys] = [x, y].map(addressOf);
  const grid = addressOf(lines.length > 0 ? lines : values);
  const { weighLines, weighRow } = kernels();
  return (rows, { stops, hues }, out) => {
    const to = addressOf(out.values);
    for (let row = 0; row < rows.height; row++) {
      const line = rows.top + row;
      const [first, last] = reached[Math.floor((line + 0.5) / mesh.step)];
      const [from, end] = [Math.max(0, first - rows.left), Math.min(rows.width, last - rows.left)];
      const count = end - from;
      if (count > 0) {
        const offset = 4 * (row * rows.width + from);
        const at = to + offset;
        const place = [mesh.columns, mesh.step, line, rows.left + from, count, grid, width, height] as const;
        if (lines.length > 0)
          weighLines(xs, ys, gained, ...place, addressOf(stops) + offset, addressOf(hues) + offset, at);
        else weighRow(xs, ys, ...place, at);
      }
      trim(out, rows.width, row, from, from + Math.max(0, count), opacity);
    }
    return out;
  };
}

/** The columns of a tile that a part of the grid reaches, for each row of the mesh's cells. */
function columnsReached(
  x: Float32Array,
  y: Float32Array,
  { columns, rows, step }: { columns: number; rows: number; step: number },
  { left, top, right, bottom }: Mask['box']
): [from: number, to: number][] {
  return Array.from({ length: Math.max(1, rows - 1) }, (_, row) => {
    let [from, to] = [Infinity, 0];
    for (let column = 0; column + 1 < columns; column++) {
      const at = row * columns + column;
      const corners = [at, at + 1, at + columns, at + columns + 1];
      const beyond = (of: Float32Array, low: number, high: number): boolean =>
        corners.every((i) => of[i] < low) || corners.every((i) => of[i] > high);
      if (beyond(x, left, right) || beyond(y, top, bottom)) continue;
      from = Math.min(from, column * step);
      to = (column + 1) * step;
    }
    return [from, to];
  });
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
