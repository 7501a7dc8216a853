import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { type LensModel, distort, lensModel, NO_DISTORTION } from '../../optics/lens-model.ts';
import { gaussian, seededRandom } from '../../math/random.ts';
import type { Mark } from './mark.ts';
import { type KnownRectangle, rectangleReading } from './known-rectangle.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply, transpose } from '../../math/matrix3.ts';
import { type TracedMark, solveTogether } from './solve-together.ts';

const random = seededRandom(4107);
const between = (low: number, high: number): number => low + (high - low) * random();
const PIXEL = 1 / 3606;
const SIZE = { width: 6000, height: 4000 };
const NONE: Angles = { roll: 0, pitch: 0, yaw: 0 };

interface Camera {
  angles: Angles;
  focal: number;
  model: LensModel;
}

/** Where the camera sees a point (x right, y down, z away) of the upright world; null when outside the frame. */
function see({ angles, focal, model }: Camera, world: Vector3): Point | null {
  const [x, y, z] = apply(transpose(rotationFromAngles(angles)), world);
  if (z < 0.1) return null;
  const place = distort([(focal * x) / z, (focal * y) / z], model);
  return Math.abs(place[0]) < 0.832 && Math.abs(place[1]) < 0.555 ? place : null;
}

/** A world edge as traced on the picture, with the samples' noise in pixels; null when hardly visible. */
function traced(
  camera: Camera,
  p: Vector3,
  q: Vector3,
  look: Pick<Mark, 'kind' | 'recedes'>,
  noise: number,
  samples = 24
): TracedMark | null {
  const points: Point[] = [];
  for (let i = 0; i < 200; i++) {
    const t = i / 199;
    const place = see(camera, [0, 1, 2].map((n) => p[n] + (q[n] - p[n]) * t) as Vector3);
    if (place) points.push(place);
  }
  if (points.length < samples) return null;
  const thin = Array.from({ length: samples }, (_, i): Point => {
    const [x, y] = points[Math.round((i * (points.length - 1)) / (samples - 1))];
    return [x + gaussian(random) * noise * PIXEL, y + gaussian(random) * noise * PIXEL];
  });
  const [a, b] = [thin[0], thin[samples - 1]];
  if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 0.15) return null;
  return { mark: { id: String(random()), ...look, a, b }, points: thin };
}

/** Edges of a front that faces the upright camera, and of a side that runs away from it on the left. */
function building(camera: Camera, noise: number, samples = 24): TracedMark[] {
  const lines: (TracedMark | null)[] = [];
  for (let i = 0; i < 9; i++) {
    const x = -6 + i * 1.6;
    lines.push(traced(camera, [x, 3, 9], [x, -7, 9], { kind: 'plumb' }, noise, samples));
  }
  for (let i = 0; i < 7; i++) {
    const y = 2 - i * 1.4;
    lines.push(traced(camera, [-6, y, 9], [7, y, 9], { kind: 'level' }, noise, samples));
    lines.push(traced(camera, [-6, y, 9], [-6, y, 1], { kind: 'level', recedes: 'left' }, noise, samples));
  }
  return lines.filter((line) => line !== null);
}

const randomCamera = (k1: number): Camera => {
  const focal = between(0.75, 1.6);
  return {
    angles: { roll: between(-4, 4), pitch: between(3, 16), yaw: between(-20, 20) },
    focal,
    model: k1 === 0 ? NO_DISTORTION : lensModel({ terms: [0, k1] })
  };
};

describe('focal length from directions at right angles', () => {
  it('comes out within 2 % with marks of 1 px, and so do the proportions of the front', () => {
    const proportions: number[] = [];
    const focals: number[] = [];
    for (let n = 0; n < 60; n++) {
      const camera = randomCamera(0);
      const lines = building(camera, 1, 2);
      const solved = solveTogether(lines, {
        focal: 1.29,
        model: NO_DISTORTION,
        start: NONE,
        solveFocal: true
      });
      if (!solved.ok) continue;
      focals.push(Math.abs(solved.focal / camera.focal - 1));
      const corners = (
        [
          [-2, 1, 9],
          [2, 1, 9],
          [2, -2, 9],
          [-2, -2, 9]
        ] as Vector3[]
      ).map((corner) => {
        const [x, y, z] = apply(transpose(rotationFromAngles(camera.angles)), corner);
        return [(camera.focal * x) / z, (camera.focal * y) / z] as Point;
      });
      const reading = rectangleReading(
        { corners: [corners[3], corners[2], corners[1], corners[0]], ratio: 4 / 3 },
        { size: SIZE, focal: solved.focal, model: NO_DISTORTION, rotation: rotationFromAngles(solved.angles) }
      )!;
      proportions.push(Math.abs(reading.error));
    }
    expect(focals.length).toBeGreaterThan(30);
    expect(focals.filter((off) => off < 0.02).length / focals.length).toBeGreaterThan(0.9);
    expect(proportions.filter((off) => off < 2).length / proportions.length).toBeGreaterThan(0.95);
  });

  it('is refused where the marks do not tell it', () => {
    const camera: Camera = { angles: NONE, focal: 1.1, model: NO_DISTORTION };
    const lines = building(camera, 1, 2).filter(({ mark }) => !mark.recedes);
    const solved = solveTogether(lines, { focal: 1.29, model: NO_DISTORTION, start: NONE, solveFocal: true });
    expect(solved).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/do not tell the focal length/)
    });
    const plumbOnly = solveTogether(
      building(randomCamera(0), 1, 2).filter(({ mark }) => mark.kind === 'plumb'),
      { focal: 1.29, model: NO_DISTORTION, start: NONE, solveFocal: true }
    );
    expect(plumbOnly).toMatchObject({ ok: false, reason: expect.stringMatching(/two level lines/) });
  });
});

describe('an unknown lens', () => {
  it('is straightened together with the rotation from the same marks', () => {
    let good = 0;
    for (let n = 0; n < 40; n++) {
      const camera = randomCamera(between(-0.12, 0.05));
      const solved = solveTogether(building(camera, 0.3), {
        focal: camera.focal,
        model: NO_DISTORTION,
        start: NONE,
        solveLens: true
      });
      if (!solved.ok) throw new Error(solved.reason);
      expect(solved.after).toBeLessThan(0.5 * PIXEL);
      const turned = rotationFromAngles(solved.angles);
      const true2 = rotationFromAngles(camera.angles);
      const off = Math.max(...turned.map((value, i) => Math.abs(value - true2[i]))) * (180 / Math.PI);
      if (off < 0.1) good++;
    }
    expect(good).toBeGreaterThanOrEqual(38);
  });

  it('is told even from plumb marks with nothing but two ends each', () => {
    const camera: Camera = {
      angles: { roll: 1, pitch: 12, yaw: 0 },
      focal: 1,
      model: lensModel({ terms: [0, -0.09] })
    };
    const lines = building(camera, 0.2, 2).filter(({ mark }) => !mark.recedes);
    const solved = solveTogether(lines, { focal: 1, model: NO_DISTORTION, start: NONE, solveLens: true });
    if (!solved.ok) throw new Error(solved.reason);
    expect(solved.terms[1]).toBeCloseTo(-0.09, 2);
    expect(solved.angles.pitch).toBeCloseTo(12, 0);
  });
});

describe('a known rectangle', () => {
  it('gives rotation and focal length by itself', () => {
    for (let n = 0; n < 20; n++) {
      const camera = randomCamera(0);
      const upright: Vector3[] = [
        [-1.5, -2, 6],
        [1.2, -2, 6],
        [1.2, 1.5, 6],
        [-1.5, 1.5, 6]
      ];
      const back = transpose(rotationFromAngles(camera.angles));
      const corners = upright.map((corner) => {
        const [x, y, z] = apply(back, corner);
        return [(camera.focal * x) / z, (camera.focal * y) / z] as Point;
      }) as KnownRectangle['corners'];
      const rectangle = { corners, ratio: 2.7 / 3.5 };
      const solved = solveTogether([], {
        focal: 1.29,
        model: NO_DISTORTION,
        start: NONE,
        solveFocal: true,
        rectangle
      });
      if (!solved.ok) continue;
      const rotation = rotationFromAngles(solved.angles);
      const reading = rectangleReading(rectangle, {
        size: SIZE,
        focal: solved.focal,
        model: NO_DISTORTION,
        rotation
      });
      expect(Math.abs(reading!.error)).toBeLessThan(0.1);
      expect(solved.focal).toBeCloseTo(camera.focal, 2);
    }
  });
});
