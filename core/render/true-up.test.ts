/** Buildings seen steeply from below, by simulated cameras that know where the building's own edges lie. */
import { beforeAll, describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../math/random.ts';
import { type FrameSize, type Point, halfDiagonal } from '../math/frame-geometry.ts';
import { apply, transpose } from '../math/matrix3.ts';
import { rotationFromAngles } from '../math/rotation.ts';
import type { Vector3 } from '../math/vector3.ts';
import { completeRecipe } from '../recipe/recipe.ts';
import { patchedRecipe } from '../recipe/patched-recipe.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import type { Segment } from '../steps/lines/find-segments.ts';
import { type TrueUpItself, trueUpItself } from '../steps/lines/true-up-itself.ts';
import { type Plan, planFrame } from './plan.ts';
import { leastSampling } from './readings/measure.ts';
import { type TrueUp, trueUpRecipe } from './true-up.ts';

const random = seededRandom(2231);
const between = (low: number, high: number): number => low + (high - low) * random();
const NOISE = 0.33 / 1231;

interface Steep {
  optics: FrameOptics;
  ratio: string;
  /** The building's edges as the camera sees them, without noise: ends in field units. */
  edges: [Point, Point][];
  found: TrueUpItself;
  made: TrueUp;
}

/** A facade with rows of windows over a street, and the sky beyond it; the camera stands close before it and looks up. */
function steep(n: number): Steep {
  const size: FrameSize = n % 2 === 0 ? { width: 6000, height: 4000 } : { width: 4000, height: 6000 };
  const unit = halfDiagonal(size);
  const [halfX, halfY] = [size.width / 2 / unit, size.height / 2 / unit];
  const focal = between(0.65, 1.4);
  const angles = { roll: between(-2, 2), pitch: between(25, 45), yaw: between(-12, 12) };
  const back = transpose(rotationFromAngles(angles));
  // The middle of the view meets the facade: the subject is what is looked at.
  const distance = between(8, 20);
  const middle = distance * Math.tan((angles.pitch * Math.PI) / 180);
  const top = middle * between(1.15, 1.7) + 1;
  const half = between(5, 14);
  const place = (x: number, y: number): Vector3 => [x, y - 1.6, distance];
  const seen = (p: Vector3, q: Vector3): [Point, Point] | null => {
    const inside: Point[] = [];
    for (let i = 0; i <= 200; i++) {
      const t = i / 200;
      const [x, y, z] = apply(back, [
        p[0] + (q[0] - p[0]) * t,
        -(p[1] + (q[1] - p[1]) * t),
        p[2] + (q[2] - p[2]) * t
      ]);
      const at: Point = [(focal * x) / z, (focal * y) / z];
      if (z > 0.1 && Math.abs(at[0]) < halfX && Math.abs(at[1]) < halfY) inside.push(at);
    }
    return inside.length < 2 ? null : [inside[0], inside[inside.length - 1]];
  };
  const edges: [Point, Point][] = [];
  const add = (p: Vector3, q: Vector3): void => {
    const edge = seen(p, q);
    if (edge && Math.hypot(edge[0][0] - edge[1][0], edge[0][1] - edge[1][1]) > 0.03) edges.push(edge);
  };
  for (const x of [-half, half]) add(place(x, 0), place(x, top));
  add(place(-half, top), place(half, top));
  for (let y = 1; y + 2.2 < top; y += 3.4)
    for (let x = -half + 1; x + 1.4 < half; x += 2.6) {
      add(place(x, y), place(x, y + 2));
      add(place(x + 1.4, y), place(x + 1.4, y + 2));
      add(place(x, y), place(x + 1.4, y));
      add(place(x, y + 2), place(x + 1.4, y + 2));
    }
  const jitter = ([x, y]: Point): Point => [x + gaussian(random) * NOISE, y + gaussian(random) * NOISE];
  const segments = edges
    .map(([p, q]): Segment => {
      const [a, b] = [jitter(p), jitter(q)];
      return { a, b, length: Math.hypot(a[0] - b[0], a[1] - b[1]), error: NOISE };
    })
    .sort((p, q) => q.length - p.length);
  const optics = { size, focal, focalFrom: 'file' } as FrameOptics;
  const ratio = ['original', '4:5', '16:9', '1:1'][n % 4];
  const recipe = completeRecipe({ crop: { ratio } });
  const found = trueUpItself(segments, { focal });
  const made = trueUpRecipe(found, {
    recipe,
    mode: 'verticals',
    setup: () => ({ optics, terms: null })
  });
  return { optics, ratio, edges, found, made };
}

/** Share of the building's seen length, by the pixels that it was made of, within the plan's crop. */
function keptOf({ optics, edges }: Steep, plan: Plan): number {
  const { x, y, width, height } = plan.crop;
  let [kept, all] = [0, 0];
  for (const [a, b] of edges) {
    const length = Math.hypot(a[0] - b[0], a[1] - b[1]) / 20;
    for (let i = 0; i < 20; i++) {
      const t = (i + 0.5) / 20;
      const ray = [0, 1].map((c) => (a[c] + (b[c] - a[c]) * t) / optics.focal);
      const [X, Y, Z] = apply(plan.projection.rotation, [ray[0], ray[1], 1]);
      all += length;
      if (Z < 0.05) continue;
      const place = [(optics.focal * X) / Z, (optics.focal * Y) / Z];
      if (Math.abs(place[0] - x) <= width / 2 && Math.abs(place[1] - y) <= height / 2) kept += length;
    }
  }
  return kept / all;
}

const planOf = ({ optics, ratio }: Steep, patch: Parameters<typeof patchedRecipe>[1]): Plan =>
  planFrame(optics, completeRecipe(patchedRecipe({ crop: { ratio } }, patch)), null);

describe('a building seen from below, with a pitch of 25 to 45°', () => {
  let frames: Steep[] = [];
  beforeAll(() => (frames = Array.from({ length: 100 }, (_, n) => steep(n))));

  it('is trued up in nine of ten', () => {
    expect(frames.filter(({ made }) => made.ok).length).toBeGreaterThanOrEqual(90);
  });

  it('stays in the crop, whatever its ratio, and keeps its pixels', () => {
    for (const frame of frames) {
      const { made } = frame;
      if (!made.ok) continue;
      const plan = planOf(frame, made.patch);
      // What a crop of this ratio holds of the picture as it was taken.
      const most = keptOf(frame, planOf(frame, { crop: { keepMarked: false } }));
      expect(keptOf(frame, plan)).toBeGreaterThan(0.7 * Math.max(most, 0.8));
      expect(leastSampling(plan)).toBeGreaterThan(0.49);
      const held = made.patch.lines.holdBackPitch!;
      if (held > 0) expect(made.said).toContain(` ${held} % of the pitch is held back: all of it would `);
      else expect(made.said).not.toContain('held back');
    }
  });

  it('is cut off by the largest crop where nothing is held back, which is why', () => {
    const lost = frames.filter((frame) => {
      const { made } = frame;
      if (!made.ok || made.patch.lines.holdBackPitch === 0) return false;
      const full = {
        ...made.patch,
        lines: { ...made.patch.lines, holdBackPitch: 0 },
        crop: { keepMarked: false }
      };
      return keptOf(frame, planOf(frame, full)) < 0.75;
    });
    expect(lost.length).toBeGreaterThan(10);
  });

  it('is held back no more than needed: with a tenth less, it is cut off or stretched', () => {
    let held = 0;
    for (const frame of frames) {
      const { made } = frame;
      if (!made.ok || !(made.patch.lines.holdBackPitch! > 10)) continue;
      held++;
      const less = { ...made.patch.lines, holdBackPitch: made.patch.lines.holdBackPitch! - 10 };
      const plan = planOf(frame, { ...made.patch, lines: less });
      expect(keptOf(frame, plan) < 0.85 || leastSampling(plan) < 0.5).toBe(true);
      expect(made.patch.lines.holdBackPitch).toBeLessThan(90);
    }
    expect(held).toBeGreaterThan(20);
  });

  it('stays as far undone as it was by hand, and is looked at anew where it was held back by itself', () => {
    const { optics, found, made, ratio } = frames.find(
      (frame) => frame.made.ok && frame.made.patch.lines.holdBackPitch! > 10
    )!;
    if (!made.ok) throw new Error(made.said);
    const again = (lines: object): TrueUp => {
      const patch = { ...made.patch, lines: { ...made.patch.lines, ...lines } };
      const recipe = completeRecipe(patchedRecipe({ crop: { ratio } }, patch));
      return trueUpRecipe(found, { recipe, mode: 'verticals', setup: () => ({ optics, terms: null }) });
    };
    const byHand = again({ holdBackPitch: 20, heldByItself: 0 });
    expect(byHand.ok && byHand.patch.lines.holdBackPitch).toBeUndefined();
    const byItself = again({ holdBackPitch: 80, heldByItself: 80 });
    expect(byItself.ok && byItself.patch.lines.holdBackPitch).toBe(made.patch.lines.holdBackPitch);
  });
});
