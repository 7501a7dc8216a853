/** Frames of the demo camera that show little that is upright, against how the camera was held. */
import { describe, expect, it } from 'vitest';
import { setupLens } from '../../../scenes/camera/capture.ts';
import { type Point, sensorToField } from '../../math/frame-geometry.ts';
import { greyOf } from '../../measure/edges/grey-of.ts';
import { givePlanesBack } from '../../picture/tile/planes.ts';
import { demoShot, developShot } from '../../render/demo-frame.oracle.ts';
import { lookForLines } from './look-for-lines.ts';

function lookAt(name: string, edge: number) {
  const shot = demoShot(name, edge);
  const planes = developShot(shot);
  const { model, focal } = setupLens(shot.setup);
  const toField = (place: Point): Point => sensorToField(place, shot.setup.size);
  const found = lookForLines(greyOf(planes), { model, toField, focal, focalKnown: true });
  givePlanesBack(planes);
  return { found, held: shot.setup.angles };
}

describe('a frame with few upright lines', () => {
  it('is trued up where they agree: a terrace', { timeout: 120_000 }, () => {
    const { found, held } = lookAt('SML_0116', 1400);
    if (!found.ok) throw new Error(found.reason);
    expect(Math.abs(found.angles.roll - held.roll)).toBeLessThan(0.1);
    expect(Math.abs(found.angles.pitch - held.pitch)).toBeLessThan(0.2);
  });
});
