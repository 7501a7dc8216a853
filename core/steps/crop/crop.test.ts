import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { lensModel } from '../../optics/lens-model.ts';
import { rotationFromAngles } from '../../math/rotation.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import { type Projection, uprightToSensor } from '../../picture/geometry/projection.ts';
import type { Rectangle } from './rectangle.ts';
import { fitCrop, isInside, likeness } from './fit-crop.ts';
import { largestCrop, largestRectangle } from './largest-rectangle.ts';
import { pixelSize } from '../../picture/output/ratios.ts';
import { moveCrop, resizeCrop } from './resize-crop.ts';
import { validArea } from './valid-area.ts';

const projection = fc
  .record({
    roll: fc.double({ min: -8, max: 8, noNaN: true }),
    pitch: fc.double({ min: -25, max: 25, noNaN: true }),
    yaw: fc.double({ min: -25, max: 25, noNaN: true }),
    focal: fc.double({ min: 0.8, max: 3, noNaN: true }),
    k1: fc.double({ min: -0.1, max: 0.06, noNaN: true })
  })
  .map(({ roll, pitch, yaw, focal, k1 }): Projection => ({
    size: { width: 6000, height: 4000 },
    focal,
    model: lensModel({ terms: [0, k1] }),
    rotation: rotationFromAngles({ roll, pitch, yaw })
  }));
const ratio = fc.constantFrom(1.5, 4 / 3, 1, 16 / 9, 0.8, 5 / 7);

/** The outline's chords may lie this far outside its arcs, in pixels; the outermost pixel centres lie 0.5 px inside. */
const CHORD = 0.1;

/** True when a point of the upright plane lies on the sensor. */
function onSensor(x: number, y: number, p: Projection): boolean {
  const place = uprightToSensor([x, y], p);
  if (!place) return false;
  const [sx, sy] = place;
  return sx >= -CHORD && sy >= -CHORD && sx <= p.size.width + CHORD && sy <= p.size.height + CHORD;
}

describe('largest crop', () => {
  it('holds only real pixels and none of its ratio is noticeably larger', () => {
    fc.assert(
      fc.property(projection, ratio, (p, wanted) => {
        const outline = validArea(p);
        const crop = largestRectangle(outline, wanted)!;
        expect(crop.width / crop.height).toBeCloseTo(wanted, 9);
        // All at once: an expectation for each place takes longer than what is expected.
        const border = Array.from({ length: 51 }, (_, i) => {
          const x = crop.x + crop.width * (i / 50 - 0.5);
          const y = crop.y + crop.height * (i / 50 - 0.5);
          return [
            [x, crop.y - crop.height / 2],
            [x, crop.y + crop.height / 2],
            [crop.x - crop.width / 2, y],
            [crop.x + crop.width / 2, y]
          ];
        }).flat();
        expect(border.filter(([x, y]) => !onSensor(x, y, p))).toEqual([]);
        // No centre on a grid gives room for one a quarter percent larger: half a percent of its area.
        const grown = { width: crop.width * 1.0025, height: crop.height * 1.0025 };
        const larger: Rectangle[] = [];
        for (let i = -5; i <= 5; i++) {
          for (let j = -5; j <= 5; j++) {
            const other = { ...grown, x: crop.x + (i / 10) * crop.width, y: crop.y + (j / 10) * crop.height };
            if (isInside(other, outline)) larger.push(other);
          }
        }
        expect(larger).toEqual([]);
      }),
      { numRuns: 150 }
    );
  });

  it('finds the known answer in a square turned by 45°', () => {
    const diamond: Point[] = [
      [0, -1],
      [1, 0],
      [0, 1],
      [-1, 0]
    ];
    const crop = largestRectangle(diamond, 1)!;
    expect(crop.width).toBeCloseTo(1, 3);
    expect(Math.hypot(crop.x, crop.y)).toBeLessThan(1e-3);
    expect(largestRectangle(diamond, 3)!.height).toBeCloseTo(0.5, 3);
  });

  it('stays by the middle of the composition where it is as large there', () => {
    const plain = validArea({
      size: { width: 6000, height: 4000 },
      focal: 1,
      model: lensModel({}),
      rotation: IDENTITY
    });
    const square = largestRectangle(plain, 1, [0.1, 0.02])!;
    expect(square.x).toBeCloseTo(0.1, 2);
    expect(square.height).toBeCloseTo(4000 / 3605.55, 3);
    // Too far to the side: as near as it can.
    const beside = largestRectangle(plain, 1, [0.7, 0])!;
    expect(beside.x + beside.width / 2).toBeCloseTo(3000 / 3605.55, 2);
    expect(largestRectangle(plain, 1.5)!.width).toBeCloseTo(6000 / 3605.55, 4);
  });

  it('of any ratio is the largest by area, between 1:4 and 4:1', () => {
    const box = (width: number, height: number): Point[] => [
      [-width / 2, -height / 2],
      [width / 2, -height / 2],
      [width / 2, height / 2],
      [-width / 2, height / 2]
    ];
    const ofBox = largestCrop(box(2, 1), null)!;
    expect(ofBox.width).toBeCloseTo(2, 2);
    expect(ofBox.height).toBeCloseTo(1, 2);
    const long = largestCrop(box(10, 1), null)!;
    expect(long.width / long.height).toBeCloseTo(4, 2);
    expect(long.height).toBeCloseTo(1, 2);
    const tall = largestCrop(box(0.5, 5), null, [0, 1.2])!;
    expect(tall.width / tall.height).toBeCloseTo(0.25, 3);
    expect(tall.y).toBeCloseTo(1.2, 2);
    // In a diamond half as high as wide, the one that touches all four sides in their middles.
    const diamond = largestCrop(
      [
        [0, -1],
        [2, 0],
        [0, 1],
        [-2, 0]
      ],
      null
    )!;
    expect(diamond.width).toBeCloseTo(2, 2);
    expect(diamond.height).toBeCloseTo(1, 2);
    expect(largestCrop([], null)).toBeNull();
  });

  it('has no room in nothing', () => {
    expect(largestRectangle([], 1)).toBeNull();
    expect(
      largestRectangle(
        [
          [0, 0],
          [1, 0],
          [2, 0]
        ],
        1
      )
    ).toBeNull();
  });
});

/** Middles as far off as `most` both ways, and heights. */
const wantedCrop = (most: number, least: number, height: number) =>
  fc.record({
    x: fc.double({ min: -most, max: most, noNaN: true }),
    y: fc.double({ min: -most, max: most, noNaN: true }),
    height: fc.double({ min: least, max: height, noNaN: true })
  });

describe('fitting and dragging', () => {
  it('keeps a valid crop, and brings any other inside without changing its ratio', () => {
    fc.assert(
      fc.property(projection, ratio, wantedCrop(1.2, 0.1, 2.5), (p, wanted, { x, y, height }) => {
        const outline = validArea(p);
        const crop = { x, y, width: height * wanted, height };
        const fitted = fitCrop(crop, outline)!;
        expect(isInside(fitted, outline)).toBe(true);
        expect(fitted.width / fitted.height).toBeCloseTo(wanted, 6);
        expect(fitCrop(fitted, outline)).toBe(fitted);
      }),
      { numRuns: 60 }
    );
  });

  it('changes a crop no more than it must: no other place and size on a grid is more like it', () => {
    fc.assert(
      fc.property(projection, ratio, wantedCrop(0.5, 0.4, 1.4), (p, wanted, { x, y, height }) => {
        const outline = validArea(p);
        const crop = { x, y, width: height * wanted, height };
        const like = (other: typeof crop): number =>
          likeness(
            height / 2,
            Math.min(height, other.height) / 2,
            Math.abs(other.x - x) / wanted,
            Math.abs(other.y - y)
          );
        const fitted = fitCrop(crop, outline)!;
        const found = like(fitted);
        for (let share = 1; share > 0.3; share -= 0.04)
          for (let i = -6; i <= 6; i++)
            for (let j = -6; j <= 6; j++) {
              const other = {
                x: x + (i / 15) * crop.width,
                y: y + (j / 15) * height,
                width: crop.width * share,
                height: height * share
              };
              if (like(other) > found + 1e-3) expect(isInside(other, outline)).toBe(false);
            }
      }),
      { numRuns: 60 }
    );
  });

  it('never leaves the real pixels, wherever a handle is dragged', () => {
    const place = fc.double({ min: -2, max: 2, noNaN: true });
    const side = fc.constantFrom(-1, 0, 1) as fc.Arbitrary<-1 | 0 | 1>;
    fc.assert(
      fc.property(projection, fc.option(ratio), side, side, place, place, (p, wanted, hx, hy, x, y) => {
        const outline = validArea(p);
        const largest = largestRectangle(outline, wanted ?? 1.5)!;
        const start = { ...largest, width: largest.width / 2, height: largest.height / 2 };
        const resized = resizeCrop(start, { x: hx, y: hy }, [x, y], wanted, outline);
        expect(isInside(resized, outline)).toBe(true);
        if (wanted) expect(resized.width / resized.height).toBeCloseTo(wanted, 6);
        const moved = moveCrop(start, [x, y], outline);
        expect(isInside(moved, outline)).toBe(true);
        expect(moved.width).toBeCloseTo(start.width, 9);
      }),
      { numRuns: 60 }
    );
  });

  const START = { x: 0.1, y: -0.05, width: 0.8, height: 0.6 };
  const BOX: Point[] = [
    [-1, -0.7],
    [1, -0.7],
    [1, 0.7],
    [-1, 0.7]
  ];

  it.each([
    // Edges, free: only the dragged side moves.
    [{ x: 1, y: 0 }, [0.8, 9], null, { x: 0.25, y: -0.05, width: 1.1, height: 0.6 }],
    [{ x: -1, y: 0 }, [-0.6, 9], null, { x: -0.05, y: -0.05, width: 1.1, height: 0.6 }],
    [{ x: 0, y: 1 }, [9, 0.45], null, { x: 0.1, y: 0.05, width: 0.8, height: 0.8 }],
    [{ x: 0, y: -1 }, [9, -0.55], null, { x: 0.1, y: -0.15, width: 0.8, height: 0.8 }],
    // A corner, free: the opposite one stays.
    [{ x: 1, y: 1 }, [0.7, 0.35], null, { x: 0.2, y: 0, width: 1, height: 0.7 }],
    [{ x: -1, y: -1 }, [-0.4, -0.45], null, { x: 0.05, y: -0.1, width: 0.9, height: 0.7 }],
    // With a ratio: an edge takes the other measure along about the middle, a corner the larger of both.
    [{ x: 1, y: 0 }, [0.6, 9], 2, { x: 0.15, y: -0.05, width: 0.9, height: 0.45 }],
    [{ x: 0, y: 1 }, [9, 0.35], 1.25, { x: 0.1, y: 0, width: 0.875, height: 0.7 }],
    [{ x: 1, y: 1 }, [0.9, 0.3], 2, { x: 0.35, y: -0.025, width: 1.3, height: 0.65 }],
    [{ x: -1, y: 1 }, [0.2, 0.45], 1, { x: 0.1, y: 0.05, width: 0.8, height: 0.8 }],
    // Past the opposite side: as small as a crop can be.
    [{ x: 1, y: 0 }, [-9, 0], null, { x: -0.275, y: -0.05, width: 0.05, height: 0.6 }],
    [{ x: 0, y: -1 }, [0, 9], null, { x: 0.1, y: 0.225, width: 0.8, height: 0.05 }]
  ] as const)('drags %j to %j with ratio %j', (handle, to, wanted, expected) => {
    const found = resizeCrop(START, handle, [...to], wanted, null);
    for (const side of ['x', 'y', 'width', 'height'] as const)
      expect(found[side], side).toBeCloseTo(expected[side], 9);
  });

  it('goes as far as there are real pixels, and slides along their border', () => {
    const wide = resizeCrop(START, { x: 1, y: 0 }, [3, 0], null, BOX);
    expect(wide.x + wide.width / 2).toBeCloseTo(1, 5);
    expect(wide.x - wide.width / 2).toBeCloseTo(-0.3, 6);
    const down = moveCrop(START, [0.2, 3], BOX);
    expect(down.y).toBeCloseTo(0.4, 5);
    expect(down.x).toBeCloseTo(0.2, 5);
    const across = moveCrop(START, [-5, 0.1], BOX);
    expect(across.x).toBeCloseTo(-0.6, 5);
    expect(across.y).toBeCloseTo(0.1, 5);
    expect(moveCrop(START, [7, -9], null)).toEqual({ ...START, x: 7, y: -9 });
  });

  it('rounds a ratio to whole pixels', () => {
    for (const [wanted, width] of [
      [4 / 3, 3001.7],
      [16 / 9, 1999.2],
      [5 / 7, 1234.5]
    ]) {
      const size = pixelSize(width, wanted);
      expect(Math.abs(size.height - size.width / wanted)).toBeLessThanOrEqual(0.5);
    }
  });
});

describe('a fisheye made flat', () => {
  it('is cropped about its middle, to real pixels that are not stretched out of use', () => {
    const size = { width: 6000, height: 4000 };
    const focal = 15 / 21.6333;
    const projection = {
      size,
      focal,
      model: lensModel({ projection: 'equisolid', focal }),
      rotation: IDENTITY
    };
    const valid = validArea(projection);
    const crop = largestCrop(valid, 1.5)!;
    expect(Math.hypot(crop.x, crop.y)).toBeLessThan(0.02);
    expect(crop.width).toBeGreaterThan(2);
    for (const [sx, sy] of [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1]
    ]) {
      const corner: Point = [crop.x + (sx * crop.width) / 2, crop.y + (sy * crop.height) / 2];
      expect(uprightToSensor(corner, projection)).not.toBeNull();
    }
    expect(uprightToSensor([3 * focal, 0], projection)).toBeNull();
  });
});
