import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Plan } from '$core/render/plan.ts';
import {
  drawnView,
  keptWithin,
  nextZoom,
  toSheet,
  toUpright,
  viewAbout,
  zoomView,
  zoomedAbout
} from './sheet-view.ts';

const SIZE = { width: 6000, height: 4000 };
const UNIT = 1 / Math.hypot(3000, 2000);
const CROP = { x: 0.03, y: -0.02, width: 1.2, height: 0.8 };
const PLAN = { projection: { size: SIZE }, crop: CROP } as unknown as Plan;
const SHEET = { width: 1146, height: 546 };

describe('the view of the sheet', () => {
  it('shows the pixels of the picture at the size that the zoom says', () => {
    const view = zoomView([0, 0], 2.5, PLAN, SHEET);
    const [x] = toSheet([UNIT * 100, 0], view);
    expect(x - SHEET.width / 2).toBeCloseTo(250, 6);
  });

  it('keeps what lies under the pointer, to a hundredth of a pixel, from fit to 800 % and back', () => {
    const places = fc.tuple(
      fc.integer({ min: 0, max: SHEET.width }),
      fc.integer({ min: 0, max: SHEET.height })
    );
    fc.assert(
      fc.property(
        places,
        fc.array(fc.double({ min: 0.1, max: 8, noNaN: true }), { minLength: 1, maxLength: 12 }),
        (place, zooms) => {
          const start = zoomView([0.1, 0.05], 0.18, PLAN, SHEET);
          const looked = toUpright(place, start);
          let view = start;
          for (const zoom of [...zooms, 0.18])
            view = viewAbout(zoomedAbout(place, view, UNIT / zoom), UNIT / zoom, SHEET);
          const [x, y] = toSheet(looked, view);
          expect(Math.hypot(x - place[0], y - place[1])).toBeLessThan(0.01);
          expect(view.left).toBeCloseTo(start.left, 9);
        }
      )
    );
  });

  it('steps up and down through the same zooms, and ends at 800 %', () => {
    const up = [0.18];
    for (let i = 0; i < 12; i++) up.push(nextZoom(up[up.length - 1], 1));
    expect(up.slice(1)).toEqual([0.25, 0.33, 0.5, 0.67, 1, 1.5, 2, 3, 4, 6, 8, 8]);
    expect(nextZoom(1, -1)).toBe(0.67);
    expect(nextZoom(1.01, 1)).toBe(1.5);
    expect(nextZoom(0.04, -1)).toBe(0.05);
  });

  it('does not lose the picture: its middle stays on it', () => {
    expect(keptWithin([9, -9], CROP)).toEqual([CROP.x + CROP.width / 2, CROP.y - CROP.height / 2]);
    expect(keptWithin([-9, 9], CROP)).toEqual([CROP.x - CROP.width / 2, CROP.y + CROP.height / 2]);
    expect(keptWithin([0.1, 0.05], CROP)).toEqual([0.1, 0.05]);
  });

  it('draws enlarged pixels one for one, on the grid of the output, and all that are seen', () => {
    const view = zoomView([0.21, 0.13], 6, PLAN, SHEET);
    const drawn = drawnView(view, PLAN);
    expect(drawn.pixel).toBeCloseTo(UNIT, 12);
    const steps = (drawn.left - (CROP.x - CROP.width / 2)) / UNIT;
    expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
    expect(drawn.left).toBeLessThanOrEqual(view.left + 1e-12);
    expect(drawn.left).toBeGreaterThan(view.left - UNIT);
    const right = drawn.left + drawn.width * UNIT - (view.left + view.width * view.pixel);
    expect(right).toBeGreaterThan(-1e-9);
    expect(right).toBeLessThan(UNIT);
    expect(drawn.height).toBeLessThan(SHEET.height / 6 + 2);
    const fit = zoomView([0, 0], 0.2, PLAN, SHEET);
    expect(drawnView(fit, PLAN)).toBe(fit);
    const whole = zoomView([0, 0], 1, PLAN, SHEET);
    expect(drawnView(whole, PLAN)).toBe(whole);
  });
});
