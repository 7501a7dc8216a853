/** Runs the stages after the source: the only place that does, for the bench, exports, thumbnails and small pictures alike. */
import { type Arena, inArena } from '../picture/kernels/arena.ts';
import type { Pack } from '../picture/output/pack-pixels.ts';
import { hashOf } from '../settings/hash.ts';
import type { View } from '../picture/tile/mesh.ts';
import { NO_RESOURCES, type Resources } from '../picture/tile/resource.ts';
import {
  type Rows,
  type Tile,
  type TileSource,
  copyTile,
  giveTileBack,
  takeTile
} from '../picture/tile/tile.ts';
import { geometryStage } from './geometry-stage.ts';
import { type Pass, passesOf, takeRows } from './pixel-passes.ts';
import { type AnyNeighbourhood, type AnyPixel, type StageInputs, TILE_STAGES } from './stages.ts';

export interface TileRequest extends Omit<TileSource, 'draft'> {
  stages: StageInputs;
  draft?: boolean;
  /** Names the source, for what is kept between tiles. */
  label?: string;
  /** What the stages read beside the tile: all that `asksOf` says of them. */
  resources?: Resources;
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

interface Active {
  stage: AnyNeighbourhood;
  data: unknown;
}

/** Stages that look about them, and the pixel stages after them up to the next that do. */
interface Group {
  about: Active[];
  pixels: AnyPixel[];
}

/** The stages that a request asks for. */
function groupsOf({ stages, draft }: TileRequest): Group[] {
  const groups: Group[] = [{ about: [], pixels: [] }];
  for (const stage of TILE_STAGES) {
    const data: unknown = stages[stage.name];
    if (data === null) continue;
    let group = groups[groups.length - 1];
    if (stage.kind === 'pixel') group.pixels.push(stage);
    else if (!(draft && stage.atRestOnly(data))) {
      if (group.pixels.length > 0) groups.push((group = { about: [], pixels: [] }));
      group.about.push({ stage, data });
    }
  }
  return groups;
}

/** The view with what is looked at about it. */
function grown(view: View, margin: number): View {
  if (margin === 0) return view;
  return {
    left: view.left - margin * view.pixel,
    top: view.top - margin * view.pixel,
    pixel: view.pixel,
    width: view.width + 2 * margin,
    height: view.height + 2 * margin
  };
}

/** Pixels that the stages of a group together look at about a tile. */
const marginOf = ({ about }: Group, pixel: number): number =>
  about.reduce((sum, { stage, data }) => sum + Math.ceil(stage.reach(data, pixel)), 0);

/** What a picture at rest depends on before its first pixel stage: while it is the same, only light has changed. */
export function neighbourhoodKey(stages: StageInputs): string {
  const [first] = groupsOf({ stages } as TileRequest);
  return hashOf([stages.geometry, ...first.about.map(({ stage, data }) => [stage.name, data])]);
}

/** The tile that the pixel stages begin with: the resampling, and what looks about itself right after it. */
function firstTile(request: TileRequest, { about }: Group, view: View, cache: TileCache | undefined): Tile {
  const { stages, label, draft = false, meshError, resources = NO_RESOURCES } = request;
  const make = (): Tile => geometryStage.make({ ...request, view, draft }, stages.geometry);
  if (!cache) {
    const tile = make();
    try {
      for (const { stage, data } of about) stage.apply(tile, data, resources);
    } catch (error) {
      giveTileBack(tile);
      throw error;
    }
    return tile;
  }
  const keys = about.reduce(
    (all, { data }) => [...all, all[all.length - 1] + hashOf(data)],
    [hashOf([label, view, draft, meshError, hashOf(stages.geometry)])]
  );
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
    const { stage, data } = about[i - 1];
    return kept(stage.name, i, () => {
      const tile = copyTile(upTo(i - 1));
      try {
        stage.apply(tile, data, resources);
      } catch (error) {
        giveTileBack(tile);
        throw error;
      }
      return tile;
    });
  };
  return upTo(about.length);
}

/** As many rows as there are to be, cut out of a tile with a margin about them, to be changed in place. */
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

/** Rows of a view's width that are worked on together, and at most so many as it has. */
const rowsAtOnce = ({ width, height }: View): number =>
  Math.min(height, Math.max(1, Math.floor(AT_ONCE / width)));

/** Rows of a tile, with so much margin about them, through passes; the view's rows are numbered from its top. */
function passRows(
  tile: Tile,
  view: View,
  margin: number,
  passes: readonly Pass[],
  done: (rows: Rows) => void,
  arena: Arena
): void {
  const most = rowsAtOnce(view);
  const memory = takeRows(view.width, most, arena);
  for (let top = 0; top < view.height; top += most) {
    const rows = cutRows(tile, margin, top, Math.min(most, view.height - top), memory);
    for (const pass of passes) pass(rows);
    done({ ...rows, top });
  }
}

/** Puts rows where they belong in a tile that has no margin about them. */
function putRows(rows: Rows, tile: Tile): void {
  for (const plane of ['r', 'g', 'b', 'valid'] as const) tile[plane].set(rows[plane], rows.top * tile.width);
}

/** Renders a view; `pack` is given encoded rows, from the top of the view down. */
export function renderTile(request: TileRequest, pack: Pack, cache?: TileCache): void {
  const { view, resources = NO_RESOURCES } = request;
  const groups = groupsOf(request);
  const margins = groups.map((group) => marginOf(group, view.pixel));
  /** What is left of the margin when a group is done. */
  const after = (i: number): number => margins.slice(i + 1).reduce((sum, margin) => sum + margin, 0);
  const first = firstTile(request, groups[0], grown(view, after(-1)), cache);
  let [tile, isOwn] = [first, !cache];
  try {
    groups.forEach((group, i) => {
      const shown = grown(view, after(i));
      if (i > 0) for (const { stage, data } of group.about) stage.apply(tile, data, resources);
      const next = i < groups.length - 1 ? takeTile({ ...tile, view: shown }) : null;
      try {
        inArena((arena) => {
          const wanted = (stage: AnyPixel): boolean => group.pixels.includes(stage);
          const passes = passesOf(request.stages, { ...tile, resources }, arena, wanted);
          passRows(tile, shown, margins[i], passes, next ? (rows) => putRows(rows, next) : pack, arena);
        });
      } catch (error) {
        if (next) giveTileBack(next);
        throw error;
      }
      if (!next) return;
      if (isOwn) giveTileBack(tile);
      [tile, isOwn] = [next, true];
    });
  } finally {
    if (isOwn) giveTileBack(tile);
  }
}
