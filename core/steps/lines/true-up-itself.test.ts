import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { gaussian, seededRandom } from '../../math/random.ts';
import { NO_DISTORTION } from '../../optics/lens-model.ts';
import type { Segment } from './find-segments.ts';
import { type KnownRectangle, rectangleReading } from './known-rectangle.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply, transpose } from '../../math/matrix3.ts';
import { trueUpItself } from './true-up-itself.ts';

const random = seededRandom(77);
const between = (low: number, high: number): number => low + (high - low) * random();
const HALF: Point = [0.832, 0.5547];
/** A third of a pixel of a 2048 px proxy. */
const NOISE = 0.33 / 1231;

interface Camera {
  angles: Angles;
  focal: number;
}

/** A segment of the world (x right, y up, z away, camera at the origin) as the camera sees it; null when hardly visible. */
function seen(p: Vector3, q: Vector3, { angles, focal }: Camera, noise = NOISE): Segment | null {
  const back = transpose(rotationFromAngles(angles));
  const ends: Point[] = [];
  for (let i = 0; i <= 200; i++) {
    const t = i / 200;
    const [x, y, z] = apply(back, [
      p[0] + (q[0] - p[0]) * t,
      -(p[1] + (q[1] - p[1]) * t),
      p[2] + (q[2] - p[2]) * t
    ]);
    if (z < 0.1) continue;
    const place: Point = [(focal * x) / z, (focal * y) / z];
    if (Math.abs(place[0]) < HALF[0] && Math.abs(place[1]) < HALF[1]) ends.push(place);
  }
  if (ends.length < 2) return null;
  const jitter = ([x, y]: Point): Point => [x + gaussian(random) * noise, y + gaussian(random) * noise];
  const [a, b] = [jitter(ends[0]), jitter(ends[ends.length - 1])];
  const length = Math.hypot(a[0] - b[0], a[1] - b[1]);
  return length > 0.03 ? { a, b, length, error: NOISE } : null;
}

interface Scene {
  segments: Segment[];
  /** Plumb edges without noise. */
  truth: Segment[];
}

/** Two walls at a right angle with windows, among clutter: leaves, a stair rail, a roof slope. */
function scene(camera: Camera, windows: number, clutter: number): Scene {
  const plumb: Segment[] = [];
  const truth: Segment[] = [];
  const others: Segment[] = [];
  const add = (to: Segment[], p: Vector3, q: Vector3): void => {
    const segment = seen(p, q, camera);
    if (segment) to.push(segment);
  };
  const depth = between(8, 16);
  for (let i = 0; i < windows; i++) {
    const front = random() < 0.7;
    const at = between(-9, 9);
    const [low, high] = [between(-1.5, 2), between(2.5, 9)];
    const place = (s: number, y: number): Vector3 =>
      front ? [s, y, depth] : [-9, y, depth - 9 + Math.abs(s)];
    const edge = seen(place(at, low), place(at, high), camera, 0);
    if (edge) {
      truth.push(edge);
      add(plumb, place(at, low), place(at, high));
    }
    add(others, place(at, low), place(at + 1.4, low));
    add(others, place(at, high), place(at + 1.4, high));
  }
  const rail: Vector3 = [between(-4, 4), between(-1, 0), depth - 2];
  for (let i = 0; i < 4; i++)
    add(others, [rail[0], rail[1] + i * 0.2, rail[2]], [rail[0] + 2, rail[1] + 1.4 + i * 0.2, rail[2] + 2]);
  add(others, [-9, 9, depth], [0, 12, depth]);
  add(others, [9, 9, depth], [0, 12, depth]);
  for (let i = 0; i < clutter; i++) {
    const a: Point = [between(-0.8, 0.8), between(-0.5, 0.5)];
    const angle = between(0, Math.PI);
    const length = between(0.03, 0.08);
    others.push({
      a,
      b: [a[0] + Math.cos(angle) * length, a[1] + Math.sin(angle) * length],
      length,
      error: NOISE
    });
  }
  return { truth, segments: [...plumb, ...others].sort((p, q) => q.length - p.length) };
}

/** RMS angle from vertical, in degrees, of plumb segments after a rotation. */
function leanAfter(plumb: readonly Segment[], focal: number, angles: Angles): number {
  const r = rotationFromAngles(angles);
  let sum = 0;
  let total = 0;
  for (const { a, b, length } of plumb) {
    const [p, q] = [a, b].map(([x, y]) => apply(r, [x / focal, y / focal, 1]));
    const dx = q[0] / q[2] - p[0] / p[2];
    const dy = q[1] / q[2] - p[1] / p[2];
    sum += length * ((Math.atan(dx / dy) * 180) / Math.PI) ** 2;
    total += length;
  }
  return Math.sqrt(sum / total);
}

/** Percent by which a 4:3 rectangle on the front comes out wrong. */
function proportionError({ angles: truth, focal }: Camera, angles: Angles): number {
  const back = transpose(rotationFromAngles(truth));
  const corners = (
    [
      [-1, -0.75, 4],
      [1, -0.75, 4],
      [1, 0.75, 4],
      [-1, 0.75, 4]
    ] as Vector3[]
  ).map((corner) => {
    const [x, y, z] = apply(back, corner);
    return [(focal * x) / z, (focal * y) / z] as Point;
  }) as KnownRectangle['corners'];
  const projection = {
    size: { width: 3, height: 2 },
    focal,
    model: NO_DISTORTION,
    rotation: rotationFromAngles(angles)
  };
  return Math.abs(rectangleReading({ corners, ratio: 4 / 3 }, projection)?.error ?? 100);
}

describe('truing up by itself', () => {
  it('sets verticals within 0.1° in 95 % of cluttered frames with six plumb edges, and makes none worse by 0.3°', () => {
    let judged = 0;
    let good = 0;
    let level = 0;
    let squared = 0;
    let levelled = 0;
    const proportions: number[] = [];
    for (let n = 0; n < 300; n++) {
      const camera: Camera = {
        angles: { roll: between(-10, 10), pitch: between(-12, 35), yaw: between(-45, 45) },
        focal: Math.exp(between(Math.log(12), Math.log(90))) / 21.6333
      };
      const { segments, truth } = scene(camera, 14, 60);
      const found = trueUpItself(segments, { focal: camera.focal });
      if (truth.length === 0) continue;
      const before = leanAfter(truth, camera.focal, { roll: 0, pitch: 0, yaw: 0 });
      const after = found.ok ? leanAfter(truth, camera.focal, found.angles) : before;
      expect(after).toBeLessThan(before + 0.3);
      if (truth.length < 6) continue;
      judged++;
      if (after < 0.1) good++;
      if (found.ok && Math.abs(found.angles.roll - camera.angles.roll) < 0.15) levelled++;
      if (found.ok && found.front) {
        level++;
        if (Math.abs(found.front.yaw - camera.angles.yaw) < 5)
          proportions.push(proportionError(camera, { ...found.angles, yaw: found.front.yaw }));
        if (
          Math.abs(found.front.yaw - camera.angles.yaw) < 0.6 ||
          Math.abs(Math.abs(found.front.yaw - camera.angles.yaw) - 90) < 0.6
        )
          squared++;
      }
    }
    expect(judged).toBeGreaterThan(120);
    expect(good / judged).toBeGreaterThan(0.95);
    expect(squared / level).toBeGreaterThan(0.9);
    expect(levelled / judged).toBeGreaterThan(0.9);
    expect(proportions.length).toBeGreaterThan(40);
    expect(proportions.filter((off) => off < 0.5).length / proportions.length).toBeGreaterThan(0.9);
  });

  it('leaves pictures alone that show nothing sure, and says why', () => {
    const camera = { angles: { roll: 0, pitch: 0, yaw: 0 }, focal: 1.1 };
    const reason = (segments: Segment[]): string => {
      const found = trueUpItself(segments, { focal: 1.1 });
      return found.ok ? 'trued up' : found.reason;
    };
    expect(reason([])).toMatch(/too few upright lines/);
    for (let n = 0; n < 20; n++) expect(reason(scene(camera, 0, 120).segments)).toMatch(/Left as it is/);
    // One lamp post: upright lines, but all in one place.
    const post = [-0.02, -0.01, 0, 0.01, 0.02, 0.03].map((x): Segment => ({
      a: [x, -0.4],
      b: [x, 0.4],
      length: 0.8,
      error: NOISE
    }));
    expect(reason(post)).toMatch(/too close together/);
    // A rail and a roof alone are no plumb lines.
    const rails = Array.from({ length: 12 }, (_, i): Segment => ({
      a: [-0.5 + i * 0.06, 0.3],
      b: [-0.2 + i * 0.06, -0.2],
      length: 0.58,
      error: NOISE
    }));
    expect(reason(rails)).toMatch(/Left as it is/);
  });

  it('tells an unknown focal length where two fronts at a right angle show, and else leaves it', () => {
    let told = 0;
    let right = 0;
    for (let n = 0; n < 40; n++) {
      const camera: Camera = {
        angles: { roll: between(-4, 4), pitch: between(0, 12), yaw: between(-35, -15) },
        focal: between(0.6, 1.4)
      };
      const { segments } = scene(camera, 40, 30);
      const found = trueUpItself(segments, { focal: 1.29, focalKnown: false });
      if (!found.ok || found.solvedFocal === null) continue;
      told++;
      if (Math.abs(found.solvedFocal / camera.focal - 1) < 0.05) right++;
    }
    expect(told).toBeGreaterThan(10);
    expect(right / told).toBeGreaterThan(0.9);
  });
});
