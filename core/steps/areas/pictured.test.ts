/** What is kept of the picture that masks were drawn on last. */
import { describe, expect, it } from 'vitest';
import { IDENTITY, diagonal } from '../../math/matrix3.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../picture/tile/planes.ts';
import { gridOf } from '../../picture/tile/grid.ts';
import { guideOf } from './guide.ts';
import { type Part, drawPart } from './parts/part.ts';
import { type Pictured, keptOfPicture } from './pictured.ts';

const SIZE = { width: 1200, height: 800 };

function grey(light: number): PlacedPlanes {
  const planes = allocatePlanes(SIZE.width, SIZE.height);
  for (const plane of [planes.r, planes.g, planes.b]) plane.fill(light);
  return placeOn(planes, SIZE);
}

describe('what is kept of a picture', () => {
  it('is made once for each key, for as many as are kept, and anew for another picture or other colours', () => {
    const made: string[] = [];
    const kept = keptOfPicture<string>(2);
    const ask = (picture: string | null, key: string, toWorking = IDENTITY): string =>
      kept({ planes: null as never, toWorking, picture }, key, () => {
        made.push(`${picture} ${key}`);
        return `${picture} ${key} ${made.length}`;
      });
    expect(ask('one', 'a')).toBe(ask('one', 'a'));
    ask('one', 'b');
    expect(ask('one', 'a')).toBe('one a 1');
    ask('one', 'c');
    // The one that was of use the longest ago is gone.
    expect(made).toEqual(['one a', 'one b', 'one c']);
    expect([ask('one', 'a'), ask('one', 'b')]).toEqual(['one a 1', 'one b 4']);
    expect(ask('two', 'a')).toBe('two a 5');
    expect(ask('two', 'a', diagonal([2, 1, 1]))).toBe('two a 6');
    expect(ask(null, 'a')).not.toBe(ask(null, 'a'));
  });

  it.each([300, 1200])('never shows one picture’s light as another’s, on %i cells', (cells) => {
    const [dark, light] = [grey(0.1), grey(0.5)];
    const grid = gridOf(SIZE, cells);
    const of = (planes: PlacedPlanes, picture: string | null): Pictured => ({
      planes,
      toWorking: IDENTITY,
      picture
    });
    const range: Part = { id: 'p', kind: 'light', meets: 'add', low: -2, high: 0, feather: 0 };
    const coversAt = (pictured: Pictured): number => {
      const out = new Float32Array(grid.width * grid.height).fill(7);
      drawPart(range, grid, pictured, () => guideOf(pictured, grid), out);
      return out[123];
    };
    expect([coversAt(of(dark, 'dark')), coversAt(of(light, 'light'))]).toEqual([0, 1]);
    expect([coversAt(of(dark, null)), coversAt(of(light, null))]).toEqual([0, 1]);
    const stops = (pictured: Pictured): number => guideOf(pictured, grid).stops[5];
    expect(stops(of(light, 'light')) - stops(of(dark, 'dark'))).toBeCloseTo(Math.log2(5), 2);
    // As long as the name is the same, so is what was measured.
    expect(guideOf(of(light, 'same'), grid)).toBe(guideOf(of(light, 'same'), grid));
    for (const each of [dark, light]) givePlanesBack(each);
  });
});
