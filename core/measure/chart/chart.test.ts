import { beforeAll, describe, expect, it } from 'vitest';
import { type Point, halfDiagonal } from '../../math/frame-geometry.ts';
import { fitFlat } from '../flat/fit-flat.ts';
import { fitLateral, fringeReading } from '../lateral/fit-lateral.ts';
import { type LateralEdge, measureEdges } from '../lateral/measure-edges.ts';
import { transmission } from '../../optics/falloff.ts';
import { mosaicSource, planesSource } from '../lateral/colour-source.ts';
import type { Mosaic } from '../../picture/raw/mosaic.ts';
import { type Lateral, lateralShift } from '../../optics/lens-model.ts';
import { type LensProfile, completeProfile } from '../../optics/profile.ts';
import { type Planes, allocatePlanes } from '../../picture/tile/planes.ts';
import { developBand } from '../../picture/raw/develop.ts';
import { type CameraSetup, capture } from '../../../scenes/camera/capture.ts';
import { mosaicOf } from '../../../scenes/camera/mosaic-of.ts';
import { SENSOR_HALF_DIAGONAL } from '../../../scenes/camera/lenses.ts';
import { chartWall, flatScreen } from '../../../scenes/buildings/charts.ts';
import { bowLeft } from '../../../scenes/camera/straight-net.ts';
import { lightScene } from '../../../scenes/take-frame.ts';
import type { LitScene } from '../../../scenes/trace/shade.ts';
import { calibrate } from './calibrate.ts';
import { type MeasuredChart, measureChart } from './measure-chart.ts';

const SIZE = { width: 1800, height: 1200 };
/** Half the diagonal of 24 megapixels, in pixels: the unit of what is promised. */
const UNIT24 = 3606;

const TRUTH: LensProfile = completeProfile({
  id: 'truth',
  maker: 'Test',
  lens: 'Test 12 mm f/5.6',
  sensorHalfDiagonal: SENSOR_HALF_DIAGONAL,
  distortion: [{ focalLength: 14, terms: [0, -0.13, 0, 0.09, 0, -0.02], centre: [0.003, -0.002] }],
  lateral: [{ focalLength: 14, red: [2e-4, 0, 4e-4], blue: [-3e-4, 0, -5e-4] }],
  falloff: [{ focalLength: 14, terms: [-0.9, 0.45, -0.12], red: [-0.04, 0.01, 0], blue: [0.03, -0.01, 0] }]
});

const lens = { maker: 'Test', name: 'Test', profile: TRUTH, aperture: 5.6, writesData: false };

/** Takes a picture with the lens under test. */
const expose = (lit: LitScene, setup: Omit<CameraSetup, 'lens' | 'focalLength' | 'size'>): Mosaic =>
  mosaicOf(capture(lit, { ...setup, lens, focalLength: 14, size: SIZE }));

function develop(mosaic: Mosaic): Planes {
  const planes = allocatePlanes(mosaic.width, mosaic.height);
  developBand(mosaic, planes, 0, mosaic.height);
  return planes;
}

const VIEWS: { position: [number, number, number]; angles: { roll: number; pitch: number; yaw: number } }[] =
  [
    { position: [0, 0, -0.62], angles: { roll: 0, pitch: 0, yaw: 0 } },
    { position: [0.1, 0.05, -0.55], angles: { roll: 2, pitch: 3, yaw: -4 } },
    { position: [-0.35, 0, -0.6], angles: { roll: 0, pitch: 0, yaw: 18 } },
    { position: [0.35, 0.05, -0.6], angles: { roll: -3, pitch: 0, yaw: -18 } },
    { position: [0, 0.3, -0.6], angles: { roll: 1, pitch: -16, yaw: 3 } },
    { position: [0, -0.3, -0.6], angles: { roll: 0, pitch: 16, yaw: -2 } },
    { position: [-0.3, 0.25, -0.65], angles: { roll: 5, pitch: -10, yaw: 12 } },
    { position: [0.3, -0.25, -0.65], angles: { roll: -5, pitch: 12, yaw: -12 } }
  ];

const SIZE24 = { width: 6000, height: 4000 };

describe('a lens measured on charts', () => {
  const charts: MeasuredChart[] = [];
  const frames: Mosaic[] = [];
  const edges: LateralEdge[] = [];
  let flat: Planes;

  beforeAll(() => {
    const wall = lightScene(chartWall());
    VIEWS.forEach((view, seed) => {
      const mosaic = expose(wall, { ...view, seed: seed + 1 });
      frames.push(mosaic);
      const chart = measureChart(develop(mosaic));
      if (chart) charts.push(chart);
      edges.push(...measureEdges(mosaicSource(mosaic)));
    });
    flat = develop(
      expose(lightScene(flatScreen()), {
        position: [0, 0, 0],
        angles: { roll: 0, pitch: 0, yaw: 0 },
        seed: 9,
        compensation: -1
      })
    );
  });

  it('finds the corners of the chessboard by itself in every view', () => {
    expect(charts).toHaveLength(VIEWS.length);
    for (const chart of charts) {
      expect(chart.kind).toBe('chessboard');
      expect(chart.corners.length).toBeGreaterThan(40);
    }
  });

  it('gives the distortion within 0.1 px at 24 MP, and says how well it fits', () => {
    const found = calibrate(charts.map((chart) => chart.corners));
    if (!found.ok) throw new Error(found.reason);
    expect(bowLeft(TRUTH.distortion[0], found, SIZE24)).toBeLessThan(0.1);
    expect(found.rms * UNIT24).toBeLessThan(0.25);
    expect(bowLeft(TRUTH.distortion[0], {}, SIZE24)).toBeGreaterThan(10);
  });

  it('gives the lateral colour within 0.15 px at 24 MP in the outer third', () => {
    const fit = fitLateral(edges, halfDiagonal(SIZE));
    if (!fit.ok) throw new Error(fit.reason);
    for (let r = 0.67; r <= 1; r += 0.03) {
      for (const colour of ['red', 'blue'] as const) {
        const error = lateralShift(fit.lateral[colour], r) - lateralShift(TRUTH.lateral[0][colour], r);
        expect(Math.abs(error) * r * halfDiagonal(SIZE)).toBeLessThan(0.15);
      }
    }
  });

  it('gives the falloff within 0.02 EV, and the colour shading with it', () => {
    const fit = fitFlat(flat);
    if (!fit.ok) throw new Error(fit.reason);
    const ev = (a: readonly number[], b: readonly number[], r: number): number =>
      Math.abs(Math.log2(transmission(a, r * r) / transmission(b, r * r)));
    const truth = TRUTH.falloff[0];
    for (let r = 0; r <= 0.98; r += 0.02) {
      // The camera shades about the optical centre, the fit about the middle of the frame.
      expect(ev(fit.terms, truth.terms, r)).toBeLessThan(0.02);
      expect(ev(fit.red, truth.red!, r)).toBeLessThan(0.02);
      expect(ev(fit.blue, truth.blue!, r)).toBeLessThan(0.02);
    }
  });

  it('refuses a picture without a board, a flat frame that is a photograph, and boards that are too small', () => {
    expect(measureChart(flat)).toBeNull();
    const chartAsFlat = fitFlat(develop(frames[0]));
    expect(chartAsFlat.ok ? '' : chartAsFlat.reason).toMatch(/no flat frame|clipped/);
    expect(calibrate([])).toMatchObject({ ok: false });
    const small = charts[0].corners.map((corner) => ({
      ...corner,
      at: [corner.at[0] * 0.4, corner.at[1] * 0.4] as Point
    }));
    const refused = calibrate([small]);
    expect(refused.ok ? '' : refused.reason).toMatch(/reaches only \d+ %/);
    const bent = charts[0].corners.map((corner, i) => ({
      ...corner,
      at: [corner.at[0] + (i % 3) * 0.004, corner.at[1]] as Point
    }));
    const poor = calibrate([bent]);
    expect(poor.ok ? '' : poor.reason).toMatch(/do not fit a flat chart: \d/);
  });
});

describe('coloured edges of a picture', () => {
  const frame = expose(lightScene(chartWall()), { ...VIEWS[0], seed: 21 });

  it('are measured from the picture itself: under 0.15 px are left in the outer third', () => {
    const edges: LateralEdge[] = measureEdges(mosaicSource(frame));
    const fit = fitLateral(edges, halfDiagonal(SIZE));
    if (!fit.ok) throw new Error(fit.reason);
    for (let r = 0.67; r <= 0.95; r += 0.03) {
      for (const colour of ['red', 'blue'] as const) {
        const error = lateralShift(fit.lateral[colour], r) - lateralShift(TRUTH.lateral[0][colour], r);
        expect(Math.abs(error) * r * halfDiagonal(SIZE)).toBeLessThan(0.15);
      }
    }
    const before = fringeReading(edges, null, halfDiagonal(SIZE))!;
    const after = fringeReading(edges, fit.lateral, halfDiagonal(SIZE))!;
    expect(before.worst).toBeGreaterThan(0.35);
    // Single colours of a mosaic are coarse: most of what is left is the scatter of the measurement.
    expect(after.worst).toBeLessThan(0.3);
  });

  it('stay where the lens put them when the mosaic is developed with the guide', () => {
    const [truth] = TRUTH.lateral;
    const left = (guide: Lateral | null): number => {
      const edges = measureEdges(planesSource(develop({ ...frame, lateral: guide })));
      return fringeReading(edges, truth, halfDiagonal(SIZE))!.worst;
    };
    expect(left(truth)).toBeLessThan(left(null) * 0.6);
  });

  it('are not guessed at from a picture without edges', () => {
    const plain = allocatePlanes(600, 400);
    for (const plane of [plain.r, plain.g, plain.b]) plane.fill(0.4);
    const fit = fitLateral(measureEdges(planesSource(plain)), 360);
    expect(fit.ok ? '' : fit.reason).toMatch(/Only 0 clean edges/);
    expect(fringeReading([], null, 360)).toBeNull();
  });
});
