/** Dust against that of the demo camera, which knows where it lies, and against the same frames without it. */
import { describe, expect, it } from 'vitest';
import { type CameraSetup, type DustSpeck, capture, dustOn } from '../../../../scenes/camera/capture.ts';
import { mosaicOf } from '../../../../scenes/camera/mosaic-of.ts';
import { DEMO_FRAMES, setupAt } from '../../../../scenes/demo-frames.ts';
import { lightScene } from '../../../../scenes/take-frame.ts';
import type { LitScene } from '../../../../scenes/trace/shade.ts';
import { halfDiagonal } from '../../../math/frame-geometry.ts';
import { developBand } from '../../../picture/raw/develop.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../../picture/tile/planes.ts';
import { changedPicture } from '../../../render/source-planes.ts';
import { passesOf } from '../passes.ts';
import type { Patch } from '../patch.ts';
import { mendStage } from '../source-stage.ts';
import { lookForDust, mendedDust } from './dust-patches.ts';

const LONG = 1800;

function taken(lit: LitScene, setup: CameraSetup): PlacedPlanes {
  const { width, height } = setup.size;
  const planes = allocatePlanes(width, height);
  developBand(mosaicOf(capture(lit, setup)), planes, 0, height);
  return placeOn(planes, setup.size);
}

interface Scene {
  setup: CameraSetup;
  dusty: PlacedPlanes;
  clean: PlacedPlanes;
  /** Specks that lie on something plain, and are not lost in white. */
  specks: DustSpeck[];
}

function sceneOf(name: string): Scene {
  const frame = DEMO_FRAMES.find(({ file }) => file.startsWith(name))!;
  const [lit, setup] = [lightScene(frame.scene()), setupAt(frame, LONG)];
  const [dusty, clean] = [taken(lit, setup), taken(lit, { ...setup, dust: false })];
  const { width, height } = setup.size;
  const specks = dustOn(setup).filter(({ x, y, radius, depth }) => {
    const values: number[] = [];
    for (let py = Math.max(0, Math.round(y - 3 * radius)); py < Math.min(height, y + 3 * radius); py++)
      for (let px = Math.max(0, Math.round(x - 3 * radius)); px < Math.min(width, x + 3 * radius); px++)
        values.push(Math.log(Math.max(1e-3, clean.g[py * width + px])));
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    return deviation < 0.25 * depth + 0.01 && mean < Math.log(0.95);
  });
  return { setup, dusty, clean, specks };
}

const lies = ({ points: [x, y] }: Patch, on: DustSpeck, { size }: CameraSetup): boolean => {
  const unit = halfDiagonal(size);
  return Math.hypot(x * unit + size.width / 2 - on.x, y * unit + size.height / 2 - on.y) < on.radius;
};

/** Peak signal to noise of a disc of one picture against another, in dB. */
function agreement(one: PlacedPlanes, other: PlacedPlanes, { x, y, radius }: DustSpeck): number {
  let [sum, count] = [0, 0];
  for (let py = Math.round(y - 2.5 * radius); py <= y + 2.5 * radius; py++)
    for (let px = Math.round(x - 2.5 * radius); px <= x + 2.5 * radius; px++)
      for (const name of ['r', 'g', 'b'] as const) {
        sum += (one[name][py * one.width + px] - other[name][py * one.width + px]) ** 2;
        count++;
      }
  return -10 * Math.log10(sum / count);
}

const giveBack = ({ dusty, clean }: Scene): void => [dusty, clean].forEach(givePlanesBack);

describe('dust on the sensor', () => {
  it('is found on a sky, all of it and nothing else, and mended to what was under it', () => {
    const scene = sceneOf('SML_0101');
    const { setup, dusty, clean, specks } = scene;
    expect(specks.length).toBeGreaterThanOrEqual(4);
    const found = lookForDust({ planes: dusty, size: setup.size, before: [], known: null });
    for (const speck of specks)
      expect(
        found.filter((patch) => lies(patch, speck, setup)),
        `${speck.x} ${speck.y}`
      ).toHaveLength(1);
    const false_ = found.filter((patch) => !dustOn(setup).some((speck) => lies(patch, speck, setup)));
    expect(false_.length).toBeLessThanOrEqual(1);
    const inputs = passesOf(found, setup.size).map((data) => ({ stage: mendStage.name, data }));
    const mended = changedPicture(dusty, inputs);
    for (const speck of specks) {
      expect(agreement(mended, clean, speck)).toBeGreaterThan(40);
      expect(agreement(mended, clean, speck)).toBeGreaterThan(agreement(dusty, clean, speck) + 4);
    }
    givePlanesBack(mended);
    // The clean frame has none.
    expect(lookForDust({ planes: clean, size: setup.size, before: [], known: null })).toHaveLength(0);
    giveBack(scene);
  });

  it('is told from handles, joints and shadows in a room, and known from another frame where it shows', () => {
    const scene = sceneOf('CPR_0011');
    const { setup, dusty, clean, specks } = scene;
    const found = lookForDust({ planes: dusty, size: setup.size, before: [], known: null });
    const isDust = (patch: Patch): boolean => dustOn(setup).some((speck) => lies(patch, speck, setup));
    expect(found.filter((patch) => !isDust(patch)).length).toBeLessThanOrEqual(1);
    // Known from elsewhere: offered where it shows, and nowhere on the frame without it.
    const all: Patch[] = dustOn(setup).map(({ x, y, radius }, i) => ({
      ...found[0],
      id: String(i),
      points: [
        (x - setup.size.width / 2) / halfDiagonal(setup.size),
        (y - setup.size.height / 2) / halfDiagonal(setup.size)
      ],
      size: (2300 * radius) / halfDiagonal(setup.size)
    }));
    const known = { specks: mendedDust(all), size: setup.size };
    const shown = lookForDust({ planes: dusty, size: setup.size, before: [], known });
    expect(shown.every(isDust)).toBe(true);
    for (const speck of specks) expect(shown.some((patch) => lies(patch, speck, setup))).toBe(true);
    expect(lookForDust({ planes: clean, size: setup.size, before: [], known })).toHaveLength(0);
    // What is mended already is not offered once more.
    expect(lookForDust({ planes: dusty, size: setup.size, before: shown, known })).toHaveLength(0);
    giveBack(scene);
  });
});
