import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { distort, lensModel, undistort } from '../../optics/lens-model.ts';
import { allocatePlanes } from '../../picture/tile/planes.ts';
import { bowLeft } from '../../../scenes/camera/straight-net.ts';
import { calibrate } from './calibrate.ts';
import { measureChart } from './measure-chart.ts';

const SIZE = { width: 1500, height: 1000 };
const UNIT = halfDiagonal(SIZE);
const TRUTH = lensModel({ terms: [0, -0.09, 0, 0.02] });

/** A grid of dark lines on white, seen through the lens and a tilt. */
function lineGrid(tilt: Point): ReturnType<typeof allocatePlanes> {
  const planes = allocatePlanes(SIZE.width, SIZE.height);
  const pitch = 0.14;
  const width = 0.009;
  for (let y = 0; y < SIZE.height; y++) {
    for (let x = 0; x < SIZE.width; x++) {
      const field: Point = [(x + 0.5 - SIZE.width / 2) / UNIT, (y + 0.5 - SIZE.height / 2) / UNIT];
      const [u, v] = undistort(field, TRUTH);
      const w = 1 + tilt[0] * u + tilt[1] * v;
      const line = (value: number): number => {
        const off = Math.abs(value / pitch - Math.round(value / pitch)) * pitch;
        return Math.max(0, Math.min(1, (width / 2 - off) * UNIT + 0.5));
      };
      const ink = Math.max(line(u / w), line(v / w));
      planes.g[y * SIZE.width + x] = 0.7 - 0.65 * ink;
    }
  }
  planes.r.set(planes.g);
  planes.b.set(planes.g);
  return planes;
}

describe('a grid of lines', () => {
  it('is found by its crossings, and gives the distortion', () => {
    const views = (
      [
        [0, 0],
        [0.12, 0.02],
        [-0.05, -0.12]
      ] as Point[]
    ).map((tilt) => measureChart(lineGrid(tilt))!);
    for (const view of views) {
      expect(view.kind).toBe('lines');
      expect(view.corners.length).toBeGreaterThan(40);
    }
    const found = calibrate(views.map((view) => view.corners));
    if (!found.ok) throw new Error(found.reason);
    expect(bowLeft(TRUTH, found, SIZE)).toBeLessThan(0.1);
    // A crossing lies where the lens puts it.
    const [corner] = views[0].corners;
    const place = undistort(corner.at, TRUTH);
    const crossing: Point = [Math.round(place[0] / 0.14) * 0.14, Math.round(place[1] / 0.14) * 0.14];
    const seen = distort(crossing, TRUTH);
    expect(Math.hypot(seen[0] - corner.at[0], seen[1] - corner.at[1]) * UNIT).toBeLessThan(0.15);
  });
});
