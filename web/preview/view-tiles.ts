/** A view cut into tiles, to be drawn by several workers. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { View } from '$core/picture/tile/mesh.ts';

export interface ViewTile {
  index: number;
  /** Place of its first pixel in the view. */
  left: number;
  top: number;
  view: View;
}

/** Tiles of about `edge` pixels across and down, row by row. */
export function tilesOf(view: View, edge: number): ViewTile[] {
  const columns = Math.max(1, Math.round(view.width / edge));
  const rows = Math.max(1, Math.round(view.height / edge));
  const bounds = (size: number, count: number): number[] =>
    Array.from({ length: count + 1 }, (_, i) => Math.round((size * i) / count));
  const [across, down] = [bounds(view.width, columns), bounds(view.height, rows)];
  return Array.from({ length: columns * rows }, (_, index) => {
    const [left, right] = across.slice(index % columns);
    const [top, bottom] = down.slice(Math.floor(index / columns));
    return {
      index,
      left,
      top,
      view: {
        left: view.left + left * view.pixel,
        top: view.top + top * view.pixel,
        pixel: view.pixel,
        width: right - left,
        height: bottom - top
      }
    };
  });
}

/** One band for each worker: a picture in motion is shown as a whole, and the fewer parts the better. */
export function bandsOf(view: View, workers: number): ViewTile[] {
  const count = Math.min(workers, view.height);
  return Array.from({ length: count }, (_, index) => {
    const top = Math.round((view.height * index) / count);
    const height = Math.round((view.height * (index + 1)) / count) - top;
    return { index, left: 0, top, view: { ...view, top: view.top + top * view.pixel, height } };
  });
}

/** The same tiles, those nearest to a place of the view first. */
export function nearestFirst(tiles: readonly ViewTile[], [x, y]: Point): ViewTile[] {
  const away = ({ left, top, view }: ViewTile): number =>
    Math.hypot(Math.max(left - x, 0, x - left - view.width), Math.max(top - y, 0, y - top - view.height));
  return [...tiles].sort((a, b) => away(a) - away(b));
}

/** Copies a tile's RGBA into the picture's, `width` pixels wide. */
export function putTile(
  picture: Uint8ClampedArray,
  width: number,
  tile: ViewTile,
  pixels: Uint8ClampedArray
): void {
  const row = tile.view.width * 4;
  for (let y = 0; y < tile.view.height; y++)
    picture.set(pixels.subarray(y * row, (y + 1) * row), ((tile.top + y) * width + tile.left) * 4);
}
