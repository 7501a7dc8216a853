/** Verticals where much is in the way: leaning walls, railings, people, vans, a tower to one side, a far horizon over water. */
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { sensorToField } from '../../core/math/frame-geometry.ts';
import { rotationFromAngles } from '../../core/math/rotation.ts';
import { NO_DISTORTION } from '../../core/optics/lens-model.ts';
import { givePlanesBack } from '../../core/picture/tile/planes.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { srgbDecode } from '../../core/colour/srgb-transfer.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { type LookForLinesOptions, lookForLines } from '../../core/steps/lines/look-for-lines.ts';
import type { TrueUpItself } from '../../core/steps/lines/true-up-itself.ts';
import type { GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import { setupLens } from '../../scenes/camera/capture.ts';
import { inCameraJpeg } from '../../scenes/camera/in-camera-jpeg.ts';
import { type DemoFrame, setupAt } from '../../scenes/demo-frames.ts';
import { harderFrames } from '../../scenes/harder-frames.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { clippedGreen, developedFrame } from './developed-frame.ts';

const LONG = 900;
const DEGREES = 180 / Math.PI;

interface Taken {
  frame: DemoFrame;
  plane: GreyPlane;
  jpeg: Buffer;
}
const taken: Taken[] = [];

beforeAll(async () => {
  for (const frame of harderFrames(5)) {
    const planes = await developedFrame(frame, LONG);
    taken.push({ frame, plane: clippedGreen(planes), jpeg: await inCameraJpeg(planes) });
    givePlanesBack(planes);
  }
});

const look = (plane: GreyPlane, options: Omit<LookForLinesOptions, 'toField'>): TrueUpItself =>
  lookForLines(plane, { ...options, toField: (place) => sensorToField(place, plane) });

/**
 * Degrees between where plumb lines meet, as found and in truth: the turn itself where the focal length is known, else as it
 * would be with the true one.
 */
function off({ angles }: Extract<TrueUpItself, { ok: true }>, { setup }: DemoFrame, used: number): number {
  const { focal } = setupLens(setupAt({ setup } as DemoFrame, LONG));
  const down = (of: { roll: number; pitch: number }, by: number): number[] => {
    const r = rotationFromAngles({ ...of, yaw: 0 });
    const ray = [(r[3] * by) / focal, (r[4] * by) / focal, r[5]];
    const length = Math.hypot(...ray);
    return ray.map((value) => value / length);
  };
  const [p, q] = [down(angles, used), down(setup.angles, focal)];
  return Math.acos(Math.min(1, p[0] * q[0] + p[1] * q[1] + p[2] * q[2])) * DEGREES;
}

describe('a quay with much in the way', () => {
  it('is told as far as its own walls agree, with an error that says so', () => {
    let told = 0;
    for (const { frame, plane } of taken) {
      const { model, focal } = setupLens(setupAt(frame, LONG));
      const found = look(plane, { model, focal, focalKnown: true });
      if (!found.ok) continue;
      told++;
      const error = off(found, frame, focal);
      // Its walls lean by 0.4° to either side: so far nothing tells which of them is plumb.
      expect(error).toBeLessThan(1.5);
      expect(error).toBeLessThan(3 * Math.hypot(found.rollError, found.pitchError));
    }
    expect(told).toBeGreaterThanOrEqual(4);
  });

  it('is told from the camera’s own JPEG, which says nothing of lens or focal length, with a wider error', async () => {
    let told = 0;
    let wider = 0;
    for (const { frame, plane, jpeg } of taken) {
      const decoded = await decodeFile(jpeg, 'in-camera.jpg');
      expect(decoded.facts).toMatchObject({ lens: null, focalLength: null, focalLength35: null });
      const { optics, profile } = setupFrame(decoded.facts, completeRecipe().lens, { auto: null, known: [] });
      expect(profile).toBeNull();
      expect(optics.focalFrom).toBe('assumed');
      const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
      const grey = Float32Array.from({ length: info.width * info.height }, (_, i) =>
        srgbDecode(data[i * info.channels + 1] / 255)
      );
      const found = look(
        { width: info.width, height: info.height, data: grey },
        { model: NO_DISTORTION, focal: optics.focal, focalKnown: false }
      );
      if (!found.ok) continue;
      told++;
      const error = off(found, frame, found.solvedFocal ?? optics.focal);
      expect(error).toBeLessThan(found.confidence === 'sure' ? 1.5 : 2.5);
      const { model, focal } = setupLens(setupAt(frame, LONG));
      const known = look(plane, { model, focal, focalKnown: true });
      if (known.ok && found.rollError + found.pitchError >= known.rollError + known.pitchError) wider++;
    }
    expect(told).toBeGreaterThanOrEqual(4);
    expect(wider).toBeGreaterThan(told / 2);
  });
});
