/** One lens from many frames: simulated ones, whose lens is known, and boards that nobody here photographed. */
import { describe, expect, it } from 'vitest';
import { bowLeft } from '../../../scenes/camera/straight-net.ts';
import { gaussian, seededRandom } from '../../math/random.ts';
import { edgesOf, realPhotograph } from '../../../scenes/real-photograph.ts';
import { type Point, halfDiagonal } from '../../math/frame-geometry.ts';
import { type LensShape, distort, lensModel } from '../../optics/lens-model.ts';
import { type FrameCurves, solveLensOfFrames } from './solve-lens-frames.ts';

const random = seededRandom(5150);
const between = (low: number, high: number): number => low + (high - low) * random();
/** A pixel of a 2048 px proxy, in field units. */
const PIXEL = 1 / 1231;
const SIZE = { width: 6000, height: 4000 };

/** Edges of one photograph: straight ones through a lens, and arcs, cables and figures that are not. */
function photograph(
  id: string,
  lens: Partial<LensShape>,
  straight: number,
  others: number,
  noise = 0.25
): FrameCurves {
  const model = lensModel(lens);
  const edge = (bend: number): Point[] | null => {
    const [angle, off] = [between(0, Math.PI), between(-0.85, 0.85)];
    const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
    const middle = between(-0.5, 0.5);
    const half = between(0.1, 0.5);
    const points = Array.from({ length: 60 }, (_, i): Point => {
      const t = middle + half * ((2 * i) / 59 - 1);
      const side = off + bend * (1 - ((2 * i) / 59 - 1) ** 2);
      const [x, y] = distort([t * dx - side * dy, t * dy + side * dx], model);
      return [x + gaussian(random) * noise * PIXEL, y + gaussian(random) * noise * PIXEL];
    });
    return points.every(([x, y]) => Math.abs(x) < 0.83 && Math.abs(y) < 0.55) ? points : null;
  };
  const some = (count: number, bend: () => number): Point[][] => {
    const made: Point[][] = [];
    while (made.length < count) {
      const points = edge(bend());
      if (points) made.push(points);
    }
    return made;
  };
  const curves = [
    ...some(straight, () => 0),
    ...some(others, () => (random() < 0.5 ? 1 : -1) * between(0.004, 0.05))
  ].map((points, i) => ({ id: `${id}-${i}`, points }));
  return { id, curves };
}

const set = (count: number, lens: Partial<LensShape>, noise?: number): FrameCurves[] =>
  Array.from({ length: count }, (_, i) => photograph(`frame-${i}`, lens, 14, 8, noise));
const options = { noise: 0.25 * PIXEL };

describe('a lens, by the edges of twelve frames', () => {
  it.each([
    ['barrel', [0, -0.09, 0, 0.02]],
    ['pincushion', [0, 0.05, 0, -0.01]],
    ['moustache', [0, -0.09, 0, 0.11, 0, -0.03]]
  ])('is told within 0.15 px of 24 MP, whatever else the frames show: %s', (_, terms) => {
    const solved = solveLensOfFrames(set(12, { terms }), options);
    if (!solved.ok) throw new Error(solved.reason);
    expect(bowLeft({ terms }, {}, SIZE)).toBeGreaterThan(4);
    expect(bowLeft({ terms }, solved, SIZE)).toBeLessThan(0.15);
    const corner = (of: readonly number[]): number => of.reduce((sum, term) => sum + term, 0);
    expect(Math.abs(corner(solved.terms) - corner(terms))).toBeLessThan(4 * solved.error + 2e-4);
    expect(solved.frames.every(({ other, used, found }) => !other && used >= 10 && used < found)).toBe(true);
    expect(solved.after).toBeLessThan(solved.before / 2);
  });

  it('weighs each frame by how well its edges are placed', () => {
    const terms = [0, -0.06];
    const rough = Array.from({ length: 6 }, (_, i) => ({
      ...photograph(`rough-${i}`, { terms }, 14, 4, 2.5),
      noise: 2.5 * PIXEL
    }));
    const fine = set(4, { terms }, 0.1);
    const solved = solveLensOfFrames([...rough, ...fine], options);
    if (!solved.ok) throw new Error(solved.reason);
    expect(bowLeft({ terms }, solved, SIZE)).toBeLessThan(0.3);
  });

  it('leaves out the frame that another lens took, and says which', () => {
    const frames = [...set(7, { terms: [0, -0.08] }), photograph('stranger', { terms: [0, 0.05] }, 14, 4)];
    const solved = solveLensOfFrames(frames, options);
    if (!solved.ok) throw new Error(solved.reason);
    expect(solved.frames.filter(({ other }) => other).map(({ id }) => id)).toEqual(['stranger']);
    expect(bowLeft({ terms: [0, -0.08] }, solved, SIZE)).toBeLessThan(0.3);
  });
});

describe('frames that tell no lens', () => {
  it('are refused where they were taken with two', () => {
    const frames = [...set(5, { terms: [0, -0.08] }), ...set(4, { terms: [0, 0.05] })];
    const solved = solveLensOfFrames(frames, options);
    expect(solved.ok ? '' : solved.reason).toMatch(/do not agree on one lens/);
  });

  it('are refused where they show no edges, too few, or none that are straight', () => {
    const bare = Array.from({ length: 5 }, (_, i) => ({ id: String(i), curves: [] }));
    const arcs = Array.from({ length: 5 }, (_, i) => photograph(String(i), {}, 0, 12));
    for (const frames of [[], bare, set(1, {}).map((f) => ({ ...f, curves: f.curves.slice(0, 3) })), arcs]) {
      const solved = solveLensOfFrames(frames, options);
      expect(solved.ok).toBe(false);
      expect(solved.frames.map(({ id }) => id)).toEqual(frames.map(({ id }) => id));
    }
  });

  it('are left alone where their lens has no bow', () => {
    const solved = solveLensOfFrames(set(8, {}), options);
    if (solved.ok) expect(bowLeft({}, solved, SIZE)).toBeLessThan(0.15);
    else expect(solved.reason).toMatch(/straight already/);
  });
});

describe('a board held by hand before a camera, thirteen times', () => {
  it('is told as it is by its corners', async () => {
    const frames: FrameCurves[] = [];
    let unit = 1;
    for (const n of [1, 2, 3, 5, 6, 7, 8, 9, 11, 12, 13, 14]) {
      const plane = await realPhotograph('boards', `right${String(n).padStart(2, '0')}.jpg`);
      unit = halfDiagonal(plane);
      frames.push({ id: String(n), curves: edgesOf(plane) });
    }
    const solved = solveLensOfFrames(frames, { noise: 0.25 / unit });
    if (!solved.ok) throw new Error(solved.reason);
    // Its corners, calibrated over all views.
    const board = { terms: [0, -0.1626, 0, 0.0439, 0, -0.0105], centre: [0.0254, 0.017] as Point };
    const size = { width: 640, height: 480 };
    expect(bowLeft(board, {}, size)).toBeGreaterThan(1);
    expect(bowLeft(board, solved, size, { span: 0.75 })).toBeLessThan(0.12);
    expect(solved.frames.filter(({ other }) => other)).toEqual([]);
  });
});
