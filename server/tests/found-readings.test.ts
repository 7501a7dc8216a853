/** Readings without marks, of frames by the demo camera, which knows its turns, its lens and its bows. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Point, halfDiagonal, sensorToField } from '../../core/math/frame-geometry.ts';
import { rotationFromAngles } from '../../core/math/rotation.ts';
import { type LensModel, NO_DISTORTION, lensModel, undistort } from '../../core/optics/lens-model.ts';
import { givePlanesBack } from '../../core/picture/tile/planes.ts';
import type { GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import type { Projection } from '../../core/picture/geometry/projection.ts';
import { type LookedAt, lookAtPicture } from '../../core/render/readings/found-evidence.ts';
import { anglesOf, straightOf } from '../../core/render/readings/measure.ts';
import { angleText, straightText } from '../../core/render/readings/reading-text.ts';
import { type Lens, setupLens } from '../../scenes/camera/capture.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { realPhotograph } from '../../scenes/real-photograph.ts';
import { clippedGreen, developedFrame } from './developed-frame.ts';

const FILES = ['CPR_0003.dng', 'SML_0101.dng', 'CPR_0011.dng', 'SML_0107.dng'];
const DEGREES = 180 / Math.PI;

interface Taken {
  plane: GreyPlane;
  lens: Lens;
  /** Vanishing point of what is plumb, in undistorted field positions; its direction where it lies far off. */
  nadir: readonly [number, number, number];
}
const taken = new Map<string, Taken>();

async function take(file: string): Promise<Taken> {
  const frame = DEMO_FRAMES.find((each) => each.file === file)!;
  const planes = await developedFrame(frame, 1200);
  const plane = clippedGreen(planes);
  givePlanesBack(planes);
  const lens = setupLens(setupAt(frame, 1200));
  const r = rotationFromAngles(frame.setup.angles);
  return {
    plane,
    lens,
    nadir: [r[3] * lens.focal, r[4] * lens.focal, r[5]]
  };
}

const looks = ({ plane, lens }: Taken, model: LensModel): LookedAt =>
  lookAtPicture(plane, {
    model,
    toField: (place) => sensorToField(place, plane),
    focal: lens.focal,
    focalKnown: true
  });

const projectionOf = ({ plane, lens }: Taken, model: LensModel): Projection =>
  ({
    size: plane,
    focal: lens.focal,
    model,
    rotation: rotationFromAngles({ roll: 0, pitch: 0, yaw: 0 })
  }) as Projection;

beforeAll(async () => {
  for (const file of FILES) taken.set(file, await take(file));
});
afterAll(() => taken.clear());

describe('a frame that nobody marked', () => {
  it.each(FILES)('says how far it leans, within what it says of that: %s', (file) => {
    const frame = taken.get(file)!;
    const { model } = frame.lens;
    const { evidence } = looks(frame, model);
    const told = anglesOf('plumb', { marks: [], found: evidence }, projectionOf(frame, model))!;
    // The same lines, each with the lean that the camera's turn gives it where it stands.
    let [total, sum] = [0, 0];
    for (const { kind, a, b } of evidence.marks) {
      if (kind !== 'plumb') continue;
      const [p, q] = [undistort(a, model), undistort(b, model)];
      const [x, y] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
      const [vx, vy, vz] = frame.nadir;
      const lean = Math.atan((vx - x * vz) / (vy - y * vz)) * DEGREES;
      const length = Math.hypot(p[0] - q[0], p[1] - q[1]);
      total += length;
      sum += length * lean * lean;
    }
    const truth = Math.sqrt(sum / total);
    expect(truth).toBeGreaterThan(0.3);
    expect(Math.abs(told.rms - truth)).toBeLessThan(2 * told.found!.error);
    expect(told.found!.error).toBeLessThan(0.5);
    expect(angleText(told)).toMatch(/^\d+\.\d\d° ±0\.\d+ found$/);
  });

  it('says how far its edges bow, and that they hardly do once the lens is undone', () => {
    const frame = taken.get('CPR_0003.dng')!;
    const unit = halfDiagonal(frame.plane);
    for (const [bow, undone] of [
      [0, true],
      [0.02, false],
      [-0.02, false]
    ] as const) {
      // A plain bow beyond the lens that is known: what lies at radius r is photographed at r (1 + bow r²).
      const seen: LensModel = undone ? frame.lens.model : leftOver(frame.lens.model, bow);
      const { evidence } = looks(frame, seen);
      const told = straightOf({ curves: [], found: evidence }, projectionOf(frame, seen))!;
      const truth =
        bowsOf(
          evidence.curves.map(({ points }) => points),
          frame.lens.model,
          seen
        ) * unit;
      expect(Math.abs(told.rms - truth)).toBeLessThan(2 * told.found!.error + 0.15);
      if (undone) expect(told.rms).toBeLessThan(0.3);
      else expect(told.rms).toBeGreaterThan(0.4);
      expect(straightText(told)).toMatch(/ px ±\d\.\d+ found$/);
    }
  });

  it('shows what is marked as soon as something is', () => {
    const frame = taken.get('CPR_0003.dng')!;
    const { evidence } = looks(frame, frame.lens.model);
    const mark = { id: 'a', kind: 'plumb' as const, a: [0, -0.3] as Point, b: [0.03, 0.3] as Point };
    const marked = anglesOf('plumb', { marks: [mark], found: evidence }, projectionOf(frame, NO_DISTORTION))!;
    expect(marked.found).toBeUndefined();
    expect(marked.count).toBe(1);
    expect(angleText(marked)).not.toContain('found');
  });
});

describe('a photograph without buildings', () => {
  it.each([
    ['pictures', 'flower.jpg'],
    ['boards', 'fruits.jpg'],
    ['backgrounds', 'seeding_by_Clements_Engelhardt.jpg']
  ] as const)('has no readings of lines: %s %s', async (from, name) => {
    const plane = await realPhotograph(from, name);
    const { evidence } = lookAtPicture(plane, {
      model: NO_DISTORTION,
      toField: (place) => sensorToField(place, plane),
      focal: 1.3,
      focalKnown: true
    });
    expect(evidence.marks).toEqual([]);
    expect(evidence.curves).toEqual([]);
  });
});

/** A lens of which a plain bow is left when it is taken for the one that is told. */
function leftOver(model: LensModel, bow: number): LensModel {
  const terms = [...model.terms];
  while (terms.length < 2) terms.push(0);
  terms[1] += bow;
  return lensModel({ ...model, terms });
}

/**
 * RMS distance from straight, in field units, that edges straight in truth have when `seen` is undone in place of `lens`.
 * Each edge is taken as the straight line between its ends by the true lens.
 */
function bowsOf(edges: readonly (readonly Point[])[], lens: LensModel, seen: LensModel): number {
  let [sum, count] = [0, 0];
  const unlike = (ideal: Point): Point => {
    // Where the true lens puts a point, found by a search of its own, and what the other makes of it.
    let at: Point = ideal;
    for (let i = 0; i < 60; i++) {
      const back = undistort(at, lens);
      at = [at[0] + (ideal[0] - back[0]) * 0.8, at[1] + (ideal[1] - back[1]) * 0.8];
    }
    return undistort(at, seen);
  };
  for (const points of edges) {
    const [a, b] = [undistort(points[0], lens), undistort(points[points.length - 1], lens)];
    const shown = Array.from({ length: 16 }, (_, i): Point =>
      unlike([a[0] + ((b[0] - a[0]) * i) / 15, a[1] + ((b[1] - a[1]) * i) / 15])
    );
    const mean = [0, 1].map((c) => shown.reduce((total, p) => total + p[c], 0) / shown.length);
    let [xx, xy, yy] = [0, 0, 0];
    for (const [x, y] of shown) {
      xx += (x - mean[0]) ** 2;
      xy += (x - mean[0]) * (y - mean[1]);
      yy += (y - mean[1]) ** 2;
    }
    sum += Math.max(0, (xx + yy - Math.hypot(xx - yy, 2 * xy)) / 2);
    count += shown.length;
  }
  return Math.sqrt(sum / count);
}
