import { describe, expect, it } from 'vitest';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import { NO_DISTORTION } from '../optics/lens-model.ts';
import { IDENTITY } from '../math/matrix3.ts';
import { halfDiagonal } from '../math/frame-geometry.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import { allocatePlanes } from '../picture/tile/planes.ts';
import { foldHighlight } from '../picture/tile/highlights.ts';
import { geometryStage } from './geometry-stage.ts';
import { levelFor } from './levels.ts';
import { type Plan, cropView, effectiveAngles, limitedSize, planFrame } from './plan.ts';

const size = { width: 6000, height: 4000 };
const optics: FrameOptics = { size, focal: 1.1, focalFrom: 'file' };
const planOf = (recipe: PartialRecipe): Plan => planFrame(optics, completeRecipe(recipe), null);
const degrees = Math.PI / 180;

describe('angles in force', () => {
  const lines = { roll: 2, pitch: 8, yaw: -4, holdBackRoll: 25, holdBackPitch: 10, holdBackYaw: 50 };

  it('are the recipe’s less the share that each holds back', () => {
    const angles = effectiveAngles(completeRecipe({ lines }));
    expect(angles.roll).toBeCloseTo(1.5, 12);
    expect(angles.pitch).toBeCloseTo(7.2, 12);
    expect(angles.yaw).toBeCloseTo(-2, 12);
  });

  it('are none while the step is off, and neither is the stretch', () => {
    expect(effectiveAngles(completeRecipe({ lines: { ...lines, enabled: false } }))).toEqual({
      roll: 0,
      pitch: 0,
      yaw: 0
    });
    expect(planOf({ lines: { ...lines, stretch: 8, enabled: false } }).projection).toMatchObject({
      rotation: IDENTITY,
      stretch: 1
    });
    expect(planOf({ lines: { stretch: 8 } }).projection.stretch).toBeCloseTo(1.08, 12);
  });

  it.each(['roll', 'pitch', 'yaw'] as const)('turn the picture by %s alone', (axis) => {
    const { rotation } = planOf({ lines: { [axis]: 3 } }).projection;
    // The trace of a rotation by an angle a is 1 + 2 cos a, whatever its axis.
    expect(rotation[0] + rotation[4] + rotation[8]).toBeCloseTo(1 + 2 * Math.cos(3 * degrees), 12);
  });
});

describe('the crop', () => {
  it('goes the other way when the picture is shifted in it, and shrinks when it is enlarged', () => {
    const plain = planOf({}).crop;
    const moved = planOf({ lines: { scale: 125, shiftX: 4, shiftY: -2 } }).crop;
    expect(moved.width).toBeCloseTo(plain.width / 1.25, 9);
    expect(moved.height).toBeCloseTo(plain.height / 1.25, 9);
    expect(moved.x).toBeCloseTo(plain.x - (0.04 * plain.width) / 1.25, 9);
    expect(moved.y).toBeCloseTo(plain.y - (0.02 * plain.height) / 1.25, 9);
    for (const lines of [{ shiftX: 4 }, { shiftY: -2 }, { scale: 125 }])
      expect(planOf({ lines }).crop, JSON.stringify(lines)).not.toEqual(plain);
  });

  it('is whole pixels of the original where nothing is to be done', () => {
    const { crop: whole, output, cropMoved } = planOf({});
    const unit = halfDiagonal(size);
    expect(output).toEqual(size);
    expect(whole.width * unit).toBeCloseTo(6000, 3);
    expect(cropMoved).toBe(false);
  });
});

describe('sizes', () => {
  it('are limited by the longer edge, lying, standing or square', () => {
    expect(limitedSize({ width: 6000, height: 4000 }, 3000)).toEqual({ width: 3000, height: 2000 });
    expect(limitedSize({ width: 4000, height: 6000 }, 3000)).toEqual({ width: 2000, height: 3000 });
    expect(limitedSize({ width: 4000, height: 4000 }, 100)).toEqual({ width: 100, height: 100 });
    expect(limitedSize({ width: 4000, height: 6000 }, 5000)).toEqual({ width: 3333, height: 5000 });
    expect(limitedSize({ width: 6000, height: 4000 }, 7000)).toEqual({ width: 6000, height: 4000 });
    expect(limitedSize({ width: 6000, height: 4000 }, null)).toEqual({ width: 6000, height: 4000 });
    expect(limitedSize({ width: 9000, height: 1 }, 1000)).toEqual({ width: 1000, height: 1 });
  });

  it('fill a view that stays in the middle of its crop', () => {
    const view = cropView({ x: 0, y: 0.35, width: 1, height: 0.5 }, { width: 100, height: 40 });
    expect(view.pixel).toBeCloseTo(0.01, 12);
    expect(view.left).toBeCloseTo(-0.5, 12);
    // 40 pixels of 0.01 in a height of 0.5: 0.05 are left above and below.
    expect(view.top).toBeCloseTo(0.15, 12);
    // A rectangle is placed by its middle.
    const tall = cropView({ x: 0.5, y: 0.25, width: 1, height: 0.5 }, { width: 100, height: 100 });
    expect(tall.pixel).toBeCloseTo(0.005, 12);
    expect(tall.left).toBeCloseTo(0.25, 12);
  });

  it('say which half of a picture still has a pixel for each of a view', () => {
    expect([0.3, 1, 1.9, 2, 3, 4, 7.9].map((reduction) => levelFor(reduction))).toEqual([
      0, 0, 0, 1, 1, 2, 2
    ]);
    expect([0.3, 1.3, 1.5, 2.9].map((reduction) => levelFor(reduction, true))).toEqual([0, 0, 1, 2]);
  });
});

describe('the resampled tile', () => {
  it('has the light of its source, above white too, each colour its own', () => {
    const [width, height] = [60, 40];
    const lights = { r: 0.5, g: 1, b: 4.5 };
    const planes = allocatePlanes(width, height);
    for (const colour of ['r', 'g', 'b'] as const) planes[colour].fill(foldHighlight(lights[colour]));
    // Light is folded above white while it is resampled: 1 + ln v.
    expect(planes.b[0]).toBeCloseTo(1 + Math.log(4.5), 5);
    const pixel = 1 / Math.hypot(width / 2, height / 2);
    const tile = geometryStage.make(
      {
        source: { ...planes, originX: 0, originY: 0, scaleX: 1, scaleY: 1 },
        view: { left: -10 * pixel, top: -5 * pixel, pixel, width: 20, height: 10 },
        draft: false
      },
      { size: { width, height }, focal: 1.1, model: NO_DISTORTION, rotation: IDENTITY }
    );
    for (const colour of ['r', 'g', 'b'] as const)
      for (const value of tile[colour]) expect(value).toBeCloseTo(lights[colour], 4);
    expect(tile.valid.every((v) => v > 0)).toBe(true);
  });
});
