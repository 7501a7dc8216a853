/**
 * The kinds of stages. A stage is what the pipeline runs; what it works by is plain data that it prepares from a recipe.
 */
import type { Arena } from '../kernels/arena.ts';
import type { PlacedPlanes } from './planes.ts';
import type { Ask, Resources } from './resource.ts';
import type { SensorRectangle } from './sensor-rectangle.ts';
import type { ReadingTile, Rows, Tile, TileSource } from './tile.ts';

interface StageBase<Name extends string, Given, Data> {
  readonly name: Name;
  /** What the stage works by, as plain data: it depends on nothing else. Null: nothing to do. */
  prepare(given: Given): Data | null;
}

interface ReadingStage<Name extends string, Given, Data> extends StageBase<Name, Given, Data> {
  /** The resources that it reads. */
  reads?(data: Data): readonly Ask[];
}

/**
 * Changes developed planes before the one resampling: at full size, and on the proxy from the same settings. It makes a
 * rectangle at a time; whole pictures are made in bands, by several threads.
 */
export interface SourceStage<Name extends string, Given, Data> extends StageBase<
  Name,
  Given,
  readonly Data[]
> {
  readonly kind: 'source';
  /** What it works by, run after run: a later one begins with what the earlier ones left. */
  prepare(given: Given): readonly Data[] | null;
  /**
   * The rectangles of the picture that it reads to make one, beside the one itself. Each lies on the sensor at least in part; what
   * lies beyond is not there to be read.
   */
  needs(made: SensorRectangle, data: Data): readonly SensorRectangle[];
  /**
   * Writes all of `out`. `from` holds planes about the rectangle that is made, then about each that it needs; they may be
   * larger, and are at the scale of `out`.
   */
  apply(from: readonly PlacedPlanes[], out: PlacedPlanes, data: Data): void;
}

/** Makes a tile from developed planes: the one resampling. */
export interface GeometryStage<Name extends string, Given, Data> extends StageBase<Name, Given, Data> {
  readonly kind: 'geometry';
  prepare(given: Given): Data;
  make(from: TileSource, data: Data): Tile;
}

/** Changes a tile in place, looking at the pixels about each. */
export interface NeighbourhoodStage<Name extends string, Given, Data> extends ReadingStage<
  Name,
  Given,
  Data
> {
  readonly kind: 'neighbourhood';
  /** Pixels about a tile that its pixels depend on, where one is `pixel` upright units large. */
  reach(data: Data, pixel: number): number;
  /** Whether a picture in motion can do without. */
  atRestOnly(data: Data): boolean;
  apply(tile: Tile, data: Data, resources: Resources): void;
}

/** Changes pixels one by one: makes a function for rows of a tile, which may use memory of the arena. */
export interface PixelStage<Name extends string, Given, Data> extends ReadingStage<Name, Given, Data> {
  readonly kind: 'pixel';
  begin(tile: ReadingTile, data: Data, arena: Arena): (rows: Rows) => void;
}
