/** Mending on painted planes, of which it is known what was under the spot. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../math/random.ts';
import { halfDiagonal, sensorToField } from '../../math/frame-geometry.ts';
import { takenBytes } from '../../picture/kernels/heap.ts';
import { halve } from '../../picture/tile/halve.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../picture/tile/planes.ts';
import { pixelsOf, takePart } from '../../picture/tile/sensor-rectangle.ts';
import { changedPart, changedPicture, rectanglesFor } from '../../render/source-planes.ts';
import { findSource } from './find-source.ts';
import type { Patch } from './patch.ts';
import { passesOf } from './passes.ts';
import { mendStage } from './source-stage.ts';

const SIZE = { width: 360, height: 240 };
const UNIT = halfDiagonal(SIZE);
const NOISE = 0.006;

type Paint = (x: number, y: number) => readonly [number, number, number];

/** Pixel values by a function of the middle of each pixel, with the same noise every time. */
function picture(paint: Paint, noise = NOISE): PlacedPlanes {
  const random = seededRandom(5);
  const planes = allocatePlanes(SIZE.width, SIZE.height);
  for (let y = 0, at = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++, at++) {
      const grain = (random() + random() + random() - 1.5) * 2 * noise;
      const [r, g, b] = paint(x + 0.5, y + 0.5);
      [planes.r[at], planes.g[at], planes.b[at]] = [r + grain, g + grain, b + grain];
    }
  return placeOn(planes, SIZE);
}

/** A sky: lighter to the right and bluer upwards. */
const sky: Paint = (x, y) => [0.3 + x / 1200, 0.4 + x / 1200, 0.62 + x / 1200 - y / 1600];
const darkened =
  (paint: Paint, by: (x: number, y: number) => number): Paint =>
  (x, y) =>
    paint(x, y).map((value) => value * (1 - by(x, y))) as [number, number, number];

const patch = (
  own: Partial<Patch> & { at?: readonly number[]; radius?: number; from?: readonly number[] }
): Patch => {
  const { at = [180, 120], radius = 12, from = [60, 0], ...rest } = own;
  const points = [];
  for (let i = 0; i < at.length; i += 2) points.push(...sensorToField([at[i], at[i + 1]], SIZE));
  return {
    id: 'one',
    kind: 'heal',
    dust: false,
    enabled: true,
    name: '',
    points,
    size: (1000 * radius) / UNIT,
    feather: 25,
    opacity: 100,
    source: [from[0] / UNIT, from[1] / UNIT],
    fill: null,
    ...rest
  };
};
const inputsOf = (patches: readonly Patch[]) =>
  passesOf(patches, SIZE).map((data) => ({ stage: mendStage.name, data }));
const mended = (source: PlacedPlanes, ...patches: Patch[]): PlacedPlanes =>
  changedPicture(source, inputsOf(patches));

/** Root mean square of the difference of all colours within a disc. */
function apart(one: PlacedPlanes, other: PlacedPlanes, [cx, cy]: readonly number[], radius: number): number {
  let [sum, count] = [0, 0];
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) >= radius) continue;
      for (const name of ['r', 'g', 'b'] as const) {
        sum += (one[name][y * SIZE.width + x] - other[name][y * SIZE.width + x]) ** 2;
        count++;
      }
    }
  return Math.sqrt(sum / count);
}
/** Mean of a colour within a disc. */
function meanIn(
  planes: PlacedPlanes,
  name: 'r' | 'g' | 'b',
  [cx, cy]: readonly number[],
  radius: number
): number {
  let [sum, count] = [0, 0];
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++)
      if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) < radius) {
        sum += planes[name][y * SIZE.width + x];
        count++;
      }
  return sum / count;
}
const spot = darkened(sky, (x, y) => (Math.hypot(x - 180, y - 120) < 8 ? 0.7 : 0));

describe('healing', () => {
  it('gives a place back as it was under the spot, in its own light and colour', () => {
    const before = takenBytes();
    const [source, truth] = [picture(spot), picture(sky)];
    // The source is a tenth lighter, and more blue.
    const made = mended(source, patch({ from: [120, -80] }));
    expect(apart(source, truth, [180, 120], 12)).toBeGreaterThan(0.15);
    expect(apart(made, truth, [180, 120], 12)).toBeLessThan(2.2 * NOISE);
    for (const name of ['r', 'g', 'b'] as const) {
      expect(Math.abs(meanIn(made, name, [180, 120], 7) - meanIn(truth, name, [180, 120], 7))).toBeLessThan(
        0.003
      );
      // On the slope to the rim as in the middle.
      expect(Math.abs(meanIn(made, name, [190, 120], 3) - meanIn(truth, name, [190, 120], 3))).toBeLessThan(
        0.004
      );
    }
    for (const each of [source, truth, made]) givePlanesBack(each);
    expect(takenBytes()).toBe(before);
  });

  it('keeps the grain of the picture, and leaves everything else as it was, bit for bit', () => {
    const source = picture(spot);
    const made = mended(source, patch({}));
    const grain = (planes: PlacedPlanes, cx: number): number => {
      let sum = 0;
      for (let y = 115; y < 125; y++)
        for (let x = cx - 5; x < cx + 5; x++)
          sum += (planes.g[y * SIZE.width + x] - planes.g[y * SIZE.width + x + 1]) ** 2;
      return Math.sqrt(sum / 100);
    };
    expect(grain(made, 180) / grain(source, 100)).toBeGreaterThan(0.8);
    expect(grain(made, 180) / grain(source, 100)).toBeLessThan(1.25);
    let changed = 0;
    for (let y = 0; y < SIZE.height; y++)
      for (let x = 0; x < SIZE.width; x++) {
        const at = y * SIZE.width + x;
        if (made.r[at] === source.r[at] && made.b[at] === source.b[at]) continue;
        changed++;
        expect(Math.hypot(x + 0.5 - 180, y + 0.5 - 120)).toBeLessThan(13);
      }
    expect(changed).toBeGreaterThan(300);
    givePlanesBack(source);
    givePlanesBack(made);
  });

  it('follows a long, thin stroke without a seam, whatever pieces it is made in', () => {
    // A crack all across, in wide turns: many times as long as it is wide.
    const way: number[] = [];
    for (let x = 12; x <= 348; x += 4) way.push(x, 100 + 50 * Math.sin(x / 25));
    const near = (x: number, y: number): boolean => {
      for (let i = 0; i < way.length; i += 2) if (Math.hypot(way[i] - x, way[i + 1] - y) < 3) return true;
      return false;
    };
    const [source, truth] = [picture(darkened(sky, (x, y) => (near(x, y) ? 0.7 : 0))), picture(sky)];
    const made = mended(source, patch({ at: way, radius: 6, from: [0, 75] }));
    let worst = 0;
    for (let i = 4; i < way.length - 4; i += 2) {
      const place = [way[i], way[i + 1]];
      for (const name of ['r', 'b'] as const)
        worst = Math.max(worst, Math.abs(meanIn(made, name, place, 3) - meanIn(truth, name, place, 3)));
    }
    expect(worst).toBeLessThan(0.008);
    for (const each of [source, truth, made]) givePlanesBack(each);
  });

  it('works at the edge of the frame, and with a source beyond it', () => {
    const source = picture(sky);
    const made = mended(
      source,
      patch({ at: [3, 4], from: [40, 0] }),
      patch({ id: 'two', at: [300, 200], from: [400, 300] }),
      patch({ id: 'three', kind: 'clone', at: [200, 40], from: [0, -700] }),
      patch({ id: 'four', at: [900, 900] })
    );
    expect(made.g.every(Number.isFinite)).toBe(true);
    expect(apart(made, source, [3, 4], 12)).toBeLessThan(3 * NOISE);
    givePlanesBack(source);
    givePlanesBack(made);
  });
});

describe('cloning', () => {
  it('lays the other place in as it is, pixel for pixel, by its share', () => {
    const source = picture(sky);
    const whole = mended(source, patch({ kind: 'clone', from: [70, -30] }));
    const half = mended(source, patch({ kind: 'clone', from: [70, -30], opacity: 50 }));
    for (const [x, y] of [
      [180, 120],
      [176, 116],
      [183, 125]
    ])
      for (const name of ['r', 'g', 'b'] as const) {
        const [own, other] = [source[name][y * SIZE.width + x], source[name][(y - 30) * SIZE.width + x + 70]];
        expect(whole[name][y * SIZE.width + x]).toBeCloseTo(other, 6);
        expect(half[name][y * SIZE.width + x]).toBeCloseTo((own + other) / 2, 6);
      }
    for (const each of [source, whole, half]) givePlanesBack(each);
  });

  it('is laid over what was mended before', () => {
    const source = picture(spot);
    // First the spot is healed, then the healed place is taken elsewhere.
    const first = patch({ id: 'first' });
    const second = patch({ id: 'second', kind: 'clone', at: [100, 60], from: [80, 60] });
    expect(passesOf([first, second], SIZE)).toHaveLength(2);
    expect(passesOf([first, patch({ id: 'far', at: [60, 200], from: [60, 0] })], SIZE)).toHaveLength(1);
    const made = mended(source, first, second);
    const at = 60 * SIZE.width + 100;
    expect(made.g[at]).toBeCloseTo(made.g[120 * SIZE.width + 180], 6);
    expect(made.g[at]).toBeGreaterThan(0.4);
    givePlanesBack(source);
    givePlanesBack(made);
  });
});

describe('a cable', () => {
  /** From 20, 30 to 340, 200, four pixels thick. */
  const away = (x: number, y: number): number => {
    const [dx, dy] = [320, 170];
    return Math.abs((x - 20) * dy - (y - 30) * dx) / Math.hypot(dx, dy);
  };
  const cable = darkened(sky, (x, y) => (away(x, y) < 2 ? 0.8 : 0));
  const along = patch({ kind: 'cable', at: [-20, 8.75, 160, 104.375, 380, 221.25], radius: 5, from: [0, 0] });

  it('goes without a seam, and leaves grain', () => {
    const [source, truth] = [picture(cable), picture(sky)];
    const made = mended(source, along);
    let [worst, sum, count] = [0, 0, 0];
    for (let x = 40; x < 320; x++) {
      const y = Math.round(30 + ((x - 20) * 170) / 320);
      // Means over pieces of the line: seams are larger than grain.
      for (let off = -6; off <= 6; off++) {
        let piece = 0;
        for (let i = -8; i <= 8; i++) {
          const at = Math.round(y + off + (i * 170) / 320) * SIZE.width + x + i;
          piece += (made.g[at] - truth.g[at]) / 17;
        }
        worst = Math.max(worst, Math.abs(piece));
      }
      sum += (made.g[y * SIZE.width + x] - truth.g[y * SIZE.width + x]) ** 2;
      count++;
    }
    expect(worst).toBeLessThan(0.012);
    const off = Math.sqrt(sum / count);
    expect(off).toBeLessThan(2.5 * NOISE);
    expect(off).toBeGreaterThan(0.8 * NOISE);
    for (const each of [source, truth, made]) givePlanesBack(each);
  });

  it('takes the light of both sides over, where it changes fast across it', () => {
    const steep: Paint = (x, y) => {
      const side = ((x - 20) * 170 - (y - 30) * 320) / Math.hypot(320, 170);
      return [0.4 + side / 500, 0.4 + side / 500, 0.5];
    };
    const source = picture(darkened(steep, (x, y) => (away(x, y) < 2 ? 0.8 : 0)));
    const truth = picture(steep);
    const made = mended(source, along);
    for (let x = 60; x < 300; x += 20)
      for (const off of [-3, 0, 3]) {
        const place = [x, 30 + ((x - 20) * 170) / 320 + off];
        for (const name of ['r', 'b'] as const)
          expect(Math.abs(meanIn(made, name, place, 4) - meanIn(truth, name, place, 4))).toBeLessThan(0.005);
      }
    for (const each of [source, truth, made]) givePlanesBack(each);
  });

  it('asks only for what lies about the part that is made', () => {
    const [needed] = rectanglesFor({ left: 100, top: 60, right: 130, bottom: 90 }, inputsOf([along])).slice(
      1
    );
    expect(needed.right - needed.left).toBeLessThan(120);
    expect(rectanglesFor({ left: 10, top: 200, right: 30, bottom: 220 }, inputsOf([along]))).toHaveLength(1);
  });
});

describe('a part of a mended picture', () => {
  it('is that part of the whole, whatever part it is', () => {
    const source = picture(spot);
    const patches = [
      patch({}),
      patch({ id: 'over', kind: 'clone', at: [186, 124, 220, 130], from: [-60, 40], radius: 9 }),
      patch({ id: 'cable', kind: 'cable', at: [10, 20, 350, 170], radius: 5 }),
      patch({ id: 'last', at: [230, 60], from: [-50, 62], radius: 20 })
    ];
    const [inputs, whole] = [inputsOf(patches), mended(source, ...patches)];
    for (const part of [
      { left: 170, top: 110, right: 190, bottom: 130 },
      { left: 181, top: 121, right: 300, bottom: 122 },
      { left: 0, top: 0, right: 120, bottom: 90 },
      { left: 215, top: 40, right: 240, bottom: 77 }
    ]) {
      const lent: PlacedPlanes[] = [];
      const made = changedPart(part, inputs, (rectangle) => {
        const out = takePart(source, rectangle);
        const { left, top } = pixelsOf(source, rectangle);
        for (const name of ['r', 'g', 'b'] as const)
          for (let y = 0; y < out.height; y++)
            for (let x = 0; x < out.width; x++)
              out[name][y * out.width + x] = source[name][(top + y) * SIZE.width + left + x];
        lent.push(out);
        return out;
      });
      for (let y = 0; y < made.height; y++)
        for (let x = 0; x < made.width; x++)
          expect(made.b[y * made.width + x]).toBeCloseTo(
            whole.b[(part.top + y) * SIZE.width + part.left + x],
            5
          );
      givePlanesBack(made);
      lent.forEach(givePlanesBack);
    }
    givePlanesBack(source);
    givePlanesBack(whole);
  });

  it('asks only for what lies on the frame at least in part, even where its source does not', () => {
    const away = [
      patch({ at: [340, 230], from: [400, 300] }),
      patch({ id: 'two', kind: 'clone', at: [6, 4], from: [-90, -700] }),
      patch({ id: 'three', kind: 'cable', at: [-300, -80, 900, 400] })
    ];
    for (const { left, top, right, bottom } of rectanglesFor(
      { left: 0, top: 0, right: SIZE.width, bottom: SIZE.height },
      inputsOf(away)
    )) {
      expect(left).toBeLessThan(Math.min(right, SIZE.width));
      expect(top).toBeLessThan(Math.min(bottom, SIZE.height));
      expect(Math.min(right, bottom)).toBeGreaterThan(0);
    }
  });

  it('looks alike on a picture of half the size', () => {
    const source = picture(spot);
    const small = halve(source);
    const whole = mended(source, patch({ from: [61, 33] }));
    const [made, wanted] = [mended(small, patch({ from: [61, 33] })), halve(whole)];
    let worst = 0;
    for (let at = 0; at < made.g.length; at++) worst = Math.max(worst, Math.abs(made.g[at] - wanted.g[at]));
    expect(worst).toBeLessThan(3 * NOISE);
    for (const each of [source, small, whole, made, wanted]) givePlanesBack(each);
  });
});

describe('the source of a place, found by itself', () => {
  const offsetOf = (
    planes: PlacedPlanes,
    own: Partial<Patch> & { at?: readonly number[]; radius?: number }
  ) => findSource(planes, patch(own), SIZE).map((each) => each * UNIT);

  it('keeps a pattern in step', () => {
    // Courses of twelve pixels, with joints of three.
    const wall: Paint = (_, y) => (y % 12 < 3 ? [0.5, 0.48, 0.45] : [0.45, 0.25, 0.18]);
    const planes = picture(darkened(wall, (x, y) => (Math.hypot(x - 180, y - 120) < 8 ? 0.7 : 0)));
    const [, dy] = offsetOf(planes, {});
    const step = ((dy % 12) + 12) % 12;
    expect(Math.min(step, 12 - step)).toBeLessThan(0.8);
    givePlanesBack(planes);
  });

  it('stays on the sky beside a roof, and holds nothing that lies about there', () => {
    const roof: Paint = (x, y) => (y > 150 ? [0.2, 0.12, 0.1] : sky(x, y));
    // Birds on one side of the spot.
    const birds = darkened(roof, (x, y) =>
      x < 170 && y < 150 && (Math.floor(x / 9) + Math.floor(y / 9)) % 3 === 0 ? 0.5 : 0
    );
    const planes = picture(darkened(birds, (x, y) => (Math.hypot(x - 190, y - 128) < 8 ? 0.7 : 0)));
    const [dx, dy] = offsetOf(planes, { at: [190, 128] });
    expect(128 + dy + 12).toBeLessThan(150);
    expect(190 + dx - 12).toBeGreaterThan(168);
    expect(Math.hypot(dx, dy)).toBeGreaterThan(24);
    givePlanesBack(planes);
  });
});
