import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { View } from '$core/picture/tile/mesh.ts';
import { type ViewTile, bandsOf, nearestFirst, putTile, tilesOf } from './view-tiles.ts';

const view = (width: number, height: number): View => ({ left: -0.3, top: 0.2, pixel: 0.01, width, height });

/** Each pixel is painted by exactly one tile, at its own place. */
function expectWhole(tiles: readonly ViewTile[], whole: View): void {
  const seen = new Uint8Array(whole.width * whole.height);
  tiles.forEach(({ index, left, top, view: { width, height, ...part } }, i) => {
    expect(index).toBe(i);
    expect(part.pixel).toBe(whole.pixel);
    expect(part.left).toBeCloseTo(whole.left + left * whole.pixel, 12);
    expect(part.top).toBeCloseTo(whole.top + top * whole.pixel, 12);
    for (let y = top; y < top + height; y++)
      for (let x = left; x < left + width; x++) seen[y * whole.width + x]++;
  });
  expect(seen.every((count) => count === 1)).toBe(true);
}

describe('a view in tiles', () => {
  it('is covered once by tiles, and by bands', () => {
    const side = fc.integer({ min: 1, max: 700 });
    fc.assert(
      fc.property(
        side,
        side,
        fc.integer({ min: 20, max: 400 }),
        fc.integer({ min: 1, max: 8 }),
        (w, h, edge, n) => {
          expectWhole(tilesOf(view(w, h), edge), view(w, h));
          expectWhole(bandsOf(view(w, h), n), view(w, h));
        }
      ),
      { numRuns: 40 }
    );
    expect(tilesOf(view(1146, 546), 320)).toHaveLength(8);
    expect(bandsOf(view(100, 60), 4)).toHaveLength(4);
  });

  it('is drawn from a place outwards', () => {
    const tiles = tilesOf(view(900, 600), 300);
    const order = nearestFirst(tiles, [850, 550]).map(({ index }) => index);
    expect(order[0]).toBe(5);
    expect(order.at(-1)).toBe(0);
    expect([...order].sort()).toEqual([0, 1, 2, 3, 4, 5]);
    // The place may lie beside the view.
    expect(nearestFirst(tiles, [-50, 10])[0].index).toBe(0);
  });

  it('is put together from its tiles', () => {
    const whole = view(7, 5);
    const picture = new Uint8ClampedArray(7 * 5 * 4);
    for (const tile of tilesOf(whole, 3)) {
      const pixels = new Uint8ClampedArray(tile.view.width * tile.view.height * 4);
      for (let y = 0; y < tile.view.height; y++)
        for (let x = 0; x < tile.view.width; x++)
          pixels.set([tile.left + x, tile.top + y, 9, 255], (y * tile.view.width + x) * 4);
      putTile(picture, 7, tile, pixels);
    }
    for (let y = 0; y < 5; y++)
      for (let x = 0; x < 7; x++)
        expect([...picture.subarray((y * 7 + x) * 4, (y * 7 + x + 1) * 4)]).toEqual([x, y, 9, 255]);
  });
});
