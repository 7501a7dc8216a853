/** Stages on developed planes, with two trial stages: one copies from afar, one looks about each pixel. */
import { describe, expect, it } from 'vitest';
import { takenBytes } from '../picture/kernels/heap.ts';
import { halve } from '../picture/tile/halve.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../picture/tile/planes.ts';
import { type SensorRectangle, pixelsOf, takePart, wholeSensor } from '../picture/tile/sensor-rectangle.ts';
import type { SourceStage } from '../picture/tile/stage.ts';
import {
  type SourceInputs,
  changeRows,
  changedPart,
  changedPicture,
  rectanglesFor
} from './source-planes.ts';
import type { AnySource } from './stages.ts';

const SIZE = { width: 96, height: 64 };

const at = ({ width, r }: PlacedPlanes, x: number, y: number): number => r[y * width + x];
/** The value of a patch at a sensor position. */
const onSensor = (patch: PlacedPlanes, x: number, y: number): number =>
  at(patch, Math.floor((x - patch.originX) * patch.scaleX), Math.floor((y - patch.originY) * patch.scaleY));

interface Move {
  to: SensorRectangle;
  dx: number;
  dy: number;
}
/** Takes a rectangle's pixels from elsewhere on the sensor. */
const copying: SourceStage<'copy', unknown, Move> = {
  name: 'copy',
  kind: 'source',
  prepare: () => null,
  needs: (made, { to, dx, dy }) =>
    made.left < to.right && made.right > to.left && made.top < to.bottom && made.bottom > to.top
      ? [{ left: to.left + dx, top: to.top + dy, right: to.right + dx, bottom: to.bottom + dy }]
      : [],
  apply([own, source], out, { to, dx, dy }) {
    for (let y = 0; y < out.height; y++)
      for (let x = 0; x < out.width; x++) {
        const [sx, sy] = [out.originX + (x + 0.5) / out.scaleX, out.originY + (y + 0.5) / out.scaleY];
        const inside = sx > to.left && sx < to.right && sy > to.top && sy < to.bottom;
        const value = inside ? onSensor(source, sx + dx, sy + dy) : onSensor(own, sx, sy);
        for (const plane of [out.r, out.g, out.b]) plane[y * out.width + x] = value;
      }
  }
};
/** The greatest of three pixels across. */
const widening: SourceStage<'widen', unknown, { by: number }> = {
  name: 'widen',
  kind: 'source',
  prepare: () => null,
  needs: ({ left, top, right, bottom }, { by }) => [{ left: left - by, top, right: right + by, bottom }],
  apply([, about], out, { by }) {
    for (let y = 0; y < out.height; y++)
      for (let x = 0; x < out.width; x++) {
        const [sx, sy] = [out.originX + (x + 0.5) / out.scaleX, out.originY + (y + 0.5) / out.scaleY];
        const values = [-by, 0, by].map((d) =>
          onSensor(about, Math.min(SIZE.width - 0.5, Math.max(0.5, sx + d)), sy)
        );
        for (const plane of [out.r, out.g, out.b]) plane[y * out.width + x] = Math.max(...values);
      }
  }
};
const LIST = [copying, widening] as unknown as readonly AnySource[];
const MOVE: Move = { to: { left: 70, top: 40, right: 90, bottom: 60 }, dx: -66, dy: -38 };
const INPUTS: SourceInputs = [
  { stage: 'copy', data: MOVE },
  { stage: 'widen', data: { by: 1 } }
];

const light = (x: number, y: number): number => ((x * 31 + y * 17) % 101) / 100;
function picture(): PlacedPlanes {
  const planes = allocatePlanes(SIZE.width, SIZE.height);
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++)
      for (const plane of [planes.r, planes.g, planes.b]) plane[y * SIZE.width + x] = light(x, y);
  return placeOn(planes, SIZE);
}
/** What both stages make, reckoned from the picture's formula. */
function truth(x: number, y: number): number {
  const moved = (px: number): number =>
    px >= 70 && px < 90 && y >= 40 && y < 60 ? light(px - 66, y - 38) : light(px, y);
  return Math.max(...[-1, 0, 1].map((d) => moved(Math.min(SIZE.width - 1, Math.max(0, x + d)))));
}

describe('stages on developed planes', () => {
  it('make a whole picture, one stage after another, and leave what they were given', () => {
    const before = takenBytes();
    const source = picture();
    const made = changedPicture(source, INPUTS, LIST);
    for (let y = 0; y < SIZE.height; y++)
      for (let x = 0; x < SIZE.width; x++) {
        expect(at(made, x, y), `${x} ${y}`).toBeCloseTo(truth(x, y), 6);
        expect(at(source, x, y)).toBeCloseTo(light(x, y), 6);
      }
    givePlanesBack(made);
    givePlanesBack(source);
    expect(takenBytes()).toBe(before);
  });

  it('make a part from the rectangles that they say they need, and from nothing else', () => {
    const before = takenBytes();
    const source = picture();
    for (const part of [
      { left: 60, top: 36, right: 80, bottom: 50 },
      { left: 3, top: 2, right: 20, bottom: 20 },
      { left: 69, top: 39, right: 70, bottom: 41 },
      wholeSensor(SIZE)
    ]) {
      const needed = rectanglesFor(part, INPUTS, LIST);
      const lent: PlacedPlanes[] = [];
      const made = changedPart(
        part,
        INPUTS,
        (rectangle) => {
          // What is asked for was told before.
          expect(needed).toContainEqual(rectangle);
          const out = takePart(source, rectangle);
          const { left, top } = pixelsOf(source, rectangle);
          for (let y = 0; y < out.height; y++)
            for (let x = 0; x < out.width; x++) out.r[y * out.width + x] = at(source, left + x, top + y);
          lent.push(out);
          return out;
        },
        LIST
      );
      expect([made.originX, made.originY, made.width, made.height]).toEqual([
        part.left,
        part.top,
        part.right - part.left,
        part.bottom - part.top
      ]);
      for (let y = 0; y < made.height; y++)
        for (let x = 0; x < made.width; x++)
          expect(at(made, x, y)).toBeCloseTo(truth(part.left + x, part.top + y), 6);
      givePlanesBack(made);
      lent.forEach(givePlanesBack);
    }
    // A part that nothing is copied into needs only what lies about it.
    expect(rectanglesFor({ left: 3, top: 2, right: 20, bottom: 20 }, INPUTS, LIST)).toHaveLength(2);
    givePlanesBack(source);
    expect(takenBytes()).toBe(before);
  });

  it('make the same in bands, and from a picture of half the size by the same settings', () => {
    const source = picture();
    const [whole, banded] = [
      changedPicture(source, INPUTS.slice(0, 1), LIST),
      takePart(source, wholeSensor(SIZE))
    ];
    for (const [from, to] of [
      [40, 64],
      [0, 13],
      [13, 40]
    ])
      changeRows(source, banded, INPUTS[0], from, to, LIST);
    expect(banded.r).toEqual(whole.r);
    const half = halve(source);
    const small = changedPicture(half, INPUTS.slice(0, 1), LIST);
    // The moved pixels lie where they lay, at half the size: 4, 2 comes to 70, 40.
    for (let y = 0; y < 10; y++)
      for (let x = 0; x < 10; x++) expect(at(small, 35 + x, 20 + y)).toBe(at(half, 2 + x, 1 + y));
    expect(at(small, 10, 25)).toBe(at(half, 10, 25));
  });

  it('give their memory back where one of them fails, and are lent what came where there are none', () => {
    const source = picture();
    const before = takenBytes();
    const failing = { ...widening, apply: () => expect.fail('on purpose') };
    const list = [copying, failing] as unknown as readonly AnySource[];
    expect(() => changedPicture(source, INPUTS, list)).toThrow('on purpose');
    expect(takenBytes()).toBe(before);
    expect(changedPicture(source, [], LIST)).toBe(source);
    expect(rectanglesFor(wholeSensor(SIZE), [], LIST)).toEqual([wholeSensor(SIZE)]);
    givePlanesBack(source);
  });
});
