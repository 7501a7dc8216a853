/** Noise taken out of frames of the demo camera at a high sensitivity, against the same frames without any. */
import { describe, expect, it } from 'vitest';
import { capture } from '../../../../scenes/camera/capture.ts';
import { mosaicOf } from '../../../../scenes/camera/mosaic-of.ts';
import { srgbEncode } from '../../../colour/srgb-transfer.ts';
import { developBand } from '../../../picture/raw/develop.ts';
import { measureNoise } from '../../../picture/raw/measure-noise.ts';
import type { Mosaic } from '../../../picture/raw/mosaic.ts';
import { halve } from '../../../picture/tile/halve.ts';
import {
  type PlacedPlanes,
  allocatePlanes,
  givePlanesBack,
  placeOn,
  takePlanes
} from '../../../picture/tile/planes.ts';
import { completeRecipe } from '../../../recipe/recipe.ts';
import { takePart } from '../../../picture/tile/sensor-rectangle.ts';
import { type DemoShot, demoShot } from '../../../render/demo-frame.oracle.ts';
import { changeRows, changedPart, changedPicture } from '../../../render/source-planes.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { gaussian, seededRandom } from '../../../math/random.ts';
import { noiseStage } from './noise-stage.ts';
import { type NoiseData, shrinkPlanes } from './shrink-planes.ts';

const EDGE = 1000;
const NOISY = 6400;
/** As good as no noise at all. */
const CLEAN = 0.5;
const PLANES = ['r', 'g', 'b'] as const;

interface Taken {
  planes: PlacedPlanes;
  dataOf(finish: object): readonly NoiseData[] | null;
}

function take({ lit, setup }: DemoShot, iso: number): Taken {
  const mosaic: Mosaic = mosaicOf(capture(lit, { ...setup, iso, dust: false }));
  mosaic.noise = measureNoise(mosaic);
  const planes = placeOn(allocatePlanes(setup.size.width, setup.size.height), setup.size);
  developBand(mosaic, planes, 0, mosaic.height);
  const facts = { noise: mosaic.noise, rendering: 'scene', iso } as const;
  return {
    planes,
    dataOf: (finish) => noiseStage.prepare({ recipe: completeRecipe({ finish }), facts })
  };
}

const stages = (data: readonly NoiseData[]) => data.map((each) => ({ stage: noiseStage.name, data: each }));

/** Peak signal to noise as it is shown, in dB, over columns of a share of the width. */
function likeness(one: PlacedPlanes, other: PlacedPlanes, from = 0, to = 1): number {
  const { width, height } = one;
  let [sum, count] = [0, 0];
  for (const name of PLANES)
    for (let y = 4; y < height - 4; y++)
      for (let x = Math.floor(from * width) + 4; x < to * width - 4; x++) {
        const [a, b] = [one, other].map((of) =>
          srgbEncode(Math.min(1, Math.max(0, of[name][y * width + x])))
        );
        sum += (a - b) ** 2;
        count++;
      }
  return -10 * Math.log10(sum / count);
}

/** Sums of each colour over squares of so many pixels. */
function squares({ width, height, ...planes }: PlacedPlanes, by: number): number[][] {
  const across = Math.floor(width / by);
  return PLANES.map((name) => {
    const sums = new Array<number>(across * Math.floor(height / by)).fill(0);
    for (let y = 0; y < Math.floor(height / by) * by; y++)
      for (let x = 0; x < across * by; x++)
        sums[Math.floor(y / by) * across + Math.floor(x / by)] += planes[name][y * width + x];
    return sums;
  });
}

/** Red, green and blue of the squares of 32 pixels whose green is darker than a level, in those without noise. */
function sharesBelow(planes: PlacedPlanes, clean: PlacedPlanes, level: number): number[] {
  const [own, true_] = [planes, clean].map((of) => squares(of, 32));
  const dark = true_[1].map((sum) => sum / 32 ** 2 < level);
  return PLANES.map((_, c) => {
    const [found, wanted] = [own, true_].map((of) =>
      of[c].reduce((sum, value, i) => sum + (dark[i] ? value : 0), 0)
    );
    return found / wanted;
  });
}

describe('noise', () => {
  it('of ISO 6400 is less by 6 dB and more, and half of it is about the best', () => {
    // Plain walls and books: what is lost of texture counts as much as noise that is left.
    for (const [name, edge, least, darkness] of [
      ['CPR_0011', EDGE, 7.5, 0.02],
      ['CPR_0018', 1.4 * EDGE, 6, 0.04]
    ] as const) {
      const shot = demoShot(name, edge);
      const [clean, noisy] = [take(shot, CLEAN), take(shot, NOISY)];
      const without = (finish: object): number[] => {
        const out = changedPicture(noisy.planes, stages(noisy.dataOf(finish)!));
        const found = [likeness(out, clean.planes), likeness(out, clean.planes, 0, 0.45)];
        // Light stays what it is.
        for (const share of sharesBelow(out, clean.planes, Infinity)) expect(share).toBeCloseTo(1, 2);
        givePlanesBack(out);
        return found;
      };
      const none = likeness(noisy.planes, clean.planes);
      const dark = changedPicture(noisy.planes, stages(noisy.dataOf({ noise: 50, noiseColour: 50 })!));
      // Nor does it turn where there is hardly any.
      for (const share of sharesBelow(dark, clean.planes, darkness))
        expect(Math.abs(share - 1)).toBeLessThan(0.03);
      givePlanesBack(dark);
      const [own, texture] = without({ noise: 50, noiseColour: 50 });
      expect(own - none).toBeGreaterThan(least);
      const others = [
        { noise: 25, noiseColour: 25 },
        { noise: 75, noiseColour: 75 },
        { noise: 100, noiseColour: 50 },
        { noise: 50, noiseColour: 50, noiseDetail: 0 },
        { noise: 50, noiseColour: 50, noiseDetail: 60 }
      ].map(without);
      for (const [all, fine] of others) {
        expect(all - own).toBeLessThan(1);
        expect(fine - texture).toBeLessThan(1);
      }
      // Colour alone leaves light alone.
      const [colour] = without({ noiseColour: 50 });
      expect(colour).toBeGreaterThan(none + 0.4);
      expect(colour).toBeLessThan(none + 3);
      [clean, noisy].forEach(({ planes }) => givePlanesBack(planes));
    }
  });

  it('is taken out alike in bands, at half the size, and hardly anything where there is hardly any', () => {
    const shot = demoShot('CPR_0011', EDGE);
    const [clean, noisy, low] = [take(shot, CLEAN), take(shot, NOISY), take(shot, 100)];
    const data = noisy.dataOf({ noise: 50, noiseColour: 50 })!;
    const whole = changedPicture(noisy.planes, stages(data));
    const banded = { ...noisy.planes, ...takePlanes(whole.width, whole.height) };
    for (const [from, to] of [
      [0, 96],
      [96, 333],
      [333, whole.height]
    ])
      changeRows(noisy.planes, banded, stages(data)[0], from, to);
    const furthest = (one: Float32Array, other: Float32Array): number =>
      one.reduce((most, value, i) => Math.max(most, Math.abs(value - other[i])), 0);
    for (const name of PLANES) expect(furthest(whole[name], banded[name])).toBeLessThan(1e-5);
    // Of a part as much is asked for as it takes, and no more is there.
    const { width } = noisy.planes;
    const rectangle = { left: 301, top: 205, right: 420, bottom: 290 };
    const part = changedPart(rectangle, stages(data), (asked) => {
      const out = takePart(noisy.planes, asked);
      for (const name of PLANES)
        for (let y = 0; y < out.height; y++) {
          const at = (y + out.originY) * width + out.originX;
          out[name].set(noisy.planes[name].subarray(at, at + out.width), y * out.width);
        }
      return out;
    });
    for (const [x, y] of [
      [0, 0],
      [118, 84],
      [60, 3]
    ])
      expect(part.g[y * part.width + x]).toBeCloseTo(whole.g[(y + 205) * width + x + 301], 5);
    // A proxy’s noise is that of its size.
    const [small, smallClean] = [halve(noisy.planes), halve(clean.planes)];
    const out = changedPicture(small, stages(data));
    const before = likeness(small, smallClean);
    expect(likeness(out, smallClean)).toBeGreaterThan(before + 7);
    // What is seen on the bench is what is delivered.
    const wholeHalf = halve(whole);
    expect(likeness(out, wholeHalf)).toBeGreaterThan(48);
    // At ISO 100 there is little to take out, and little is.
    const still = changedPicture(low.planes, stages(low.dataOf({ noise: 50, noiseColour: 50 })!));
    expect(likeness(still, clean.planes)).toBeGreaterThan(likeness(low.planes, clean.planes) + 1);
    expect(likeness(still, low.planes)).toBeGreaterThan(44);
    [whole, banded, part, small, smallClean, out, wholeHalf, still].forEach(givePlanesBack);
    [clean, noisy, low].forEach(({ planes }) => givePlanesBack(planes));
  });

  it('is told at every second pixel as at each, and is alike from part to part of a wide picture', () => {
    const size = { width: 1701, height: 90 };
    const noise = { gain: 2e-4, read: 1e-3 };
    const finish = { noise: 50, noiseColour: 50 };
    const facts = { noise, rendering: 'scene', iso: 1600 } as const;
    const random = seededRandom(3);
    const planes = placeOn(allocatePlanes(size.width, size.height), size);
    // A step, a slope and a fine grid under noise.
    for (const name of PLANES)
      planes[name].forEach((_, i) => {
        const [x, y] = [i % size.width, Math.floor(i / size.width)];
        const light = 0.1 + (x > 700 ? 0.2 : 0) + x / 9000 + (y > 50 ? 0.02 * Math.sin(x * 1.1) : 0);
        planes[name][i] = light + gaussian(random) * Math.sqrt(noise.gain * light);
      });
    const [data] = noiseStage.prepare({ recipe: completeRecipe({ finish }), facts })!;
    const whole = changedPicture(planes, stages([data]));
    // Far enough from its ends, a part asked for alone is what all of the picture has there, where columns meet and elsewhere.
    for (const left of [640, 1450, 1501]) {
      const part = changedPart({ left, top: 0, right: left + 150, bottom: 90 }, stages([data]), () => planes);
      for (const name of PLANES)
        for (let y = 0; y < 90; y++)
          for (let x = 0; x < 150; x++) {
            const [own, other] = [part[name][y * 150 + x], whole[name][y * size.width + left + x]];
            if (Math.abs(own - other) > 5e-5) throw new Error(`${name} ${left + x} ${y}: ${own}, ${other}`);
          }
      givePlanesBack(part);
    }
    const width = 1700;
    const [each, second] = [99, 2].map((fine) =>
      inArena((arena) => {
        const out = [0, 1, 2].map((c) => {
          const plane = arena.float32(width * 90);
          for (let y = 0; y < 90; y++)
            plane.set(planes[PLANES[c]].subarray(y * size.width, y * size.width + width), y * width);
          return plane;
        });
        shrinkPlanes({ width, height: 90, r: out[0], g: out[1], b: out[2] }, 1, data, arena, fine);
        return out.map((plane) => plane.slice());
      })
    );
    let [even, odd, taken] = [0, 0, 0];
    each.forEach((plane, c) =>
      plane.forEach((value, i) => {
        const [x, y] = [i % width, Math.floor(i / width)];
        if (x < 80 || x >= width - 80) return;
        const off = Math.abs(value - second[c][i]);
        // Rows are too few for their ends to be far: both take what is beyond for the last of their own.
        if (x % 2 === 0 && y % 2 === 0) even += off;
        else odd = Math.max(odd, off);
        taken += Math.abs(value - planes[PLANES[c]][y * size.width + x]);
      })
    );
    expect(even / (taken / 4)).toBeLessThan(0.02);
    expect(odd).toBeLessThan(0.01);
    [planes, whole].forEach(givePlanesBack);
  });

  it('is left alone unless it is asked for', () => {
    const facts = { noise: null, rendering: 'scene', iso: 6400 } as const;
    const of = (finish: object) => noiseStage.prepare({ recipe: completeRecipe({ finish }), facts });
    expect(of({})).toBeNull();
    expect(of({ noiseDetail: 80 })).toBeNull();
    expect(of({ enabled: false, noise: 50 })).toBeNull();
    expect(of({ noise: 1 })).toHaveLength(1);
  });
});
