/** Boards held by hand before two cameras that nobody here made: photographs that come with a package of the system. */
import { existsSync } from 'node:fs';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { srgbDecode } from '../../colour/srgb-transfer.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { allocatePlanes, givePlanesBack } from '../../picture/tile/planes.ts';
import { lensModel } from '../../optics/lens-model.ts';
import { unevenness } from '../../../scenes/board-straightness.ts';
import { type BoardView, calibrate } from './calibrate.ts';
import { measureChart } from './measure-chart.ts';

const FOLDER = '/usr/share/doc/opencv-doc/examples/data';
const UNIT = halfDiagonal({ width: 640, height: 480 });

async function boardsOf(camera: 'left' | 'right'): Promise<BoardView[]> {
  const views: BoardView[] = [];
  for (let i = 1; i <= 14; i++) {
    const path = `${FOLDER}/${camera}${String(i).padStart(2, '0')}.jpg`;
    // There is none of that number.
    if (!existsSync(path)) continue;
    const { data, info } = await sharp(path).greyscale().raw().toBuffer({ resolveWithObject: true });
    const planes = allocatePlanes(info.width, info.height);
    for (let at = 0; at < planes.g.length; at++)
      planes.r[at] = planes.g[at] = planes.b[at] = srgbDecode(data[at * info.channels] / 255);
    const chart = measureChart(planes);
    givePlanesBack(planes);
    if (chart) views.push(chart.corners);
  }
  return views;
}

describe('boards that were held by hand', () => {
  const boards: Partial<Record<'left' | 'right', BoardView[]>> = {};
  beforeAll(async () => {
    for (const camera of ['left', 'right'] as const) boards[camera] = await boardsOf(camera);
  });

  for (const camera of ['left', 'right'] as const)
    it(`tell the lens of a camera, without the corners that are none: ${camera}`, () => {
      const views = boards[camera]!;
      expect(views.length).toBeGreaterThanOrEqual(12);
      const found = calibrate(views, { pixel: 1 / UNIT });
      if (!found.ok) throw new Error(found.reason);
      expect(found.rms * UNIT).toBeLessThan(0.18);
      for (const { rms, corners } of found.views) {
        expect(rms * UNIT).toBeLessThan(0.25);
        expect(corners).toBeGreaterThan(50);
      }
      // The boards have 6 by 9 corners: most of what was found beside them is left out.
      expect(found.views.reduce((sum, view) => sum + view.corners, 0)).toBeLessThan(54 * views.length + 4);
      expect(found.terms[1]).toBeLessThan(-0.1);
    });

  it.each(['left', 'right'] as const)('are straight by the lens that the others tell: %s', (camera) => {
    const off: number[] = [];
    for (let part = 0; part < 4; part++) {
      const others = boards[camera]!.filter((_, i) => i % 4 !== part);
      const found = calibrate(others, { pixel: 1 / UNIT });
      if (!found.ok) throw new Error(found.reason);
      const model = lensModel({ terms: found.terms, centre: found.centre });
      for (const view of boards[camera]!.filter((_, i) => i % 4 === part))
        off.push(...unevenness(view, model).map((value) => value * UNIT));
    }
    // Corners grown beyond the board are none; they lie far off.
    off.sort((a, b) => a - b);
    const near = off.filter((value) => value < 4 * off[off.length >> 1]);
    expect(near.length).toBeGreaterThan(0.93 * off.length);
    expect(Math.sqrt(near.reduce((sum, value) => sum + value ** 2, 0) / near.length)).toBeLessThan(0.11);
  });

  it('do not stand for a lens where they are bent by a pixel', () => {
    const views = boards.right!.map((view) =>
      view.map(({ column, row, at }) => ({
        column,
        row,
        at: [at[0] + ((column * 7 + row * 3) % 5) / 2 / UNIT, at[1]] as [number, number]
      }))
    );
    const found = calibrate(views, { pixel: 1 / UNIT });
    expect(found.ok ? '' : found.reason).toMatch(/do not fit a flat chart/);
  });
});
