import fc from 'fast-check';
import { seededRandom } from '../math/random.ts';
import type { View } from '../picture/tile/mesh.ts';
import { describe, expect, it } from 'vitest';
import type { Mark } from '../steps/lines/mark.ts';
import { lensModel } from '../optics/lens-model.ts';
import { rotationFromAngles } from '../math/rotation.ts';
import { IDENTITY } from '../math/matrix3.ts';
import { completeRecipe } from '../recipe/recipe.ts';
import { buildMesh } from '../picture/geometry/build-mesh.ts';
import { takeUint8 } from '../picture/kernels/heap.ts';
import { pyramid } from '../picture/tile/halve.ts';
import { cropView, limitedSize, planFrame } from './plan.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import { type PlacedPlanes, allocatePlanes } from '../picture/tile/planes.ts';
import {
  type Projection,
  fieldToUpright,
  sensorMapper,
  sensorToUpright,
  uprightToSensor
} from '../picture/geometry/projection.ts';
import { type ValidPlanes, resample } from '../picture/geometry/resample.ts';
import { NO_DISTORTION } from '../optics/lens-model.ts';
import { type Evidence, measureReadings } from './readings/measure.ts';

const size24 = { width: 6000, height: 4000 };
const projection = fc
  .record({
    roll: fc.double({ min: -10, max: 10, noNaN: true }),
    pitch: fc.double({ min: -30, max: 30, noNaN: true }),
    yaw: fc.double({ min: -30, max: 30, noNaN: true }),
    focal: fc.double({ min: 0.6, max: 3, noNaN: true }),
    k1: fc.double({ min: -0.1, max: 0.06, noNaN: true })
  })
  .map(({ roll, pitch, yaw, focal, k1 }): Projection => ({
    size: size24,
    focal,
    model: lensModel({ terms: [0, k1, 0, k1 * -0.3] }),
    rotation: rotationFromAngles({ roll, pitch, yaw })
  }));
const optics: FrameOptics = { size: size24, focal: 1.1, focalFrom: 'file' };

/** A smooth pattern over the sensor, by sensor position. */
const pattern = (x: number, y: number): number => 0.5 + 0.3 * Math.sin(x / 9) * Math.cos(y / 11);

function patternPlanes(width: number, height: number): PlacedPlanes {
  const planes = allocatePlanes(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const value = pattern(x + 0.5, y + 0.5);
      planes.r[y * width + x] = planes.g[y * width + x] = planes.b[y * width + x] = value;
    }
  }
  return { ...planes, originX: 0, originY: 0, scaleX: 1, scaleY: 1 };
}

const validPlanes = (width: number, height: number): ValidPlanes => ({
  ...allocatePlanes(width, height),
  valid: takeUint8(width * height)
});

describe('composed map', () => {
  it('leads there and back within 0.001 px', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(projection, share, share, (p, u, v) => {
        const upright = sensorToUpright([u * 6000, v * 4000], p);
        fc.pre(upright !== null);
        const back = uprightToSensor(upright!, p)!;
        expect(Math.hypot(back[0] - u * 6000, back[1] - v * 4000)).toBeLessThan(0.001);
      }),
      { numRuns: 500 }
    );
  });

  /** Half of the crop of an untouched frame, seen by another projection. */
  function halfCrop({ focal }: Projection): View {
    const { crop } = planFrame({ size: size24, focal, focalFrom: 'file' }, completeRecipe(), null);
    const half = { ...crop, width: crop.width / 2, height: crop.height / 2 };
    return cropView(half, { width: 3000, height: 2000 });
  }
  /** Largest error of the mesh, in sensor pixels, at places of a view that show the frame; and how many of them do. */
  function worstOf(p: Projection, places: Iterable<[number, number]>): { worst: number; seen: number } {
    const view = halfCrop(p);
    const mesh = buildMesh(p, view);
    const map = sensorMapper(p);
    const out = new Float64Array(3);
    let [worst, seen] = [0, 0];
    for (const [x, y] of places) {
      const column = Math.floor(x / mesh.step);
      const row = Math.floor(y / mesh.step);
      const [fx, fy] = [x / mesh.step - column, y / mesh.step - row];
      const i = row * mesh.columns + column;
      const mix = (a: Float32Array): number =>
        (a[i] * (1 - fx) + a[i + 1] * fx) * (1 - fy) +
        (a[i + mesh.columns] * (1 - fx) + a[i + mesh.columns + 1] * fx) * fy;
      map(view.left + x * view.pixel, view.top + y * view.pixel, out);
      if (!(out[0] > 0 && out[1] > 0 && out[0] < 6000 && out[1] < 4000)) continue;
      seen++;
      const error = Math.hypot(mix(mesh.x) - out[0], mix(mesh.y) - out[1]);
      // What is no number is worse than any.
      worst = Math.max(worst, Number.isNaN(error) ? Infinity : error);
    }
    return { worst, seen };
  }

  it('is interpolated on its mesh within 0.02 px at 24 MP, everywhere in the crop', () => {
    fc.assert(
      fc.property(projection, fc.integer({ min: 1, max: 1e6 }), (p, seed) => {
        const random = seededRandom(seed);
        const places = Array.from({ length: 200 }, (): [number, number] => [
          random() * 2990,
          random() * 1990
        ]);
        expect(worstOf(p, places).worst).toBeLessThan(0.02);
      }),
      { numRuns: 40 }
    );
  });

  it('is so where a last corner of the frame alone is seen, between cells that are not looked at', () => {
    const p: Projection = {
      size: size24,
      focal: 1.583405800536275,
      model: lensModel({ terms: [0, 0.015291829593479633, 0, -0.00458754887804389] }),
      rotation: rotationFromAngles({ roll: 1.026604506187141, pitch: -30, yaw: -13.414849396795034 })
    };
    const places = function* (): Generator<[number, number]> {
      for (let y = 1500; y < 1990; y += 7) for (let x = 0; x < 2990; x += 11) yield [x + 0.3, y + 0.6];
    };
    const { worst, seen } = worstOf(p, places());
    expect(seen).toBeGreaterThan(40);
    expect(worst).toBeLessThan(0.02);
  });
});

describe('resampling', () => {
  const source = patternPlanes(600, 400);
  const small = { width: 600, height: 400 };

  it('returns the source where nothing is to be done', () => {
    const plan = planFrame({ size: small, focal: 1.1, focalFrom: 'file' }, completeRecipe(), null);
    const mesh = buildMesh(
      plan.projection,
      cropView(
        { x: 0, y: 0, width: 600 / (Math.hypot(600, 400) / 2), height: 400 / (Math.hypot(600, 400) / 2) },
        small
      )
    );
    const out = validPlanes(600, 400);
    resample(source, mesh, out);
    let worst = 0;
    for (let i = 0; i < out.g.length; i++) worst = Math.max(worst, Math.abs(out.g[i] - source.g[i]));
    expect(worst).toBeLessThan(2e-3);
  });

  it('puts a turned and undistorted pattern where the map says, and blanks what is outside', () => {
    const p: Projection = {
      size: small,
      focal: 1.1,
      model: lensModel({ terms: [0, -0.06] }),
      rotation: rotationFromAngles({ roll: 3, pitch: 6, yaw: -4 })
    };
    const unit = Math.hypot(600, 400) / 2;
    const view = { left: -1, top: -0.7, pixel: 1 / unit, width: 700, height: 480 };
    const out = validPlanes(700, 480);
    resample(source, buildMesh(p, view), out);
    const map = sensorMapper(p);
    const at = new Float64Array(3);
    let blanks = 0;
    for (let y = 0; y < 480; y += 3) {
      for (let x = 0; x < 700; x += 3) {
        map(view.left + (x + 0.5) * view.pixel, view.top + (y + 0.5) * view.pixel, at);
        const value = out.g[y * 700 + x];
        const [sx, sy] = at;
        if (sx < -0.1 || sy < -0.1 || sx > 600.1 || sy > 400.1) {
          expect(out.valid[y * 700 + x]).toBe(0);
          expect(value).toBe(0);
          blanks++;
        } else if (sx > 3 && sy > 3 && sx < 597 && sy < 397) {
          expect(out.valid[y * 700 + x]).toBe(1);
          expect(Math.abs(value - pattern(sx, sy))).toBeLessThan(0.004);
        }
      }
    }
    expect(blanks).toBeGreaterThan(500);
  });

  it('averages when it reduces: fine stripes become grey, at any stage of the pyramid', () => {
    const stripes = patternPlanes(512, 512);
    for (let i = 0; i < stripes.g.length; i++) stripes.g[i] = stripes.r[i] = stripes.b[i] = i & 1;
    const square = { width: 512, height: 512 };
    const p: Projection = { size: square, focal: 1, model: NO_DISTORTION, rotation: IDENTITY };
    const unit = Math.hypot(512, 512) / 2;
    for (const [level, to] of [
      [0, 140],
      [1, 100],
      [1, 190]
    ]) {
      const view = { left: -256 / unit, top: -256 / unit, pixel: 512 / to / unit, width: to, height: to };
      const out = validPlanes(to, to);
      resample(pyramid(stripes, 64)[level], buildMesh(p, view), out);
      let worst = 0;
      for (let y = 4; y < to - 4; y++) {
        for (let x = 4; x < to - 4; x++) worst = Math.max(worst, Math.abs(out.g[y * to + x] - 0.5));
      }
      expect(worst).toBeLessThan(0.02);
    }
  });

  it('gives bands the same pixels as the whole', () => {
    const p: Projection = {
      size: small,
      focal: 1.1,
      model: lensModel({ terms: [0, -0.05] }),
      rotation: rotationFromAngles({ roll: 1, pitch: 5, yaw: 0 })
    };
    const view = { left: -0.5, top: -0.4, pixel: 1 / 360, width: 300, height: 256 };
    const whole = validPlanes(300, 256);
    resample(source, buildMesh(p, view), whole);
    const band = validPlanes(300, 64);
    resample(source, buildMesh(p, { ...view, top: view.top + 128 * view.pixel, height: 64 }), band);
    for (let i = 0; i < band.g.length; i++)
      expect(Math.abs(band.g[i] - whole.g[128 * 300 + i])).toBeLessThan(2e-3);
  });
});

const evidence = (marks: Mark[]): Evidence => ({ marks, curves: [], edges: null });

describe('plan and readings', () => {
  it('is neutral for an empty recipe', () => {
    const plan = planFrame(optics, completeRecipe(), null);
    expect(plan.output).toEqual(size24);
    const readings = measureReadings(plan, optics, evidence([]));
    expect(readings).toMatchObject({
      plumb: null,
      level: null,
      falloff: null,
      cover: 100,
      proportion: 'known focal length'
    });
    expect(readings.sampling).toBeCloseTo(1, 6);
  });

  it('holds back a share of the correction', () => {
    const mark = {
      id: 'm',
      kind: 'plumb' as const,
      a: [0.5, -0.4] as [number, number],
      b: [0.55, 0.4] as [number, number]
    };
    const plumbAt = (holdBackPitch: number): number => {
      const recipe = completeRecipe({ lines: { pitch: 8, holdBackPitch, marks: [mark] } });
      const plan = planFrame(optics, recipe, null);
      return measureReadings(plan, optics, evidence([mark])).plumb!.worst;
    };
    const asShot = measureReadings(planFrame(optics, completeRecipe(), null), optics, evidence([mark])).plumb!
      .worst;
    expect(plumbAt(100)).toBeCloseTo(asShot, 9);
    expect(Math.abs(plumbAt(50) - (plumbAt(0) + asShot) / 2)).toBeLessThan(0.3);
  });

  it('has no blank pixel in the output of random corrections, and says when a crop had to move', () => {
    fc.assert(
      fc.property(projection, (p) => {
        const facts: FrameOptics = { size: size24, focal: p.focal, focalFrom: 'assumed' };
        const recipe = completeRecipe({
          lines: { roll: 4, pitch: 12, yaw: -8 },
          crop: { ratio: '4:3', rectangle: { x: 0.2, y: 0.1, width: 1.6, height: 1.2 } }
        });
        const plan = planFrame(facts, recipe, {
          projection: 'rectilinear',
          distortion: p.model,
          realFocalLength: null,
          lateral: null,
          shading: null,
          softness: null,
          notices: []
        });
        const readings = measureReadings(plan, facts, evidence([]));
        expect(readings.cover).toBe(100);
        expect(plan.cropMoved).toBe(true);
        expect(readings.proportion).toBe('assumed');
      }),
      { numRuns: 40 }
    );
  });

  it('limits the long edge without enlarging', () => {
    expect(limitedSize(size24, 3000)).toEqual({ width: 3000, height: 2000 });
    expect(limitedSize({ width: 4000, height: 6000 }, 1500)).toEqual({ width: 1000, height: 1500 });
    expect(limitedSize(size24, 9000)).toEqual(size24);
    expect(limitedSize(size24, null)).toEqual(size24);
  });

  it('keeps field positions through any projection', () => {
    const plan = planFrame(optics, completeRecipe({ lines: { roll: 2, pitch: 9 } }), null);
    const upright = fieldToUpright([0.3, -0.2], plan.projection)!;
    const sensor = uprightToSensor(upright, plan.projection)!;
    expect(sensor[0]).toBeCloseTo(3000 + 0.3 * (Math.hypot(6000, 4000) / 2), 6);
  });
});
