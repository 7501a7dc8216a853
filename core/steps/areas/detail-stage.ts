/**
 * Noise, softening and sharpening in areas: by what Finish acts by, on a copy of what each area reaches, mixed in by weight. It comes
 * after the geometry, since masks are drawn on what the source stages leave.
 */
import { IDENTITY, type Matrix3 } from '../../math/matrix3.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { gaussianWeights } from '../../math/gaussian-weights.ts';
import type { Rendition } from '../../settings/rendition.ts';
import type { FrameFacts } from '../../optics/frame-facts.ts';
import { type Arena, inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { type Planes, addresses } from '../../picture/tile/planes.ts';
import type { NeighbourhoodStage } from '../../picture/tile/stage.ts';
import type { ReadingTile, RowWeights, Tile } from '../../picture/tile/tile.ts';
import { type NoiseData, noiseDataOf, noiseReach, shrinkPlanes } from '../finish/noise/shrink-planes.ts';
import {
  type SharpeningData,
  sharpenTile,
  sharpeningDataOf,
  sharpeningReach
} from '../finish/sharpening/sharpening-stage.ts';
import type { FinishSettings } from '../finish/step.ts';
import { maskAsk } from './mask-resource.ts';
import { type Area, type AreasSettings, areasAtWork, maskOf } from './step.ts';
import { type Weighed, weighingRows } from './weigh-rows.ts';

interface Given {
  recipe: { rendition: Rendition; areas: AreasSettings; finish: FinishSettings };
  facts: Pick<FrameFacts, 'noise' | 'rendering' | 'iso' | 'size' | 'toWorking'>;
}

/** What is done to an area's copy, one after another; null: not at all. */
interface Detail extends Weighed {
  noise: NoiseData | null;
  /** Standard deviation of a blur, in upright units. */
  soft: number | null;
  sharpening: SharpeningData | null;
}

export interface DetailData {
  areas: readonly Detail[];
  /** A pixel of the frame, in upright units. */
  one: number;
  /** Masks are read by light of the working space. */
  toWorking: Matrix3;
}

/** Deviation of the blur at -100 %, in pixels of the frame. */
const SOFTEST = 8;
/** A blur of fewer pixels changes nothing. */
const LEAST_BLUR = 0.25;
/** Rows that are weighed at once. */
const ROWS = 64;

export const areaDetailStage: NeighbourhoodStage<'areaDetail', Given, DetailData> = {
  name: 'areaDetail',
  kind: 'neighbourhood',
  atRestOnly: () => true,
  prepare({ recipe: { rendition, areas, finish }, facts }) {
    const one = 1 / halfDiagonal(facts.size);
    const detailed = areasAtWork(areas).filter(
      ({ area: { revision, settings } }) =>
        !revision && (settings.finish.noise !== 0 || settings.finish.sharpening !== 0)
    );
    if (detailed.length === 0) return null;
    return {
      areas: detailed.map(({ area, shape }) => ({
        id: area.id,
        mask: maskOf(area, shape),
        opacity: area.opacity / 100,
        ...detailOf(area, { rendition, finish }, facts, one)
      })),
      one,
      toWorking: facts.toWorking
    };
  },
  reads: ({ areas }) => areas.map(({ mask }) => maskAsk(mask)),
  reach({ areas, one }, pixel) {
    const each = areas.map((area) => reachOf(area, one, pixel));
    const sum = each.reduce((all, reach) => all + reach, 0);
    // What a third area over two others draws in from further away cannot be seen.
    return Math.min(sum, 2 * Math.max(...each));
  },
  apply(tile, { areas, one, toWorking }, resources) {
    for (const area of areas)
      inArena((arena) => {
        const weights = weightsOf({ ...tile, resources }, area, toWorking, arena);
        const box = boxOf(weights, tile.height);
        if (box) changeBox(tile, area, one, weights, box, arena);
      });
  }
};

function detailOf(
  { settings: { finish: own } }: Area,
  { rendition, finish }: Pick<Given['recipe'], 'rendition' | 'finish'>,
  facts: Given['facts'],
  one: number
): Pick<Detail, 'noise' | 'soft' | 'sharpening'> {
  /** What was taken out before: of all of the picture, or here. */
  const taken = Math.max(finish.enabled ? finish.noise : 0, own.noise);
  return {
    noise: own.noise > 0 ? noiseDataOf({ ...finish, noise: own.noise, noiseColour: own.noise }, facts) : null,
    soft: own.sharpening < 0 ? (SOFTEST * one * -own.sharpening) / 100 : null,
    sharpening:
      own.sharpening > 0
        ? sharpeningDataOf({ ...finish, sharpening: own.sharpening, noise: taken }, facts, rendition)
        : null
  };
}

const blurReach = (deviation: number): number =>
  deviation < LEAST_BLUR ? 0 : gaussianWeights(deviation).reach;

/** Pixels about an area's own that its change depends on. */
const reachOf = ({ noise, soft, sharpening }: Detail, one: number, pixel: number): number =>
  (noise ? noiseReach(one / pixel) : 0) +
  (soft === null ? 0 : blurReach(soft / pixel)) +
  (sharpening ? sharpeningReach(sharpening, pixel) : 0);

/** How much every pixel of a tile belongs to an area. */
function weightsOf(tile: ReadingTile, area: Weighed, toWorking: Matrix3, arena: Arena): RowWeights {
  const { width, height } = tile;
  const out: RowWeights = {
    values: arena.float32(width * height + 3),
    from: new Int32Array(height),
    to: new Int32Array(height)
  };
  const weigh = weighingRows(tile, [area], 0, arena);
  const matrix = arena.addressOf(toWorking);
  const [r, g, b] = [0, 1, 2].map(() => arena.float32(width * ROWS));
  for (let top = 0; top < height; top += ROWS) {
    const rows = Math.min(ROWS, height - top);
    const [from, count] = [top * width, rows * width];
    r.set(tile.r.subarray(from, from + count));
    g.set(tile.g.subarray(from, from + count));
    b.set(tile.b.subarray(from, from + count));
    const strip = {
      ...{ width, height: rows, top, left: 0 },
      ...{ r: r.subarray(0, count), g: g.subarray(0, count), b: b.subarray(0, count) },
      valid: tile.valid.subarray(from, from + count)
    };
    kernels().mixColours(...addresses(strip), count, matrix, Infinity);
    const weights = weigh(strip).get(area.id)!;
    for (let row = 0; row < rows; row++) {
      const [first, past] = [weights.from[row], weights.to[row]];
      out.from[top + row] = first;
      out.to[top + row] = past;
      const at = row * width;
      out.values.set(weights.values.subarray(at + first, at + past), from + at + first);
    }
  }
  return out;
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The rectangle that holds all that weighs anything; null: nothing does. */
function boxOf({ from, to }: RowWeights, height: number): Box | null {
  const box: Box = { left: Infinity, top: height, right: 0, bottom: 0 };
  for (let row = 0; row < height; row++) {
    if (from[row] >= to[row]) continue;
    box.left = Math.min(box.left, from[row]);
    box.right = Math.max(box.right, to[row]);
    box.top = Math.min(box.top, row);
    box.bottom = row + 1;
  }
  return box.bottom > box.top ? box : null;
}

/**
 * The last column (or row) of a tile, up to one, that is even in the picture: it may be one before the tile's first. `origin`: of the
 * tile, in pixels from the middle of the picture, which may lie half way between two, give or take rounding.
 */
function evenBefore(from: number, origin: number): number {
  return from - (Math.abs(Math.floor(origin + 0.25) + from) % 2);
}

/** Changes what an area reaches of a tile. */
function changeBox(tile: Tile, area: Detail, one: number, weights: RowWeights, box: Box, arena: Arena): void {
  const { pixel } = tile.view;
  const reach = reachOf(area, one, pixel);
  const left = evenBefore(Math.max(0, box.left - reach), tile.view.left / pixel);
  const top = evenBefore(Math.max(0, box.top - reach), tile.view.top / pixel);
  const own = Math.min(tile.width, box.right + reach) - left;
  const height = Math.min(tile.height, box.bottom + reach) - top;
  const width = Math.ceil(own / 4) * 4;
  /** Columns before the tile's first. */
  const missing = Math.max(0, -left);
  const plane = (): Float32Array => arena.float32(width * height);
  const copy = { width, height, r: plane(), g: plane(), b: plane(), valid: arena.uint8(width * height) };
  for (const name of ['r', 'g', 'b', 'valid'] as const)
    for (let y = 0; y < height; y++) {
      const at = Math.max(0, top + y) * tile.width + left;
      const row = copy[name].subarray(y * width, (y + 1) * width);
      row.set(tile[name].subarray(at + missing, at + own), missing);
      row.fill(row[missing], 0, missing).fill(row[own - 1], own);
    }
  fillBlank(copy);
  if (area.noise) shrinkPlanes(copy, one / pixel, area.noise, arena);
  if (area.soft !== null) soften(copy, area.soft / pixel, arena);
  if (area.sharpening)
    sharpenTile({ ...copy, view: tile.view, mesh: tile.mesh, size: tile.size }, area.sharpening);
  const matrix = arena.addressOf(IDENTITY);
  for (let row = box.top; row < box.bottom; row++) {
    const [from, to] = [weights.from[row], weights.to[row]];
    if (from >= to) continue;
    const at = row * tile.width + from;
    kernels().mixRows(
      ...addresses(tile, at),
      ...addresses(copy, (row - top) * width + from - left),
      matrix,
      addressOf(weights.values) + 4 * at,
      to - from
    );
  }
}

/** Blurs planes of light, in place. */
function soften(planes: Planes, deviation: number, arena: Arena): void {
  if (deviation < LEAST_BLUR) return;
  const { width, height } = planes;
  const { weights, reach } = gaussianWeights(deviation);
  const [along, work] = [arena.addressOf(weights), addressOf(arena.float32(width * (height + 1)))];
  for (const plane of [planes.r, planes.g, planes.b])
    kernels().blurPlane(addressOf(plane), width, height, along, reach, work);
}

/** Fills what is no picture by what lies nearest in its row, or in the nearest row that has any: no edge is seen there. */
function fillBlank({ width, height, valid, ...planes }: Planes & { valid: Uint8Array }): void {
  if (!valid.includes(0)) return;
  const all = [planes.r, planes.g, planes.b];
  const copyRow = (from: number, to: number): void =>
    all.forEach((plane) => plane.copyWithin(to * width, from * width, (from + 1) * width));
  let last = -1;
  for (let y = 0; y < height; y++) {
    const row = valid.subarray(y * width, (y + 1) * width);
    const first = row.indexOf(1);
    if (first < 0) {
      if (last >= 0) copyRow(last, y);
      continue;
    }
    for (const plane of all) {
      const values = plane.subarray(y * width, (y + 1) * width);
      values.fill(values[first], 0, first);
      for (let x = first + 1; x < width; x++) if (!row[x]) values[x] = values[x - 1];
    }
    if (last < 0) for (let above = 0; above < y; above++) copyRow(y, above);
    last = y;
  }
}
