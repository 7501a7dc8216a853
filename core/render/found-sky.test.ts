/** The sky found by itself, as the mask that areas act by, against what the demo camera truly sees. */
import { describe, expect, it } from 'vitest';
import { capture } from '../../scenes/camera/capture.ts';
import { CAMERA_FROM_SRGB, WHITE_RESPONSE } from '../../scenes/camera/colour.ts';
import { mosaicOf } from '../../scenes/camera/mosaic-of.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { SKY, seenMask } from '../../scenes/seen-mask.ts';
import { lightScene } from '../../scenes/take-frame.ts';
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import { invert3, multiply } from '../math/matrix3.ts';
import { giveBack } from '../picture/kernels/heap.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { developBand } from '../picture/raw/develop.ts';
import { allocatePlanes, givePlanesBack, placeOn } from '../picture/tile/planes.ts';
import { keyOf } from '../picture/tile/resource.ts';
import type { Shape } from '../steps/areas/shape.ts';
import { maskStages } from './mask-picture.ts';
import { inputsFor, wholeView } from './painted-frame.ts';
import { renderTile } from './render-tile.ts';
import { resourceOf } from './resources.ts';
import { asksOf } from './stages.ts';

const [RED, GREEN, BLUE] = WHITE_RESPONSE;
const TO_WORKING = multiply(
  SRGB_TO_REC2020,
  multiply(invert3(CAMERA_FROM_SRGB), [RED, 0, 0, 0, GREEN, 0, 0, 0, BLUE])
);

interface Masks {
  width: number;
  height: number;
  /** Shares of 0..1: as it is, and as it was found. */
  truth: Float32Array;
  found: Float32Array;
}

/** The found sky of a demo frame, drawn through all stages. */
function skyOf(name: string, edge: number, shape: object = {}): Masks {
  const frame = DEMO_FRAMES.find(({ file }) => file.startsWith(name))!;
  const lit = lightScene(frame.scene());
  const setup = setupAt(frame, edge);
  const { width, height } = setup.size;
  const planes = placeOn(allocatePlanes(width, height), setup.size);
  developBand(mosaicOf(capture(lit, setup)), planes, 0, height);
  const truth = seenMask(lit, setup, setup.size, (seen) => seen === SKY);
  const parts = [{ id: 's', kind: 'found', meets: 'add', what: 'sky' }];
  const areas = { shapes: [{ id: 'sky', parts, ...shape }], list: [] };
  // As the lens saw it: nothing is corrected.
  const off = { enabled: false };
  const inputs = inputsFor({ areas, lens: off, lines: off, crop: off } as never, {
    size: setup.size,
    toWorking: TO_WORKING
  });
  const stages = maskStages(inputs, inputs.recipe.areas.shapes[0] as unknown as Shape);
  const made = asksOf(stages).map((ask) => {
    const resource = resourceOf(ask);
    const value = resource.make({ planes, toWorking: TO_WORKING, bytes: null }, ask.data);
    return { key: keyOf(ask), value, memory: resource.memory(value) };
  });
  const resources = new Map(made.map(({ key, value }) => [key, value]));
  const out = new Uint16Array(width * height * 3);
  renderTile({ source: planes, stages, view: wholeView(setup.size), resources }, packRgb(out, width));
  made.forEach(({ memory }) => giveBack(...memory));
  givePlanesBack(planes);
  return {
    width,
    height,
    truth,
    found: Float32Array.from({ length: truth.length }, (_, i) => out[i * 3] / 65535)
  };
}

/** Share of what is in either that is in both. */
function overlap({ truth, found }: Masks): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < truth.length; i++) {
    const [a, b] = [truth[i] > 0.5, found[i] > 0.5];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

/** Share of the true edge, within a part of the picture, that has an edge of the found mask within two pixels. */
function edgeKept({ width, height, truth, found }: Masks, right: number, bottom: number): number {
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
  // Under a closed sky; with hills in haze; after sunset.
  it.each(['SML_0112', 'SML_0116', 'CPR_0027'])(
    'of %s is found',
    (name) => {
      expect(overlap(skyOf(name, 700))).toBeGreaterThan(0.94);
    },
    240_000
  );

  it('is found with its clouds, and between leaves', { timeout: 240_000 }, () => {
    const masks = skyOf('SML_0107', 1200, { radius: 12 });
    expect(overlap(masks)).toBeGreaterThan(0.96);
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
