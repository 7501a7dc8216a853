/**
 * What stages work on: a part of the picture with the place of each pixel. Area stages look about them and change a whole
 * tile; pixel stages change rows of it, a few at a time while they are in the processor's cache.
 */
import type { Arena } from '../kernels/arena.ts';
import { giveBack, takeUint8 } from '../kernels/heap.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { FrameLight } from './frame-light.ts';
import type { MapMesh, View } from './mesh.ts';
import { type PlacedPlanes, type Planes, takePlanes } from './planes.ts';

export interface Tile extends Planes {
  view: View;
  /** Size of the whole frame, to which field positions belong. */
  size: FrameSize;
  /** Where its pixels come from: the place of each on the frame lies between those of `fieldNodes`. */
  mesh: MapMesh;
  /** 1 where there is a real pixel; elsewhere the planes are 0. */
  valid: Uint8Array;
}

/** A tile of its own with the same pixels. */
export function copyTile(tile: Tile): Tile {
  const planes = takePlanes(tile.width, tile.height);
  const valid = takeUint8(tile.valid.length);
  for (const channel of ['r', 'g', 'b'] as const) planes[channel].set(tile[channel]);
  valid.set(tile.valid);
  return { ...tile, ...planes, valid };
}

/** Gives a tile's memory back. */
export const giveTileBack = ({ r, g, b, valid }: Tile): void => giveBack(r, g, b, valid);

/** Rows of a tile, to be changed in place. */
export interface Rows extends Planes {
  /** Row and column of the tile that the first pixel is. */
  top: number;
  left: number;
  valid: Uint8Array;
}

/** What a tile is made from. */
export interface TileSource {
  source: PlacedPlanes;
  view: View;
  /** Coarse but fast: for a picture in motion. */
  draft: boolean;
  /** Largest error of the map between its nodes, in sensor pixels (default: what exports have). */
  meshError?: number;
}

interface StageBase<Name extends string, Given, Data> {
  readonly name: Name;
  /**
   * What the stage works by, as plain data: its cache key, since it depends on nothing else. Null: nothing to do.
   */
  prepare(given: Given): Data | null;
}

/** Makes a tile from a source: the one resampling. */
export interface SourceStage<Name extends string, Given, Data> extends StageBase<Name, Given, Data> {
  readonly kind: 'source';
  prepare(given: Given): Data;
  make(from: TileSource, data: Data): Tile;
}

/** Changes a tile in place, looking at the pixels about each. */
export interface AreaStage<Name extends string, Given, Data> extends StageBase<Name, Given, Data> {
  readonly kind: 'area';
  /** Pixels about a tile that its pixels depend on, where one is `pixel` upright units large. */
  reach(data: Data, pixel: number): number;
  /** Whether a picture in motion can do without. */
  readonly atRestOnly: boolean;
  apply(tile: Tile, data: Data): void;
}

/** A tile, and the broad light of its whole frame where a stage was said to need it. */
export interface LitTile extends Tile {
  light: FrameLight | null;
  /** The look that is laid over it, where a stage was said to need one. */
  look: TileLook | null;
}

/** A table of colours that is laid over tiles. */
export interface TileLook {
  /** Channel by channel, or all three together. */
  kind: '1D' | '3D';
  /** Nodes of each side. */
  size: number;
  /** Values of the first and the last node, of red, green and blue. */
  from: readonly [number, number, number];
  to: readonly [number, number, number];
  /** What its colours are: as encoded for sRGB displays, or linear light of its primaries. */
  space: 'srgb' | 'linear';
  /** Red, green and blue of each node; of a cube red changes fastest. */
  values: Float32Array;
}

/** Changes pixels one by one: makes a function for rows of a tile, which may use memory of the arena. */
export interface PixelStage<Name extends string, Given, Data> extends StageBase<Name, Given, Data> {
  readonly kind: 'pixel';
  begin(tile: LitTile, data: Data, arena: Arena): (rows: Rows) => void;
}
