/** Larger places filled, on painted pictures of which it is known what was behind the thing. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../../scenes/random.ts';
import { halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../../picture/tile/planes.ts';
import { changedPicture } from '../../../render/source-planes.ts';
import { passesOf } from '../passes.ts';
import type { Patch } from '../patch.ts';
import { mendStage } from '../source-stage.ts';
import { MOST_CELLS } from './fill.ts';
import { findFill } from './find-fill.ts';

const SIZE = { width: 480, height: 320 };
const UNIT = halfDiagonal(SIZE);
const NOISE = 0.004;
type Paint = (x: number, y: number) => readonly [number, number, number];

/** A wall in courses, under it a floor of flags, lit from the left. */
const wall: Paint = (x, y) => {
  const lit = 1 - x / 1400;
  const course = Math.floor(y / 10);
  const joint = y % 10 < 2 || (x + (course % 2) * 12) % 24 < 2;
  const [r, g, b] =
    y < 200
      ? joint
        ? [0.5, 0.47, 0.42]
        : [0.42, 0.26, 0.18]
      : x % 40 < 2
        ? [0.2, 0.2, 0.2]
        : [0.36, 0.36, 0.37];
  return [r * lit, g * lit, b * lit];
};
const withBin: Paint = (x, y) => (x > 200 && x < 250 && y > 130 && y < 236 ? [0.03, 0.06, 0.04] : wall(x, y));

function picture(paint: Paint): PlacedPlanes {
  const random = seededRandom(3);
  const planes = allocatePlanes(SIZE.width, SIZE.height);
  for (let y = 0, at = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++, at++) {
      const grain = (random() + random() + random() - 1.5) * 2 * NOISE;
      const [r, g, b] = paint(x + 0.5, y + 0.5);
      [planes.r[at], planes.g[at], planes.b[at]] = [r + grain, g + grain, b + grain];
    }
  return placeOn(planes, SIZE);
}
const field = (...places: readonly (readonly [number, number])[]): number[] =>
  places.flatMap((place) => sensorToField([...place], SIZE));
/** Strokes down over all of the bin. */
const REGION = {
  points: field([210, 140], [210, 228], [240, 228], [240, 140], [225, 140], [225, 228]),
  size: (1000 * 20) / UNIT
};
const asPatch = (region: typeof REGION, fill: Patch['fill']): Patch => ({
  id: 'bin',
  kind: 'takeOut',
  dust: false,
  enabled: true,
  name: 'bin',
  ...region,
  feather: 10,
  opacity: 100,
  source: [0, 0],
  fill
});
const filled = (planes: PlacedPlanes, region: typeof REGION, fill: Patch['fill']): PlacedPlanes =>
  changedPicture(
    planes,
    passesOf([asPatch(region, fill)], SIZE).map((data) => ({ stage: mendStage.name, data }))
  );
/** Mean difference of green over a box. */
function apart(
  one: PlacedPlanes,
  other: PlacedPlanes,
  [left, top, right, bottom]: readonly number[]
): number {
  let sum = 0;
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++)
      sum += Math.abs(one.g[y * SIZE.width + x] - other.g[y * SIZE.width + x]);
  return sum / (right - left) / (bottom - top);
}

describe('a thing that is taken out', () => {
  it('leaves the wall and the floor behind it, course by course', () => {
    const [source, truth] = [picture(withBin), picture(wall)];
    const fill = findFill(source, REGION, SIZE)!;
    expect(fill.offsets.length / 2).toBeLessThanOrEqual(MOST_CELLS);
    const made = filled(source, REGION, fill);
    const bin = [200, 130, 250, 236];
    expect(apart(source, truth, bin)).toBeGreaterThan(0.15);
    // Joints and courses meet: hardly a pixel is of the other kind.
    expect(apart(made, truth, bin)).toBeLessThan(0.025);
    // Nothing of the bin is left anywhere, and nothing far from it has changed.
    for (let y = 110; y < 256; y++)
      for (let x = 180; x < 270; x++) expect(made.g[y * SIZE.width + x]).toBeGreaterThan(0.12);
    expect(apart(made, source, [0, 0, 150, 320])).toBe(0);
    for (const each of [source, truth, made]) givePlanesBack(each);
  });

  it('is filled otherwise by another try', () => {
    const source = picture(withBin);
    const first = findFill(source, REGION, SIZE)!;
    expect(findFill(source, REGION, SIZE)).toEqual(first);
    const second = findFill(source, REGION, SIZE, first)!;
    const differ = first.offsets.filter((each, i) => Math.abs(each - second.offsets[i]) > 100).length;
    expect(differ / first.offsets.length).toBeGreaterThan(0.25);
    givePlanesBack(source);
  });

  it('may stand at the edge of the frame, and nothing is made up where nothing is about it', () => {
    const source = picture(wall);
    const corner = { points: field([8, 8]), size: (1000 * 24) / UNIT };
    const made = filled(source, corner, findFill(source, corner, SIZE));
    expect(made.r.every(Number.isFinite)).toBe(true);
    expect(apart(made, source, [0, 0, 20, 20])).toBeLessThan(0.05);
    givePlanesBack(made);
    const all = { points: field([240, 160]), size: (1000 * 400) / UNIT };
    expect(findFill(source, all, SIZE)).toBeNull();
    givePlanesBack(source);
  });
});
