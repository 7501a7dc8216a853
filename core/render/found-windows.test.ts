/** Windows found by themselves, as the mask that areas act by, against what the demo camera sees through them. */
import { describe, expect, it } from 'vitest';
import { SKY, seenMask } from '../../scenes/seen-mask.ts';
import type { Vector } from '../../scenes/trace/scene.ts';
import type { LitScene } from '../../scenes/trace/shade.ts';
import type { FrameSize } from '../math/frame-geometry.ts';
import { givePlanesBack } from '../picture/tile/planes.ts';
import { demoShot, developShot, maskOfShot, overlapOf } from './demo-frame.oracle.ts';

const EDGE = 900;
/** Columns that a bar of a window takes up at most. */
const BAR = 24;

/** Whether a place lies beyond the panes of a room, and whether far beyond: metres of its scene. */
const BEYOND: Record<string, (place: Vector, further: number) => boolean> = {
  SML_0121: ([x], further) => x < -4.8 - further,
  SML_0124: ([x], further) => x < -4.8 - further,
  SML_0130: ([, , z], further) => z > 8.72 + further,
  CPR_0011: ([, , z], further) => z > 5.42 + further,
  CPR_0018: ([, , z], further) => z > 5.2 + further
};

/** Whether a rectangle of the scene is seen through the panes: the ground begins before them and goes on. */
function isOutside({ scene }: LitScene, name: string, seen: number): boolean {
  if (seen === SKY) return true;
  const { origin, u, v, lengthU, lengthV } = scene.quads[seen];
  const corners = [0, lengthU].flatMap((s) =>
    [0, lengthV].map((t) => [0, 1, 2].map((i) => origin[i] + u[i] * s + v[i] * t) as Vector)
  );
  const beyond = BEYOND[name];
  return corners.every((corner) => beyond(corner, 0)) || corners.some((corner) => beyond(corner, 3));
}

/** Openings from what is seen through their panes: bars between them belong to the opening. */
function closedOverBars(seen: Float32Array, { width, height }: FrameSize): Uint8Array {
  const out = Uint8Array.from(seen, (share) => (share > 0.5 ? 1 : 0));
  const close = (at: (along: number) => number, length: number): void => {
    let last = -Infinity;
    for (let along = 0; along < length; along++) {
      if (seen[at(along)] <= 0.5) continue;
      if (along - last <= BAR) for (let between = last + 1; between < along; between++) out[at(between)] = 1;
      last = along;
    }
  };
  for (let y = 0; y < height; y++) close((x) => y * width + x, width);
  for (let x = 0; x < width; x++) close((y) => y * width + x, height);
  return out;
}

const PARTS = [{ id: 'w', kind: 'found', meets: 'add', what: 'windows' }];

function windowsOf(name: string): { found: Float32Array; truth: Uint8Array; width: number } {
  const shot = demoShot(name, EDGE);
  const planes = developShot(shot);
  const found = maskOfShot(planes, shot, { parts: PARTS });
  givePlanesBack(planes);
  const { size } = shot.setup;
  const seen = seenMask(shot.lit, shot.setup, size, (each) => isOutside(shot.lit, name, each));
  return { found, truth: closedOverBars(seen, size), width: size.width };
}

describe('windows', () => {
  // A row of them along a wall, with trees and lawn behind; behind a balustrade; with a lamp before it, that goes with it.
  it.each([
    ['SML_0121', 0.87],
    ['SML_0124', 0.94],
    ['SML_0130', 0.9],
    ['CPR_0011', 0.7]
  ])(
    'of %s are found',
    (name, least) => {
      const { found, truth } = windowsOf(name);
      expect(overlapOf(found, truth)).toBeGreaterThan(least);
    },
    240_000
  );

  it('are told from lamps, and from what the sun draws on a wall', () => {
    // Both windows of a sitting room lie in its right half; on the left there is one in a mirror.
    const { found, truth, width } = windowsOf('CPR_0018');
    const right = (mask: ArrayLike<number>): number[] =>
      Array.from(mask).filter((_, i) => i % width > 0.42 * width);
    expect(overlapOf(right(found), right(truth))).toBeGreaterThan(0.87);
  });

  it.each(['SML_0112', 'SML_0107', 'CPR_0003', 'CPR_0021'])(
    'are not found in %s, which is no room',
    (name) => {
      const shot = demoShot(name, EDGE);
      const planes = developShot(shot);
      const found = maskOfShot(planes, shot, { parts: PARTS });
      givePlanesBack(planes);
      expect(found.some((share) => share > 0)).toBe(false);
    },
    240_000
  );
});
