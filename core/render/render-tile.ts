/** Runs the stages: the only place that does, for the bench, exports, thumbnails and small pictures alike. */
import { inArena } from '../picture/kernels/arena.ts';
import type { Pack } from '../picture/output/pack-pixels.ts';
import type { FrameLight } from '../picture/tile/frame-light.ts';
import type { View } from '../picture/tile/mesh.ts';
import {
  type Rows,
  type Tile,
  type TileLook,
  type TileSource,
  copyTile,
  giveTileBack
} from '../picture/tile/tile.ts';
import { type ColourTable, isTabled, tablePass } from './colour-table.ts';
import { geometryStage } from './geometry-stage.ts';
import { passesOf, takeRows } from './pixel-passes.ts';
import { AREA_STAGES, type StageInputs } from './stages.ts';

export interface TileRequest extends Omit<TileSource, 'draft'> {
  stages: StageInputs;
  draft?: boolean;
  /** Names the source, for what is kept between tiles. */
  label?: string;
  /** The broad light of the frame, where `needsLight` says so of the stages. */
  light?: FrameLight | null;
  /** The look that `lookOf` names of the stages. */
  look?: TileLook | null;
  /** The stages that act on colours alone as one table, where there is one. */
  table?: ColourTable | null;
}

/** Tiles as they left the stages that look about them, the newest of each: a change of light alone starts from there. */
export type TileCache = Map<string, { key: string; tile: Tile }>;

/** Gives back the memory of all that is kept. */
export function emptyCache(cache: TileCache): void {
  for (const { tile } of cache.values()) giveTileBack(tile);
  cache.clear();
}

/** Values of a plane that stay in the processor's cache while pixel stages pass over them. */
const AT_ONCE = 1 << 15;

interface ActiveStage {
  stage: (typeof AREA_STAGES)[number];
  data: unknown;
}

/** The area stages that a request asks for, with their data. */
function areaStages({ stages, draft }: TileRequest): ActiveStage[] {
  return AREA_STAGES.flatMap((stage) => {
    const data: unknown = stages[stage.name];
    return data === null || (draft && stage.atRestOnly) ? [] : [{ stage, data }];
  });
}

/** The view with what its area stages look at about it. */
function grown(view: View, margin: number): View {
  return {
    left: view.left - margin * view.pixel,
    top: view.top - margin * view.pixel,
    pixel: view.pixel,
    width: view.width + 2 * margin,
    height: view.height + 2 * margin
  };
}

/** Pixels that the area stages together look at about a tile. */
const marginOf = (areas: readonly ActiveStage[], pixel: number): number =>
  areas.reduce((sum, { stage, data }) => sum + Math.ceil(stage.reach(data, pixel)), 0);

/** What the tile depends on after the resampling, and after each area stage. */
function keysOf(request: TileRequest): string[] {
  const { label, view, draft, meshError, stages } = request;
  const areas = areaStages(request);
  const made = [label, grown(view, marginOf(areas, view.pixel)), draft, meshError, stages.geometry];
  return areas.reduce(
    (keys, { data }) => [...keys, keys.at(-1)! + JSON.stringify(data)],
    [JSON.stringify(made)]
  );
}

/** What a picture at rest depends on before its pixel stages: while it is the same, only light has changed. */
export const areaKey = (stages: StageInputs): string =>
  JSON.stringify([stages.geometry, ...AREA_STAGES.map(({ name }) => stages[name])]);

/** The tile before its pixel stages, as large as they and the area stages need it. */
function areaTile(request: TileRequest, cache: TileCache | undefined): { tile: Tile; margin: number } {
  const { view, stages, draft = false } = request;
  const areas = areaStages(request);
  const margin = marginOf(areas, view.pixel);
  const make = (): Tile =>
    geometryStage.make({ ...request, view: grown(view, margin), draft }, stages.geometry);
  if (!cache) {
    const tile = make();
    try {
      for (const { stage, data } of areas) stage.apply(tile, data);
    } catch (error) {
      giveTileBack(tile);
      throw error;
    }
    return { tile, margin };
  }
  const keys = keysOf(request);
  const kept = (name: string, i: number, otherwise: () => Tile): Tile => {
    const known = cache.get(name);
    if (known?.key === keys[i]) return known.tile;
    const tile = otherwise();
    if (known) giveTileBack(known.tile);
    cache.set(name, { key: keys[i], tile });
    return tile;
  };
  // From the last stage back: what is kept after a later one spares all before it.
  const upTo = (i: number): Tile => {
    if (i === 0) return kept(geometryStage.name, 0, make);
    const { stage, data } = areas[i - 1];
    return kept(stage.name, i, () => {
      const tile = copyTile(upTo(i - 1));
      stage.apply(tile, data);
      return tile;
    });
  };
  return { tile: upTo(areas.length), margin };
}

/** As many rows of the view as there are to be, cut out of a tile that may be larger, to be changed in place. */
function cutRows(tile: Tile, margin: number, top: number, height: number, memory: Rows): Rows {
  const { width } = memory;
  const rows: Rows = { ...memory, height, top: margin + top, left: margin };
  const cut = <A extends Float32Array | Uint8Array>(from: A, to: A): A => {
    for (let y = 0; y < height; y++) {
      const at = (margin + top + y) * tile.width + margin;
      to.set(from.subarray(at, at + width), y * width);
    }
    return to.subarray(0, width * height) as A;
  };
  rows.r = cut(tile.r, memory.r);
  rows.g = cut(tile.g, memory.g);
  rows.b = cut(tile.b, memory.b);
  rows.valid = cut(tile.valid, memory.valid);
  return rows;
}

/** Renders a view; `pack` is given encoded rows, from the top of the view down. */
export function renderTile(request: TileRequest, pack: Pack, cache?: TileCache): void {
  const { width, height } = request.view;
  const { tile, margin } = areaTile(request, cache);
  try {
    inArena((arena) => {
      const lit = { ...tile, light: request.light ?? null, look: request.look ?? null };
      const { table } = request;
      const passes = passesOf(request.stages, lit, arena, (name) => !(table && isTabled(name)));
      if (table) passes.push(tablePass(table, arena));
      const most = Math.min(height, Math.max(1, Math.floor(AT_ONCE / width)));
      const memory = takeRows(width, most, arena);
      for (let top = 0; top < height; top += most) {
        const rows = cutRows(tile, margin, top, Math.min(most, height - top), memory);
        for (const pass of passes) pass(rows);
        pack({ ...rows, top });
      }
    });
  } finally {
    if (!cache) giveTileBack(tile);
  }
}
