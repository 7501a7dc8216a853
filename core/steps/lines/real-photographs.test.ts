/** Photographs that nobody here took: what shows no verticals is left alone, and what does says the same at every size. */
import { describe, expect, it } from 'vitest';
import { type Point, sensorToField } from '../../math/frame-geometry.ts';
import { NO_DISTORTION } from '../../optics/lens-model.ts';
import { realPhotograph } from '../../../scenes/real-photograph.ts';
import { lookForLines } from './look-for-lines.ts';
import type { TrueUpItself } from './true-up-itself.ts';

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

describe('a room that was photographed from above', () => {
  it('comes out the same in pictures of 700 and 1400 pixels, within what its own furniture leaves open', async () => {
    for (const longest of [700, 1400]) {
      const found = await lookedAt('backgrounds', 'Wine_by_Jakkub_Mede.jpg', longest);
      if (!found.ok) throw new Error(found.reason);
      expect(Math.abs(found.angles.roll - 1.8)).toBeLessThan(0.5);
      expect(Math.abs(found.angles.pitch + 5.2)).toBeLessThan(1.2);
    }
  });
});
