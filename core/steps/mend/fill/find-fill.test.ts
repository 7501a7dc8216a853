/** Larger places filled, on painted pictures of which it is known what was behind the thing. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../math/random.ts';
import { halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../../picture/tile/planes.ts';
import { IDENTITY } from '../../../math/matrix3.ts';
import { lensModel } from '../../../optics/lens-model.ts';
import type { Projection } from '../../../picture/geometry/projection.ts';
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
/** A room: flags that run away from the camera, and to the left a wall of bricks; the horizon is half way up. */
const FOCAL = 0.9;
const room: Paint = (px, py) => {
  const [u, v] = sensorToField([px, py], SIZE);
  const [x, y] = [u / FOCAL, v / FOCAL];
  const far = 1.4 / y;
  if (y > 0 && x * far > -2 && far < 7) {
    const [across, along] = [Math.floor(x * far * 2.5 + 100), Math.floor(far * 2.5)];
    return (across + along) % 2 ? [0.34, 0.33, 0.3] : [0.55, 0.53, 0.48];
  }
  const side = -2 / x;
  if (x < 0 && side < 7) {
    const course = Math.floor((y * side + 5) * 3);
    const joint = ((y * side + 5) * 3) % 1 < 0.2 || (side * 1.6 + (course % 2) * 0.5) % 1 < 0.1;
    return joint ? [0.6, 0.57, 0.5] : [0.4, 0.22, 0.15];
  }
  return [0.7, 0.69, 0.66];
};
/** As the room would be seen through a lens without faults, held level. */
const AS_BUILT: Projection = {
  size: SIZE,
  focal: FOCAL,
  model: lensModel(
    { projection: 'rectilinear', terms: [], centre: [0, 0], tangential: [0, 0], focal: FOCAL },
    1
  ),
  rotation: IDENTITY
};
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
    const second = findFill(source, REGION, SIZE, { before: first })!;
    const differ = first.offsets.filter((each, i) => Math.abs(each - second.offsets[i]) > 100).length;
    expect(differ / first.offsets.length).toBeGreaterThan(0.25);
    givePlanesBack(source);
  });

  it.each<[string, ...[number, number][]]>([
    ['the floor', [238, 262], [258, 262]],
    ['a wall', [78, 120], [78, 150]]
  ])('is filled along the perspective of %s', (_, ...places) => {
    const region = { points: field(...places), size: (1000 * 18) / UNIT };
    const [[left, top], [right, bottom]] = places;
    const box = [left - 12, top - 12, right + 12, bottom + 12];
    const [source, truth] = [
      picture((x, y) =>
        x > box[0] && y > box[1] && x < box[2] && y < box[3] ? [0.03, 0.06, 0.04] : room(x, y)
      ),
      picture(room)
    ];
    const off = ([false, true] as const).map((told) => {
      const fill = findFill(source, region, SIZE, { projection: told ? AS_BUILT : null })!;
      expect(Boolean(fill.surfaces?.length)).toBe(told);
      const made = filled(source, region, fill);
      const sum = apart(made, truth, box);
      givePlanesBack(made);
      return sum;
    });
    expect(off[1]).toBeLessThan(0.4 * off[0]);
    expect(off[1]).toBeLessThan(0.03);
    for (const each of [source, truth]) givePlanesBack(each);
  });

  it('of a surface that nobody could have found is left as it is there, and never not a number', () => {
    const source = picture(withBin);
    const fill = findFill(source, REGION, SIZE)!;
    for (const surface of [Array(9).fill(0), [1, 0, 0, 0, 1, 0, 400, 0, -1], [0, 0, 0, 0, 0, 0, 0, 0, 1]]) {
      const made = filled(source, REGION, {
        ...fill,
        surfaces: [surface],
        along: fill.offsets.slice(fill.offsets.length / 2).map(() => 1)
      });
      expect(made.g.every(Number.isFinite)).toBe(true);
      expect(apart(made, source, [0, 0, 150, 320])).toBe(0);
      givePlanesBack(made);
    }
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
