/** Photographs that nobody here took: what shows no verticals is left alone, and what does says the same at every size. */
import { describe, expect, it } from 'vitest';
import { type Point, sensorToField } from '../../math/frame-geometry.ts';
import { apply, transpose } from '../../math/matrix3.ts';
import { rotationFromAngles } from '../../math/rotation.ts';
import { NO_DISTORTION } from '../../optics/lens-model.ts';
import { realPhotograph } from '../../../scenes/real-photograph.ts';
import { seededRandom } from '../../math/random.ts';
import { turned } from '../../../scenes/turned-photograph.ts';
import { lookForLines } from './look-for-lines.ts';
import type { TrueUpItself } from './true-up-itself.ts';

/** Where plumb lies in the tower's picture as it was taken, in degrees: the middle of what its turned pictures say. */
const PLUMB = { roll: 1.1, pitch: 0.85 };

type From = Parameters<typeof realPhotograph>[0];

async function lookedAt(from: From, name: string, longest?: number): Promise<TrueUpItself> {
  const plane = await realPhotograph(from, name, longest);
  const toField = (place: Point): Point => sensorToField(place, plane);
  return lookForLines(plane, { model: NO_DISTORTION, toField, focal: 1.3, focalKnown: true });
}

describe('a photograph without buildings', () => {
  it.each<[From, string]>([
    ['pictures', 'flower.jpg'],
    ['boards', 'fruits.jpg'],
    ['boards', 'baboon.jpg'],
    ['backgrounds', 'seeding_by_Clements_Engelhardt.jpg'],
    ['backgrounds', 'greentock_by_Peter_Nerlich.jpg'],
    ['backgrounds', 'life_by_Aitzol_Berasategi.jpg'],
    ['backgrounds', 'Bridge_by_Sander_Klootwijk.jpg']
  ])('is left alone, and it is said why: %s %s', async (from, name) => {
    const found = await lookedAt(from, name);
    expect(found.ok ? found.said : found.reason).toMatch(/^Left as it is: .*by hand/);
  });
});

describe('a tower beside a lake, with its camera turned by known angles', () => {
  it('leans by what it was turned by, within what is said of it, and is not called sure where it is not told', async () => {
    const plane = await realPhotograph('pictures', 'china.jpg', 640);
    const random = seededRandom(8);
    const between = (low: number, high: number): number => low + (high - low) * random();
    const told: { roll: number; pitch: number; within: boolean; confidence: string }[] = [];
    for (let i = 0; i < 14; i++) {
      const angles = { roll: between(-3, 3), pitch: between(-6, 6), yaw: between(-4, 4) };
      const view = turned(plane, angles, 1.6)!;
      const toField = (place: Point): Point => sensorToField(place, view.plane);
      const found = lookForLines(view.plane, {
        model: NO_DISTORTION,
        toField,
        focal: view.focal,
        focalKnown: true
      });
      if (!found.ok) continue;
      const r = rotationFromAngles(found.angles);
      const [x, y, z] = apply(transpose(rotationFromAngles(angles)), [r[3], r[4], r[5]]);
      const [roll, pitch] = [Math.atan2(x, y), Math.asin(z)].map((angle) => (angle * 180) / Math.PI);
      const within = Math.abs(pitch - PLUMB.pitch) < 2 * found.pitchError;
      told.push({
        roll: roll - PLUMB.roll,
        pitch: pitch - PLUMB.pitch,
        within,
        confidence: found.confidence
      });
    }
    expect(told.length).toBeGreaterThan(10);
    for (const { roll, pitch, confidence } of told) {
      expect(Math.abs(roll)).toBeLessThan(0.9);
      if (confidence === 'sure') expect(Math.abs(pitch)).toBeLessThan(1.5);
    }
    expect(told.filter(({ within }) => within).length / told.length).toBeGreaterThan(0.7);
  });
});

describe('a room that was photographed from above', () => {
  it('comes out the same in pictures of 700 and 1400 pixels, within what its own furniture leaves open', async () => {
    const pitches: number[] = [];
    for (const longest of [700, 1400]) {
      const found = await lookedAt('backgrounds', 'Wine_by_Jakkub_Mede.jpg', longest);
      if (!found.ok) throw new Error(found.reason);
      expect(Math.abs(found.angles.roll - 1.8)).toBeLessThan(0.5);
      expect(Math.abs(found.angles.pitch + 5.8)).toBeLessThan(found.pitchError);
      pitches.push(found.angles.pitch);
    }
    expect(Math.abs(pitches[0] - pitches[1])).toBeLessThan(0.6);
  });
});
