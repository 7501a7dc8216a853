/** A frame of the demo camera that shows little that is upright, against how the camera was held. */
import { describe, expect, it } from 'vitest';
import { setupLens } from '../../../scenes/camera/capture.ts';
import { type Point, sensorToField } from '../../math/frame-geometry.ts';
import { greyOf } from '../../measure/edges/grey-of.ts';
import { givePlanesBack } from '../../picture/tile/planes.ts';
import { demoShot, developShot } from '../../render/demo-frame.oracle.ts';
import { lookForLines } from './look-for-lines.ts';

describe('a frame with few upright lines', () => {
  it('is trued up where they agree: a terrace', () => {
    const shot = demoShot('SML_0116', 1400);
    const planes = developShot(shot);
    const { model, focal } = setupLens(shot.setup);
    const toField = (place: Point): Point => sensorToField(place, shot.setup.size);
    const found = lookForLines(greyOf(planes), { model, toField, focal, focalKnown: true });
    givePlanesBack(planes);
    if (!found.ok) throw new Error(found.reason);
    const { roll, pitch } = shot.setup.angles;
    expect(Math.abs(found.angles.roll - roll)).toBeLessThan(0.1);
    expect(Math.abs(found.angles.pitch - pitch)).toBeLessThan(0.2);
  });
});
