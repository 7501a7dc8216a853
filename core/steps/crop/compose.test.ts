import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planFrame } from '../../render/plan.ts';
import { completeRecipe } from '../../recipe/recipe.ts';
import { recomposed, reshaped, wantedCrop } from './compose.ts';
import { isInside } from './fit-crop.ts';
import { exactSize, ratioValue, readRatio, turnedRatio } from '../../picture/output/ratios.ts';
import { guideShares, snapHandle, snapMoved } from './snap-crop.ts';

const SIZE = { width: 6000, height: 4000 };
const optics = { size: SIZE, focal: 1.1, focalFrom: 'file' as const };
const crop = completeRecipe().crop;

describe('one composition for many ratios', () => {
  it('gives every ratio the same middle and area until it is touched alone', () => {
    const composed = {
      ...crop,
      ...recomposed({ ...crop, ratio: '3:2' }, { x: 0.1, y: -0.05, width: 0.9, height: 0.6 }, false)
    };
    const square = wantedCrop({ ...composed, ratio: '1:1' }, 1)!;
    expect(square.width).toBeCloseTo(Math.sqrt(0.54), 12);
    expect([square.x, square.y]).toEqual([0.1, -0.05]);
    const own = { x: 0, y: 0, width: 0.4, height: 0.4 };
    const touched = { ...composed, ratio: '1:1', ...recomposed({ ...composed, ratio: '1:1' }, own, true) };
    expect(wantedCrop(touched, 1)).toEqual(own);
    expect(wantedCrop({ ...touched, ratio: '3:2' }, 1.5)).toEqual(composed.rectangle);
    // Changed with all the others, a ratio follows the composition again.
    const again = { ...touched, ...recomposed(touched, { ...own, x: 0.2 }, false) };
    expect(again.own).toEqual({});
    expect(wantedCrop({ ...again, ratio: '3:2' }, 1.5)!.x).toBe(0.2);
  });

  it('never holds a blank pixel, whatever ratio and correction, unless that is allowed', () => {
    const angle = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    fc.assert(
      fc.property(
        fc.constantFrom('original', '4:3', '16:9', '4:5', '2.39:1', '1200x630'),
        angle(8),
        angle(20),
        angle(0.4),
        fc.double({ min: 0.2, max: 1.6, noNaN: true }),
        (ratio, roll, pitch, x, width) => {
          const recipe = completeRecipe({
            lines: { roll, pitch, shiftX: x * 40, scale: 110 },
            crop: { ratio, rectangle: { x, y: -x / 2, width, height: width / 1.5 } }
          });
          const plan = planFrame(optics, recipe, null);
          expect(isInside(plan.crop, plan.valid)).toBe(true);
          expect(plan.crop.width / plan.crop.height).toBeCloseTo(ratioValue(ratio, SIZE)!, 6);
          if (exactSize(ratio)) expect(plan.output).toEqual({ width: 1200, height: 630 });
        }
      ),
      { numRuns: 120 }
    );
    const wide = { x: 0, y: 0, width: 3, height: 2 };
    const blank = completeRecipe({ crop: { ratio: '3:2', rectangle: wide, blank: true } });
    expect(planFrame(optics, blank, null).crop).toEqual(wide);
  });
});

describe('shift and scale', () => {
  it('move and enlarge the picture in its crop, and stop at the last real pixel', () => {
    const still = planFrame(optics, completeRecipe({ lines: { scale: 125 } }), null);
    expect(still.crop.width).toBeCloseTo((6000 / 3605.55) * 0.8, 3);
    const shifted = planFrame(optics, completeRecipe({ lines: { scale: 125, shiftX: 5, shiftY: 5 } }), null);
    expect(shifted.crop.x).toBeCloseTo(-0.05 * still.crop.width, 6);
    expect(shifted.crop.y).toBeCloseTo(0.05 * still.crop.height, 6);
    expect(shifted.cropMoved).toBe(false);
    const far = planFrame(optics, completeRecipe({ lines: { scale: 125, shiftX: 60 } }), null);
    expect(far.cropMoved).toBe(true);
    expect(isInside(far.crop, far.valid)).toBe(true);
  });
});

describe('ratios', () => {
  it('are read as they are written', () => {
    expect(readRatio(' 7 : 5 ')).toBe('7:5');
    expect(readRatio('1200 × 630')).toBe('1200x630');
    expect(readRatio('2,39:1')).toBe('2.39:1');
    for (const wrong of ['', '4', '4:0', '100:1', 'wide', '0:3', '4:3:2'])
      expect(readRatio(wrong)).toBeNull();
    expect(turnedRatio('16:9')).toBe('9:16');
    expect(turnedRatio('1200x630')).toBe('630x1200');
    expect(turnedRatio('original')).toBe('original');
  });
});

describe('snapping', () => {
  it('puts an eave exactly on a third, and a dragged edge on a line', () => {
    const rectangle = { x: 0.003, y: 0.004, width: 0.9, height: 0.6 };
    const eave = rectangle.y - 0.5 * 0.6 + 0.2 + 0.006;
    const snapped = snapMoved(rectangle, { x: [0], y: [eave] }, 'thirds', 0.01);
    expect(snapped.y - 0.3 + 0.2).toBeCloseTo(eave, 12);
    expect(snapped.x).toBeCloseTo(0, 12);
    expect(snapMoved(rectangle, { x: [], y: [eave] }, 'none', 0.01)).toEqual(rectangle);
    expect(snapMoved(rectangle, { x: [0.2], y: [] }, 'thirds', 0.01)).toEqual(rectangle);
    expect(snapHandle({ x: 1, y: 0 }, [0.446, 0.1], { x: [0.45], y: [0.101] }, 0.01)).toEqual([0.45, 0.1]);
    expect(guideShares('golden')[1]).toBeCloseTo(0.618, 3);
    expect(reshaped(rectangle, 0.5).height).toBeCloseTo(Math.sqrt(0.54 / 0.5), 12);
  });
});
