/** The sky found by itself, as the mask that areas act by, against what the demo camera truly sees. */
import { describe, expect, it } from 'vitest';
import { SKY, seenMask } from '../../scenes/seen-mask.ts';
import { piecesOf } from '../steps/areas/sky/even-pieces.ts';
import { givePlanesBack } from '../picture/tile/planes.ts';
import { demoShot, developShot, maskOfShot, overlapOf } from './demo-frame.oracle.ts';

interface Masks {
  width: number;
  height: number;
  /** Shares of 0..1: as it is, and as it was found. */
  truth: Float32Array;
  found: Float32Array;
}

/** The found sky of a demo frame, drawn through all stages. */
function skyOf(name: string, edge: number, shape: object = {}): Masks {
  const shot = demoShot(name, edge);
  const planes = developShot(shot);
  const { size } = shot.setup;
  const truth = seenMask(shot.lit, shot.setup, size, (seen) => seen === SKY);
  const parts = [{ id: 's', kind: 'found', meets: 'add', what: 'sky' }];
  const found = maskOfShot(planes, shot, { parts, ...shape });
  givePlanesBack(planes);
  return { ...size, truth, found };
}

const overlap = ({ truth, found }: Masks): number => overlapOf(truth, found);

/** Gaps between leaves of fewer pixels than this are but a colour of the leaves. */
const GAP = 6;

/** The truth without gaps that are too small to be seen as such. */
function seenAsSky({ width, height, truth }: Masks): Float32Array {
  const out = truth.slice();
  const sky = Uint8Array.from(truth, (share) => (share > 0.5 ? 1 : 0));
  for (const { cells } of piecesOf(sky, { width, height, stops: truth, hue: truth }).pieces)
    if (cells.length < GAP) for (const cell of cells) out[cell] = 0;
  return out;
}

/** Share of the true edge, within a part of the picture, that has an edge of the found mask within two pixels. */
function edgeKept(masks: Masks, right: number, bottom: number): number {
  const { width, height, found } = masks;
  const truth = seenAsSky(masks);
  const isEdge = (of: Float32Array, x: number, y: number): boolean => {
    const at = y * width + x;
    const own = of[at] > 0.5;
    return own !== of[at + 1] > 0.5 || own !== of[at + width] > 0.5;
  };
  let [kept, count] = [0, 0];
  for (let y = 3; y < height * bottom; y++)
    for (let x = 3; x < width * right; x++) {
      if (!isEdge(truth, x, y)) continue;
      count++;
      let near = false;
      for (let dy = -2; dy <= 2 && !near; dy++)
        for (let dx = -2; dx <= 2 && !near; dx++) near = isEdge(found, x + dx, y + dy);
      if (near) kept++;
    }
  expect(count).toBeGreaterThan(200);
  return kept / count;
}

describe('the sky', () => {
  // Under a closed sky; with hills in haze; after sunset; a strip above a front and what goes on beside it.
  it.each<[string, number, number]>([
    ['SML_0112', 700, 0.97],
    ['SML_0116', 700, 0.97],
    ['CPR_0027', 700, 0.94],
    ['SML_0109', 1000, 0.88]
  ])(
    'of %s is found',
    (name, edge, least) => {
      expect(overlap(skyOf(name, edge))).toBeGreaterThan(least);
    },
    240_000
  );

  it('is found with its clouds, and between leaves', () => {
    const masks = skyOf('SML_0107', 1200, { radius: 6 });
    expect(overlap(masks)).toBeGreaterThan(0.97);
    expect(edgeKept(masks, 0.35, 0.5)).toBeGreaterThan(0.9);
  });

  it.each(['CPR_0018', 'SML_0121'])(
    'is not found in the room of %s, whatever is seen through its windows',
    (name) => {
      expect(skyOf(name, 700).found.some((share) => share > 0)).toBe(false);
    },
    240_000
  );
});
