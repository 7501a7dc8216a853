import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import { straightness } from '../../render/readings/straightness.ts';
import { gaussian, seededRandom } from '../../math/random.ts';
import type { Curve } from '../../optics/curve.ts';
import {
  type LensShape,
  distort,
  foldRadius,
  lensModel,
  lensShape,
  undistort
} from '../../optics/lens-model.ts';
import { solveCurves } from './solve-curves.ts';

const SIZE = { width: 6000, height: 4000 };
const UNIT = halfDiagonal(SIZE);
const HALF: Point = [3000 / UNIT, 2000 / UNIT];
const FOCAL = 12 / 21.6333;

const random = seededRandom(41);
const between = (low: number, high: number): number => low + (high - low) * random();

/** A straight line of the undistorted picture as the lens shows it: points within the frame, with noise. */
function seen(a: Point, b: Point, shape: Partial<LensShape>, noise: number, id: string): Curve {
  const model = lensModel(shape);
  const points: Point[] = [];
  let last: Point | null = null;
  for (let i = 0; i <= 8000; i++) {
    const t = i / 8000;
    const [x, y] = distort([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], model);
    // Evenly along the edge as photographed, as a tracer finds it.
    const apart = last ? Math.hypot(x - last[0], y - last[1]) : Infinity;
    if (apart < 0.02 || Math.abs(x) >= HALF[0] || Math.abs(y) >= HALF[1]) continue;
    last = [x, y];
    points.push([x + (gaussian(random) * noise) / UNIT, y + (gaussian(random) * noise) / UNIT]);
  }
  return { id, points };
}

/** Lines through two points of the frame as photographed. */
function through(a: Point, b: Point, shape: Partial<LensShape>, noise: number, id: string): Curve {
  const model = lensModel(shape);
  const p = undistort(a, model);
  const q = undistort(b, model);
  const longer = (s: number): Point => [p[0] + (q[0] - p[0]) * s, p[1] + (q[1] - p[1]) * s];
  return seen(longer(-0.6), longer(1.6), shape, noise, id);
}

const SIX: [Point, Point][] = [
  [
    [-0.8, -0.5],
    [0.8, -0.52]
  ],
  [
    [-0.8, 0.5],
    [0.8, 0.51]
  ],
  [
    [-0.78, -0.5],
    [-0.77, 0.5]
  ],
  [
    [0.79, -0.5],
    [0.77, 0.5]
  ],
  [
    [-0.6, -0.3],
    [0.7, -0.36]
  ],
  [
    [0.45, -0.5],
    [0.5, 0.5]
  ]
];

type Kind = 'barrel' | 'pincushion' | 'moustache' | 'fisheye';

function randomLens(kind: Kind): Partial<LensShape> {
  for (;;) {
    const shape: Partial<LensShape> =
      kind === 'barrel'
        ? { terms: [0, between(-0.14, -0.03), 0, between(0, 0.03)] }
        : kind === 'pincushion'
          ? { terms: [0, between(0.01, 0.06), 0, between(-0.01, 0.01)] }
          : kind === 'moustache'
            ? { terms: [0, between(-0.16, -0.08), 0, between(0.08, 0.16), 0, between(-0.04, 0)] }
            : {
                projection: (['equidistant', 'equisolid', 'stereographic'] as const)[
                  Math.floor(random() * 3)
                ],
                focal: 15 / 21.6333,
                terms: [0, between(-0.03, 0.03), 0, between(-0.01, 0.01)]
              };
    if (foldRadius(shape) === null)
      return { ...shape, centre: [between(-0.004, 0.004), between(-0.004, 0.004)] };
  }
}

/** Places that a flat picture shows stretched more than this are of no use to anyone: a fisheye's outermost ones. */
const MOST_STRETCH = 2;

/** RMS bend, in pixels, left in a net of straight lines over the whole frame. */
function leftOver(truth: Partial<LensShape>, terms: Partial<LensShape>): number {
  const lines: Curve[] = [];
  for (let i = -4; i <= 4; i++) {
    lines.push(through([-0.7, (i / 4) * 0.52], [0.7, (i / 4) * 0.52], truth, 0, `h${i}`));
    lines.push(through([(i / 4) * 0.8, -0.5], [(i / 4) * 0.8, 0.5], truth, 0, `v${i}`));
  }
  const model = lensModel(truth);
  for (const line of lines)
    line.points = line.points.filter(
      (p) => Math.hypot(...undistort(p, model)) < MOST_STRETCH * Math.hypot(...p)
    );
  const projection = { size: SIZE, focal: FOCAL, model: lensModel(terms), rotation: IDENTITY };
  return straightness(lines, projection)!.rms;
}

describe('distortion from marked curves', () => {
  const kinds: Kind[] = ['barrel', 'pincushion', 'moustache', 'fisheye'];
  it.each(kinds)('six curves with 0.3 px of noise straighten a random %s lens within 0.5 px', (kind) => {
    for (let n = 0; n < 5; n++) {
      const truth = randomLens(kind);
      const curves = SIX.map(([a, b], i) => through(a, b, truth, 0.3, `c${i}`));
      const solved = solveCurves(curves, { projection: truth.projection, focal: truth.focal });
      if (!solved.ok) throw new Error(solved.reason);
      const got = { ...lensShape(truth), terms: solved.terms, centre: solved.centre };
      const left = leftOver(truth, got);
      expect(left).toBeLessThan(0.5);
      expect(leftOver(truth, truth)).toBeLessThan(0.15);
      expect(solved.after).toBeLessThan(solved.before);
    }
  });

  it('leaves out an edge that is curved in truth, when asked to be robust', () => {
    const truth = { terms: [0, -0.08, 0, 0.01] };
    const curves = SIX.map(([a, b], i) => through(a, b, truth, 0.2, `c${i}`));
    const arch: Curve = {
      id: 'arch',
      points: Array.from({ length: 40 }, (_, i): Point => [
        -0.5 + i / 40,
        -0.45 + 0.12 * Math.sin((i / 40) * Math.PI)
      ])
    };
    const solved = solveCurves([...curves, arch], { robust: true });
    if (!solved.ok) throw new Error(solved.reason);
    expect(solved.leftOut).toEqual(['arch']);
    expect(leftOver(truth, { terms: solved.terms, centre: solved.centre })).toBeLessThan(0.5);
  });

  it('refuses what cannot tell, and says why', () => {
    const curve = (id: string, a: Point, b: Point, n = 20): Curve => ({
      id,
      points: Array.from({ length: n }, (_, i): Point => [
        a[0] + ((b[0] - a[0]) * i) / (n - 1),
        a[1] + ((b[1] - a[1]) * i) / (n - 1)
      ])
    });
    const reason = (curves: Curve[]): string => {
      const solved = solveCurves(curves);
      return solved.ok ? 'solved' : solved.reason;
    };
    expect(reason([])).toMatch(/at least two/);
    expect(reason([curve('a', [-0.8, 0.5], [0.8, 0.5])])).toMatch(/at least two/);
    expect(reason([curve('a', [0.5, 0.5], [0.52, 0.5]), curve('b', [0.5, -0.5], [0.5, -0.45])])).toMatch(
      /too short/
    );
    expect(reason([curve('a', [-0.8, 0], [0.8, 0.02]), curve('b', [0, -0.5], [0.01, 0.5])])).toMatch(
      /through the middle/
    );
    expect(reason([curve('a', [-0.8, 0], [0.8, 0.02]), curve('b', [0.6, -0.5], [0.6, 0.5])])).toMatch(
      /Only one/
    );
  });
});
