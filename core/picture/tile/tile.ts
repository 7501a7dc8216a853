/**
 * What stages work on: a part of the picture with the place of each pixel. Neighbourhood stages look about them and change a
 * whole tile; pixel stages change rows of it, a few at a time while they are in the processor's cache.
 */
import { giveBack, takeUint8 } from '../kernels/heap.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { MapMesh, View } from './mesh.ts';
import { type PlacedPlanes, type Planes, givePlanesBack, takePlanes } from './planes.ts';
import type { Resources } from './resource.ts';

export interface Tile extends Planes {
  view: View;
  /** Size of the whole frame, to which field positions belong. */
  size: FrameSize;
  /** Where its pixels come from: the place of each on the frame lies between those of `fieldNodes`. */
  mesh: MapMesh;
  /** 1 where there is a real pixel; elsewhere the planes are 0. */
  valid: Uint8Array;
}

/** Memory for the pixels of a tile: all that else is known of it is given. */
export function takeTile(known: Pick<Tile, 'view' | 'size' | 'mesh'>): Tile {
  const { width, height } = known.view;
  const planes = takePlanes(width, height);
  try {
    return {
      view: known.view,
      size: known.size,
      mesh: known.mesh,
      ...planes,
      valid: takeUint8(width * height)
    };
  } catch (error) {
    givePlanesBack(planes);
    throw error;
  }
}

/** A tile of its own with the same pixels. */
export function copyTile(tile: Tile): Tile {
  const copy = takeTile(tile);
  for (const plane of ['r', 'g', 'b', 'valid'] as const) copy[plane].set(tile[plane]);
  return copy;
}

/** Gives a tile's memory back. */
export const giveTileBack = ({ r, g, b, valid }: Pick<Tile, 'r' | 'g' | 'b' | 'valid'>): void =>
  giveBack(r, g, b, valid);

/** Rows of a tile, to be changed in place. */
export interface Rows extends Planes {
  /** Row and column of the tile that the first pixel is. */
  top: number;
  left: number;
  valid: Uint8Array;
  /** What an earlier stage reckoned for later ones: weights of the pixels, by the name of what they are of. */
  weights?: ReadonlyMap<string, RowWeights>;
  /** The pixels as an earlier stage left them, for one that begins anew. */
  asCame?: Planes;
}

/** Weights of rows of pixels, 0..1; of each row only those between its two places are written, and all others are 0. */
export interface RowWeights {
  values: Float32Array;
  /** Columns [from, to) of each row. */
  from: Int32Array;
  to: Int32Array;
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

/** A tile, with the resources that its stages read. */
export interface ReadingTile extends Tile {
  resources: Resources;
}
