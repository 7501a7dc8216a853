/** Strokes as they grow under the pointer: what is gone on with is what would be drawn at once. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gridOf } from '../../../picture/tile/grid.ts';
import type { Guide } from '../guide.ts';
import { type Stroke, drawBrush } from './brush.ts';

const GRID = gridOf({ width: 96, height: 64 }, 96);
const OTHER = gridOf({ width: 60, height: 40 }, 60);
const SIZE = GRID.width * GRID.height;
/** A picture whose right half is unlike its left; another, that is alike all over. */
const halves: Guide['unlike'] =
  ([x]) =>
  (cell) =>
    cell % GRID.width < 48 === x < 48 ? 0 : 1;
const even: Guide['unlike'] = () => () => 0;

const stroke = (points: readonly number[], how: Partial<Stroke> = {}): Stroke => ({
  id: 's',
  size: 0.08,
  softness: 60,
  flow: 80,
  erases: false,
  keepsEdges: false,
  points,
  ...how
});

function drawn(strokes: readonly Stroke[], picture: string | null = 'one', unlike = halves): Float32Array {
  const out = new Float32Array(SIZE).fill(7);
  drawBrush({ strokes }, GRID, { picture }, () => ({ unlike }) as Guide, out);
  return out;
}
/** Drawn with nothing to go on with: another grid was drawn on last. */
function drawnAnew(
  strokes: readonly Stroke[],
  picture: string | null = 'one',
  unlike = halves
): Float32Array {
  drawBrush(
    { strokes: [stroke([0, 0, 1])] },
    OTHER,
    { picture: null },
    () => ({ unlike }) as Guide,
    new Float32Array(2400)
  );
  return drawn(strokes, picture, unlike);
}

const coordinate = fc.double({ min: -0.8, max: 0.8, noNaN: true });
const point = fc.tuple(coordinate, coordinate, fc.double({ min: 0, max: 1, noNaN: true }));
const strokes = fc.array(
  fc
    .record({
      points: fc.array(point, { minLength: 1, maxLength: 12 }),
      erases: fc.boolean(),
      keepsEdges: fc.boolean(),
      flow: fc.integer({ min: 1, max: 100 })
    })
    .map(({ points, ...how }) => stroke(points.flat(), how)),
  { minLength: 1, maxLength: 4 }
);

describe('a brush', () => {
  it('draws point after point what it would draw at once', () => {
    fc.assert(
      fc.property(strokes, (all) => {
        const wanted = drawnAnew(all);
        drawnAnew([]);
        let last = new Float32Array(0);
        all.forEach((each, n) => {
          for (let points = 3; points <= each.points.length; points += 3)
            last = drawn([
              ...all.slice(0, n),
              { ...each, points: each.points.slice(0, points) }
            ]) as typeof last;
        });
        expect(last).toEqual(wanted);
      }),
      { numRuns: 60 }
    );
  });

  it('takes strokes back, changes those before, and leaves nothing of what is gone', () => {
    const [one, two] = [stroke([-0.4, 0, 1, 0.1, 0, 1]), stroke([0.2, -0.3, 1, 0.2, 0.3, 1])];
    drawn([one, two]);
    expect(drawn([one])).toEqual(drawnAnew([one]));
    drawn([one, two]);
    expect(drawn([two])).toEqual(drawnAnew([two]));
    // In place of one of as many points, and of one that was there already.
    const [there, elsewhere] = [0, 0.1].map((y) => stroke([-0.3, y, 1, 0, y, 1, 0.3, y, 1]));
    drawn([there]);
    expect(drawn([elsewhere])).toEqual(drawnAnew([elsewhere]));
    drawn([one, two]);
    const thin = { ...one, flow: 20 };
    expect(drawn([thin, two])).toEqual(drawnAnew([thin, two]));
    expect(drawn([]).every((value) => value === 0)).toBe(true);
  });

  it('builds up stroke by stroke, to its cap and no further, and takes nothing of what is beyond it', () => {
    const middle = (all: readonly Stroke[]): number => drawnAnew(all)[32 * GRID.width + 48];
    const thin = stroke([-0.2, 0, 1, 0.2, 0, 1], { flow: 30, cap: 50 });
    const many = (n: number): number => middle(Array.from({ length: n }, () => thin));
    expect(many(1)).toBeCloseTo(0.15, 3);
    expect(many(2)).toBeCloseTo(0.15 + 0.35 * 0.3, 3);
    expect(many(40)).toBeCloseTo(0.5, 3);
    const full = stroke([-0.2, 0, 1, 0.2, 0, 1], { flow: 90 });
    expect(middle([full, thin])).toBeCloseTo(0.9, 3);
    expect(middle([full, { ...thin, cap: 100 }])).toBeCloseTo(0.93, 3);
    // A cap that is changed is drawn anew.
    drawn([thin]);
    expect(drawn([{ ...thin, cap: 20 }])).toEqual(drawnAnew([{ ...thin, cap: 20 }]));
  });

  it('keeps to the edges of the picture that it is drawn on, not of the one before', () => {
    const across = stroke([-0.3, 0, 1, -0.05, 0, 1, 0.05, 0, 1, 0.3, 0, 1], { keepsEdges: true });
    const longer = { ...across, points: [...across.points, 0.5, 0.2, 1] };
    drawn([across], 'one');
    expect(drawn([longer], 'two', even)).toEqual(drawnAnew([longer], 'two', even));
    expect(drawnAnew([longer], 'two', even)).not.toEqual(drawnAnew([longer], 'one', halves));
    // Of a picture without a name nothing is kept.
    drawn([across], null);
    expect(drawn([longer], null, even)).toEqual(drawnAnew([longer], null, even));
  });
});
