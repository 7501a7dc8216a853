/** Full-size pixels in tiles, fetched as the view needs them. */
import type { FrameSize } from '$core/math/frame-geometry.ts';
import { type PlacedPlanes, takePlanes } from '$core/picture/tile/planes.ts';
import { STORED_16, fillPlanes } from '$core/picture/tile/stored-planes.ts';
import type { SensorRectangle } from '$core/picture/tile/sensor-rectangle.ts';

const TILE = 512;
const MOST_TILES = 80;

export interface TileStore {
  frameId: string;
  size: FrameSize;
  tiles: Map<string, Uint16Array>;
}

/** Columns and rows of the tiles that a rectangle touches. */
function span(rectangle: SensorRectangle, { width, height }: FrameSize): SensorRectangle | null {
  const left = Math.max(0, Math.floor(rectangle.left / TILE));
  const top = Math.max(0, Math.floor(rectangle.top / TILE));
  const right = Math.min(Math.ceil(width / TILE) - 1, Math.floor(rectangle.right / TILE));
  const bottom = Math.min(Math.ceil(height / TILE) - 1, Math.floor(rectangle.bottom / TILE));
  return left <= right && top <= bottom ? { left, top, right, bottom } : null;
}

const keys = ({ left, top, right, bottom }: SensorRectangle): string[] => {
  const found: string[] = [];
  for (let row = top; row <= bottom; row++)
    for (let column = left; column <= right; column++) found.push(`${column}/${row}`);
  return found;
};

/** What is said when full-size pixels cannot be had; empty when they were fetched, or there is nothing to fetch. */
export async function fetchTiles(store: TileStore, rectangles: readonly SensorRectangle[]): Promise<string> {
  const spans = rectangles.map((each) => span(each, store.size)).filter((each) => each !== null);
  const wanted = [...new Set(spans.flatMap(keys))];
  if (wanted.length > MOST_TILES) return '';
  const missing = wanted.filter((key) => !store.tiles.has(key));
  const failed = await Promise.all(
    missing.map(async (key) => {
      const response = await fetch(`/api/frames/${store.frameId}/tiles/${key}`).catch(() => null);
      if (response?.ok) store.tiles.set(key, new Uint16Array(await response.arrayBuffer()));
      return !response?.ok;
    })
  );
  for (const key of store.tiles.keys()) {
    if (store.tiles.size <= MOST_TILES * 1.5) break;
    if (!wanted.includes(key)) store.tiles.delete(key);
  }
  return failed.includes(true)
    ? 'The full-size pixels could not be fetched. Move the picture to try again.'
    : '';
}

/** Whether all tiles of some rectangles are there. */
export const hasTiles = (store: TileStore, rectangles: readonly SensorRectangle[]): boolean =>
  rectangles.every((each) => {
    const needed = span(each, store.size);
    return needed !== null && keys(needed).every((key) => store.tiles.has(key));
  });

/** A rectangle as one picture, in memory that is the caller's to give back; null while a tile is missing. */
export function assemble(store: TileStore, rectangle: SensorRectangle): PlacedPlanes | null {
  const needed = span(rectangle, store.size);
  if (!needed || keys(needed).some((key) => !store.tiles.has(key))) return null;
  const originX = needed.left * TILE;
  const originY = needed.top * TILE;
  const width = Math.min(store.size.width, (needed.right + 1) * TILE) - originX;
  const height = Math.min(store.size.height, (needed.bottom + 1) * TILE) - originY;
  const planes = takePlanes(width, height);
  for (const key of keys(needed)) {
    const [column, row] = key.split('/').map(Number);
    const tileWidth = Math.min(TILE, store.size.width - column * TILE);
    const [left, top] = [column * TILE - originX, row * TILE - originY];
    fillPlanes(store.tiles.get(key)!, tileWidth, planes, STORED_16, left, top);
  }
  return { ...planes, originX, originY, scaleX: 1, scaleY: 1 };
}
