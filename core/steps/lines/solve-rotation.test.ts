import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../../math/frame-geometry.ts';
import { type LensModel, distort, lensModel } from '../../optics/lens-model.ts';
import type { Mark } from './mark.ts';
import {
  type Angles,
  anglesFromRotation,
  rotationDistance,
  rotationFromAngles
} from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply, transpose } from '../../math/matrix3.ts';
import { type TrueUpMode, solveRotation } from './solve-rotation.ts';

interface Camera {
  angles: Angles;
  focal: number;
  model: LensModel;
}

const camera = fc.record({
  roll: fc.double({ min: -10, max: 10, noNaN: true }),
  pitch: fc.double({ min: -30, max: 30, noNaN: true }),
  yaw: fc.double({ min: -40, max: 40, noNaN: true }),
  focal: fc.double({ min: 0.6, max: 3, noNaN: true }),
  k1: fc.double({ min: -0.1, max: 0.05, noNaN: true }),
  seed: fc.integer({ min: 1, max: 1e6 })
});

/** Where the camera sees a point of the upright plane at depth 1. */
function see(cam: Camera, upright: Vector3): Point | null {
  const [x, y, z] = apply(transpose(rotationFromAngles(cam.angles)), upright);
  if (z < 0.1) return null;
  return distort([(cam.focal * x) / z, (cam.focal * y) / z], cam.model);
}

/** Plumb and level edges on walls at several depths, as seen; only those inside the frame. */
function seenLines(cam: Camera, withLevel: boolean, jitter: () => number): Mark[] {
  const marks: Mark[] = [];
  const add = (kind: Mark['kind'], p: Vector3, q: Vector3): void => {
    const a = see(cam, p);
    const b = see(cam, q);
    if (!a || !b || [a, b].some(([x, y]) => Math.hypot(x, y) > 1)) return;
    if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 0.15) return;
    const shift = ([x, y]: Point): Point => [x + jitter(), y + jitter()];
    marks.push({ id: String(marks.length), kind, a: shift(a), b: shift(b) });
  };
  const tan = Math.tan((cam.angles.yaw * -1 * Math.PI) / 180);
  const reach = 1.1 / cam.focal;
  for (let i = -6; i <= 6; i++) {
    const x = (i / 6) * reach + tan;
    for (let j = -4; j <= 2; j++) {
      const y = (j / 3) * reach;
      add('plumb', [x, y, 1], [x, y + reach * 0.6, 1]);
      if (withLevel) add('level', [x, y, 1], [x + reach * 0.5, y, 1]);
    }
  }
  return marks;
}

function noise(seed: number, size: number): () => number {
  let state = seed;
  const uniform = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
  return () => size * Math.sqrt(-2 * Math.log(uniform() + 1e-12)) * Math.cos(2 * Math.PI * uniform());
}

const cameraOf = ({
  roll,
  pitch,
  yaw,
  focal,
  k1
}: {
  roll: number;
  pitch: number;
  yaw: number;
  focal: number;
  k1: number;
}): Camera => ({
  angles: { roll, pitch, yaw },
  focal,
  model: lensModel({ terms: [0, k1] })
});

describe('true up', () => {
  it('recovers roll and pitch from exact plumb lines within 0.01° for 200 random cameras', () => {
    let tried = 0;
    fc.assert(
      fc.property(camera, (c) => {
        const cam = cameraOf(c);
        const marks = seenLines(cam, false, () => 0);
        fc.pre(marks.length >= 2 && new Set(marks.map((m) => m.a[0].toFixed(1))).size > 2);
        const solution = solveRotation(marks, cam);
        if (!solution.ok) throw new Error(solution.reason);
        tried++;
        const found = rotationFromAngles({ ...solution.angles, yaw: 0 });
        const true2 = rotationFromAngles({ ...cam.angles, yaw: 0 });
        expect(rotationDistance(found, true2)).toBeLessThan(0.01);
      }),
      { numRuns: 220 }
    );
    expect(tried).toBeGreaterThanOrEqual(200);
  });

  it('recovers the whole rotation from exact plumb and level lines within 0.01°', () => {
    fc.assert(
      fc.property(camera, (c) => {
        const cam = cameraOf(c);
        const marks = seenLines(cam, true, () => 0);
        const level = marks.filter((m) => m.kind === 'level');
        fc.pre(level.length >= 4 && marks.length - level.length >= 4);
        const solution = solveRotation(marks, cam);
        if (!solution.ok) throw new Error(solution.reason);
        expect(solution.solved).toContain('yaw');
        expect(
          rotationDistance(rotationFromAngles(solution.angles), rotationFromAngles(cam.angles))
        ).toBeLessThan(0.01);
      }),
      { numRuns: 220 }
    );
  });

  it('stays within what the noise allows with line ends 0.5 px off at 24 MP', () => {
    const endError = 0.5 / 3606;
    const errors: number[] = [];
    fc.assert(
      fc.property(camera, (c) => {
        const cam = cameraOf(c);
        const marks = seenLines(cam, false, noise(c.seed, endError));
        fc.pre(marks.length >= 4 && new Set(marks.map((m) => m.a[0].toFixed(1))).size > 2);
        const solution = solveRotation(marks, { ...cam, endError });
        if (!solution.ok) throw new Error(solution.reason);
        const found = rotationFromAngles({ ...solution.angles, yaw: 0 });
        const error = rotationDistance(found, rotationFromAngles({ ...cam.angles, yaw: 0 }));
        const { roll = 0, pitch = 0 } = solution.uncertainty;
        // In units of the expected error: five times is beyond one in a million.
        errors.push(error / Math.hypot(roll, pitch));
        expect(error).toBeLessThan(5 * Math.hypot(roll, pitch) + 1e-6);
      }),
      { numRuns: 220 }
    );
    const rms = Math.sqrt(errors.reduce((sum, e) => sum + e * e, 0) / errors.length);
    expect(rms).toBeGreaterThan(0.4);
    expect(rms).toBeLessThan(1.6);
  });

  const options = { focal: 1.1, model: lensModel({}) };
  const plumb = (x: number, lean: number, id = 'p'): Mark => ({
    id,
    kind: 'plumb',
    a: [x + lean, -0.3],
    b: [x, 0.3]
  });

  it('asks for lines when there are none, and for longer ones when they are dots', () => {
    expect(solveRotation([], options)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('Draw two plumb lines')
    });
    const dot: Mark = { id: 'd', kind: 'plumb', a: [0.1, 0.1], b: [0.1, 0.1] };
    expect(solveRotation([dot], options)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('too short')
    });
  });

  it('sets only the roll from one plumb line and names what is missing', () => {
    const solution = solveRotation([plumb(0.4, 0.05)], options);
    expect(solution).toMatchObject({ ok: true, solved: ['roll'] });
    if (solution.ok) {
      expect(solution.angles.pitch).toBe(0);
      expect(solution.notices.join()).toContain('second plumb line is missing');
    }
  });

  it('does not invent a pitch from two plumb lines at the same place', () => {
    const solution = solveRotation([plumb(0.4, 0.05, 'a'), plumb(0.4005, 0.0501, 'b')], options);
    expect(solution).toMatchObject({ ok: true, solved: ['roll'] });
    if (solution.ok) expect(solution.notices.join()).toContain('too close');
  });

  it('levels from one level line', () => {
    const solution = solveRotation([{ id: 'l', kind: 'level', a: [-0.5, 0], b: [0.5, 0.05] }], options);
    expect(solution.ok && solution.angles.roll).toBeCloseTo((-Math.atan(0.05) * 180) / Math.PI, 6);
  });

  it('refuses marks that ask for an absurd turn', () => {
    const wrong: Mark[] = [
      { id: 'a', kind: 'plumb', a: [-0.5, -0.2], b: [0.5, -0.19] },
      { id: 'b', kind: 'plumb', a: [-0.5, 0.3], b: [0.5, 0.31] }
    ];
    expect(solveRotation(wrong, options)).toMatchObject({ ok: false });
  });
});

describe('angles', () => {
  it('survive the way through a rotation', () => {
    fc.assert(
      fc.property(camera, ({ roll, pitch, yaw }) => {
        const back = anglesFromRotation(rotationFromAngles({ roll, pitch, yaw }));
        expect(back.roll).toBeCloseTo(roll, 9);
        expect(back.pitch).toBeCloseTo(pitch, 9);
        expect(back.yaw).toBeCloseTo(yaw, 9);
      })
    );
  });
});

describe('a wild mark', () => {
  it('among six changes the result by under 0.05°, and is pointed out with what it is off by', () => {
    const truth = { roll: 1.2, pitch: 8, yaw: 0 };
    const focal = 1.1;
    const back = transpose(rotationFromAngles(truth));
    const mark = (x: number, id: string, lean = 0): Mark => {
      const end = (y: number): Point => {
        const [u, v, w] = apply(back, [x + lean * y, y, 1]);
        return [(focal * u) / w, (focal * v) / w];
      };
      return { id, kind: 'plumb', a: end(-0.3), b: end(0.3) };
    };
    const good = [-0.6, -0.35, -0.1, 0.2, 0.45, 0.65].map((x, i) => mark(x, `m${i}`));
    const options = { focal, model: lensModel({}) };
    for (const lean of [0.05, -0.2, 0.6]) {
      const marks = [...good.slice(0, 5), mark(0.65, 'wild', lean)];
      const clean = solveRotation(good, options);
      const solved = solveRotation(marks, options);
      if (!solved.ok || !clean.ok) throw new Error('These marks can be solved.');
      expect(
        rotationDistance(rotationFromAngles(solved.angles), rotationFromAngles(clean.angles))
      ).toBeLessThan(0.05);
      expect(solved.leftOut.map(({ id }) => id)).toEqual(['wild']);
      expect(solved.notices.join(' ')).toMatch(/Line 6 disagrees with the others by \d+\.\d°/);
      expect(clean.leftOut).toEqual([]);
    }
  });
});

describe('what should become true', () => {
  const truth = { roll: 1.5, pitch: 7, yaw: -9 };
  const focal = 1.1;
  const back = transpose(rotationFromAngles(truth));
  const end = (x: number, y: number): Point => {
    const [u, v, w] = apply(back, [x, y, 1]);
    return [(focal * u) / w, (focal * v) / w];
  };
  const marks: Mark[] = [
    ...[-0.5, 0.1, 0.6].map((x, i): Mark => ({
      id: `p${i}`,
      kind: 'plumb',
      a: end(x, -0.3),
      b: end(x, 0.3)
    })),
    ...[-0.3, 0.35].map((y, i): Mark => ({ id: `l${i}`, kind: 'level', a: end(-0.5, y), b: end(0.5, y) }))
  ];
  const options = { focal, model: lensModel({}) };
  const solved = (mode: TrueUpMode, of = marks): Angles => {
    const solution = solveRotation(of, { ...options, mode });
    if (!solution.ok) throw new Error(solution.reason);
    return solution.angles;
  };

  it('is the whole front, the verticals alone, both with the camera turned aside, or the horizon alone', () => {
    const front = solved('front');
    for (const name of ['roll', 'pitch', 'yaw'] as const) expect(front[name]).toBeCloseTo(truth[name], 4);
    const verticals = solved('verticals');
    expect(verticals.roll).toBeCloseTo(1.5, 4);
    expect(verticals.pitch).toBeCloseTo(7, 4);
    expect(verticals.yaw).toBe(0);
    const both = solved('both');
    expect(both.yaw).toBe(0);
    expect(both.pitch).not.toBeCloseTo(7, 6);
    const level = solved('level');
    expect(level).toMatchObject({ pitch: 0, yaw: 0 });
    // Without a level line, the horizon follows from the verticals.
    const fromPlumb = solved('level', marks.slice(0, 3));
    expect(fromPlumb.roll).toBeCloseTo(1.5, 4);
    expect(fromPlumb.pitch).toBe(0);
  });

  it('leaves out what was taken out, is nothing, or runs away from the camera; and a weight draws', () => {
    const clutter: Mark[] = [
      { id: 'x', kind: 'none', a: [-0.5, -0.2], b: [0.2, 0.4] },
      { id: 'y', kind: 'plumb', a: [-0.5, -0.2], b: [0.2, 0.4], out: true },
      { id: 'z', kind: 'level', a: [-0.5, -0.2], b: [0.2, 0.4], recedes: 'left' },
      { id: 's', kind: 'straight', a: [-0.5, -0.2], b: [0.2, 0.4] }
    ];
    expect(solved('front', [...marks, ...clutter])).toEqual(solved('front'));
    const leaning: Mark[] = [
      { id: 'a', kind: 'plumb', a: [-0.4, -0.3], b: [-0.4, 0.3] },
      { id: 'b', kind: 'plumb', a: [0.02, -0.3], b: [0, 0.3] },
      { id: 'c', kind: 'plumb', a: [0.42, -0.3], b: [0.4, 0.3] }
    ];
    const heavy = solved('verticals', [{ ...leaning[0], weight: 4 }, ...leaning.slice(1)]);
    expect(Math.abs(heavy.roll)).not.toBeCloseTo(Math.abs(solved('verticals', leaning).roll), 3);
  });

  it('holds within 0.05° with three marks of 1 px at 24 MP', () => {
    const off: number[] = [];
    for (let seed = 1; seed <= 60; seed++) {
      const jitter = noise(seed * 7919, 1 / 3606);
      const rough = marks.slice(0, 3).map((mark): Mark => {
        // Drawn over the whole height, as a user would.
        const x = [-0.5, 0.1, 0.6][Number(mark.id[1])];
        const shaken = ([u, v]: Point): Point => [u + jitter(), v + jitter()];
        return { ...mark, a: shaken(end(x, -0.45)), b: shaken(end(x, 0.4)) };
      });
      const r = rotationFromAngles({ ...solved('verticals', rough), yaw: 0 });
      const worst = [-0.5, 0, 0.6].map((x) => {
        const [p, q] = [end(x, -0.4), end(x, 0.4)].map(([u, v]) => apply(r, [u / focal, v / focal, 1]));
        return Math.atan((q[0] / q[2] - p[0] / p[2]) / (q[1] / q[2] - p[1] / p[2]));
      });
      off.push((Math.sqrt(worst.reduce((sum, w) => sum + w * w, 0) / 3) * 180) / Math.PI);
    }
    expect(off.sort((a, b) => a - b)[Math.floor(off.length * 0.95)]).toBeLessThan(0.05);
  });
});

describe('marks that say nothing of use', () => {
  const options = { focal: 1.1, model: lensModel({}) };
  it('give a reason, or the roll alone, and never a wild turn', () => {
    const fan = Array.from({ length: 8 }, (_, i): Mark => {
      const angle = (i / 8) * Math.PI;
      const [x, y] = [0.4 * Math.cos(angle), 0.4 * Math.sin(angle)];
      return { id: String(i), kind: 'plumb', a: [-x, -y], b: [x, y] };
    });
    // All through one point in the middle: plumb lines seen from straight above or below.
    expect(solveRotation(fan, options)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/90°|pitch|agree/)
    });
    const parallel = [-0.5, 0, 0.5].map((x): Mark => ({
      id: String(x),
      kind: 'plumb',
      a: [x, -0.3],
      b: [x, 0.3]
    }));
    const upright = solveRotation(parallel, options);
    if (!upright.ok) throw new Error(upright.reason);
    for (const name of ['roll', 'pitch', 'yaw'] as const) expect(upright.angles[name]).toBeCloseTo(0, 9);
    const same = [0, 1, 2].map((i): Mark => ({
      id: String(i),
      kind: 'plumb',
      a: [0.3, -0.3],
      b: [0.31, 0.3]
    }));
    expect(solveRotation(same, options)).toMatchObject({ ok: true, solved: ['roll'] });
    const outside: Mark[] = [
      { id: 'a', kind: 'plumb', a: [1.4, -1.5], b: [1.5, 1.5] },
      { id: 'b', kind: 'plumb', a: [-1.4, -1.5], b: [-1.5, 1.5] }
    ];
    const far = solveRotation(outside, options);
    if (far.ok) expect(Math.abs(far.angles.pitch)).toBeLessThan(60);
  });
});
