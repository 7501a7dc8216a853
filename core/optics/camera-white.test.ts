import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Matrix3, apply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';
import {
  LIGHTS,
  type CameraWhite,
  cameraBalance,
  neutralOf,
  planckian,
  whiteFor,
  whiteOfNeutral,
  whiteOfXyz,
  workingAsShot,
  xyzOfWhite
} from './camera-white.ts';

const WARM: Matrix3 = [0.93, -0.31, -0.06, -0.42, 1.22, 0.23, -0.08, 0.2, 0.6];
const COOL: Matrix3 = [0.82, -0.26, -0.09, -0.38, 1.18, 0.23, -0.06, 0.16, 0.62];
const toWorking: Matrix3 = [1.3, -0.2, -0.1, -0.1, 1.4, -0.3, 0.02, -0.32, 1.3];
const camera: CameraWhite = {
  neutral: [0.55, 1, 0.7],
  matrices: [
    { kelvin: 2856, xyzToCamera: WARM },
    { kelvin: 6504, xyzToCamera: COOL }
  ]
};

describe('whites of light', () => {
  it('have the temperatures that are known of them', () => {
    // CIE 015:2018: illuminants A and D65 by their chromaticities, and E.
    const xyz = (x: number, y: number): Vector3 => [x / y, 1, (1 - x - y) / y];
    expect(whiteOfXyz(xyz(0.44758, 0.40745)).kelvin).toBeCloseTo(2856, -1);
    expect(Math.abs(whiteOfXyz(xyz(0.44758, 0.40745)).tint)).toBeLessThan(0.8);
    const d65 = whiteOfXyz(xyz(0.31272, 0.32903));
    expect(Math.abs(d65.kelvin - 6504)).toBeLessThan(15);
    // 0.0032 above the locus, as is told of it: a little green.
    expect(d65.tint).toBeCloseTo(16, 0);
    const e = whiteOfXyz(xyz(1 / 3, 1 / 3));
    expect(Math.abs(e.kelvin - 5454)).toBeLessThan(15);
    expect(e.tint).toBeLessThan(-15);
    // The locus itself at 2,000 K, after Planck's law: u 0.3050, v 0.3593.
    expect(planckian(2000)[0]).toBeCloseTo(0.305, 3);
    expect(planckian(2000)[1]).toBeCloseTo(0.3591, 3);
  });

  it('come back from XYZ and from the sensor', () => {
    const kelvin = fc.double({ min: 2000, max: 20000, noNaN: true });
    fc.assert(
      fc.property(kelvin, fc.double({ min: -100, max: 100, noNaN: true }), (k, tint) => {
        const back = whiteOfXyz(xyzOfWhite({ kelvin: k, tint }));
        expect(Math.abs(1e6 / back.kelvin - 1e6 / k)).toBeLessThan(0.6);
        expect(Math.abs(back.tint - tint)).toBeLessThan(1);
        const seen = whiteOfNeutral(camera, neutralOf(camera, { kelvin: k, tint: tint / 3 }));
        expect(Math.abs(1e6 / seen.kelvin - 1e6 / k)).toBeLessThan(1);
        expect(Math.abs(seen.tint - tint / 3)).toBeLessThan(1);
      })
    );
  });

  it('are seen by the matrix of their temperature, and between two by both', () => {
    const green = ([r, g, b]: Vector3): Vector3 => [r / g, 1, b / g];
    const seen = (kelvin: number): Vector3 => neutralOf(camera, { kelvin, tint: 0 });
    const by = (matrix: Matrix3, kelvin: number): Vector3 =>
      green(apply(matrix, xyzOfWhite({ kelvin, tint: 0 })));
    seen(2400).forEach((value, i) => expect(value).toBeCloseTo(by(WARM, 2400)[i], 9));
    seen(9000).forEach((value, i) => expect(value).toBeCloseTo(by(COOL, 9000)[i], 9));
    // Half way by the reciprocal of temperature.
    const middle = 2 / (1 / 2856 + 1 / 6504);
    const mean = WARM.map((value, i) => (value + COOL[i]) / 2) as unknown as Matrix3;
    seen(middle).forEach((value, i) => expect(value).toBeCloseTo(by(mean, middle)[i], 9));
  });
});

describe('a balance', () => {
  it('as shot changes nothing', () => {
    const matrix = cameraBalance(camera, toWorking, whiteOfNeutral(camera, camera.neutral));
    [1, 0, 0, 0, 1, 0, 0, 0, 1].forEach((value, i) => expect(matrix[i]).toBeCloseTo(value, 3));
  });

  it('for what was picked makes it neutral, and names its light', () => {
    const channel = fc.double({ min: 0.3, max: 0.7, noNaN: true });
    fc.assert(
      fc.property(channel, channel, channel, (r, g, b) => {
        const white = whiteFor(camera, toWorking, [r, g, b]);
        fc.pre(white.kelvin > 1800 && white.kelvin < 20000 && Math.abs(white.tint) < 150);
        const out = apply(cameraBalance(camera, toWorking, white), [r, g, b]);
        // Equal in the sensor's balanced colours is equal in the working space.
        const mean = (out[0] + out[1] + out[2]) / 3;
        for (const value of out) expect(Math.abs(value / mean - 1)).toBeLessThan(0.01);
      })
    );
  });

  it('for warmer light is cooler', () => {
    const grey = (kelvin: number): Vector3 =>
      apply(cameraBalance(camera, toWorking, { kelvin, tint: 0 }), [0.4, 0.4, 0.4]);
    expect(grey(3000)[2]).toBeGreaterThan(grey(6000)[2]);
    expect(grey(3000)[0]).toBeLessThan(grey(6000)[0]);
    const tinted = (tint: number): Vector3 =>
      apply(cameraBalance(camera, toWorking, { kelvin: 5000, tint }), [0.4, 0.4, 0.4]);
    // More magenta: less green against the others.
    expect(tinted(50)[1] / (tinted(50)[0] + tinted(50)[2])).toBeLessThan(
      tinted(0)[1] / (tinted(0)[0] + tinted(0)[2])
    );
  });
});

describe('greys under another white', () => {
  const luminance = ([r, g, b]: Vector3): number => 0.2627002 * r + 0.6779981 * g + 0.0593017 * b;
  it('stay as light as they were, however far the light is turned', () => {
    const cameras: CameraWhite[] = [
      camera,
      { ...camera, fromFile: true },
      { neutral: camera.neutral, matrices: [{ kelvin: 6504, xyzToCamera: COOL }] }
    ];
    for (const each of cameras) {
      const working = each.fromFile ? workingAsShot(each) : toWorking;
      for (const kelvin of [2000, 2856, 5000, 9000, 20000])
        for (const tint of [-60, 0, 60])
          expect(
            luminance(apply(cameraBalance(each, working, { kelvin, tint }), [0.3, 0.3, 0.3]))
          ).toBeCloseTo(0.3, 4);
    }
  });

  it('are neutral by the presets under the lights that they are named for', () => {
    // Daylight by CIE 015:2018, 4.1.2, as the sensor sees it, and illuminant A.
    const daylight = (kelvin: number): [number, number] => {
      const x =
        kelvin <= 7000
          ? 0.244063 + 99.11 / kelvin + 2967800 / kelvin ** 2 - 4607000000 / kelvin ** 3
          : 0.23704 + 247.48 / kelvin + 1901800 / kelvin ** 2 - 2006400000 / kelvin ** 3;
      return [x, -3 * x * x + 2.87 * x - 0.275];
    };
    const lights = { daylight: 5300, cloudy: 6200, shade: 7500, flash: 5600 } as const;
    for (const [name, kelvin] of Object.entries(lights)) {
      const [x, y] = daylight(kelvin);
      const { tint } = whiteOfXyz([x / y, 1, (1 - x - y) / y]);
      const preset = LIGHTS[name as keyof typeof lights];
      expect(preset.kelvin).toBe(kelvin);
      expect(Math.abs(preset.tint - tint), name).toBeLessThan(0.5);
    }
    const a = whiteOfXyz([0.44758 / 0.40745, 1, (1 - 0.44758 - 0.40745) / 0.40745]);
    expect(Math.abs(LIGHTS.tungsten.tint - a.tint)).toBeLessThan(0.8);
    expect(Math.abs(LIGHTS.tungsten.kelvin - a.kelvin)).toBeLessThan(15);
  });
});
