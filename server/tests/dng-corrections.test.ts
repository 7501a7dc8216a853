import { describe, expect, it } from 'vitest';
import type { Point } from '../../core/math/frame-geometry.ts';
import { mapGain } from '../../core/optics/falloff.ts';
import { distort, lateralShift, lensModel } from '../../core/optics/lens-model.ts';
import { profileTerms } from '../../core/optics/profile.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { BLACK, type Capture } from '../../scenes/camera/capture.ts';
import { writeDng } from '../../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts } from '../../scenes/demo-frames.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { readOpcodes } from '../decode/dng-corrections.ts';

const WIDTH = 240;
const HEIGHT = 160;
const UNIT = Math.hypot(WIDTH, HEIGHT) / 2;

interface Part {
  id: number;
  words?: number[];
  doubles?: number[];
  floats?: number[];
  /** Doubles come before words that follow them, as in gain maps. */
  after?: number[];
}

/** An opcode list as the specification lays it out: big-endian. */
function opcodeList(parts: Part[]): Uint8Array {
  const bodies = parts.map(({ words = [], doubles = [], after = [], floats = [] }) => {
    const body = new DataView(
      new ArrayBuffer(words.length * 4 + doubles.length * 8 + after.length * 4 + floats.length * 4)
    );
    let at = 0;
    for (const word of words) body.setUint32((at += 4) - 4, word);
    for (const value of doubles) body.setFloat64((at += 8) - 8, value);
    for (const word of after) body.setUint32((at += 4) - 4, word);
    for (const value of floats) body.setFloat32((at += 4) - 4, value);
    return new Uint8Array(body.buffer);
  });
  const out = new Uint8Array(4 + bodies.reduce((sum, body) => sum + 16 + body.length, 0));
  const view = new DataView(out.buffer);
  view.setUint32(0, parts.length);
  let at = 4;
  parts.forEach(({ id }, i) => {
    view.setUint32(at, id);
    view.setUint32(at + 4, 0x01030000);
    view.setUint32(at + 12, bodies[i].length);
    out.set(bodies[i], at + 16);
    at += 16 + bodies[i].length;
  });
  return out;
}

async function decodeWith(parts: Part[], turns: Capture['turns'] = 0) {
  const data = new Uint16Array(WIDTH * HEIGHT).fill(BLACK + 3000);
  const facts = { ...dngFacts(DEMO_FRAMES[0]), lens: 'Unheard-of 24 mm', opcodes: opcodeList(parts) };
  return (await decodeFile(writeDng({ data, width: WIDTH, height: HEIGHT, turns }, facts), 'own.dng')).facts;
}

/** The specification's rectilinear warp, evaluated plainly: corrected to stored place, in pixels. */
function warp(k: number[], [cx, cy]: Point, [x, y]: Point): Point {
  const [px, py] = [cx * WIDTH, cy * HEIGHT];
  const m = Math.hypot(Math.max(px, WIDTH - px), Math.max(py, HEIGHT - py));
  const [dx, dy] = [(x - px) / m, (y - py) / m];
  const r2 = dx * dx + dy * dy;
  const f = k[0] + r2 * (k[1] + r2 * (k[2] + r2 * k[3]));
  return [
    px + m * (dx * f + k[4] * 2 * dx * dy + k[5] * (r2 + 2 * dx * dx)),
    py + m * (dy * f + k[5] * 2 * dx * dy + k[4] * (r2 + 2 * dy * dy))
  ];
}

describe('corrections that a DNG carries for itself', () => {
  const green = [1.02, -0.06, 0.012, -0.002, 0.001, -0.0015];
  const red = [1.0205, -0.0601, 0.012, -0.002, 0.001, -0.0015];
  const blue = [1.0194, -0.0598, 0.012, -0.002, 0.001, -0.0015];
  const centre: Point = [0.51, 0.49];

  it('are offered as a profile whose map is that of the specification', async () => {
    const facts = await decodeWith([{ id: 1, words: [3], doubles: [...red, ...green, ...blue, ...centre] }]);
    const profile = facts.corrections!;
    const terms = profileTerms(profile, { focalLength: 24, sensorHalfDiagonal: profile.sensorHalfDiagonal });
    const model = lensModel(terms.distortion!, 1, terms.lateral);
    const [ox, oy] = [centre[0] * WIDTH, centre[1] * HEIGHT];
    for (const [x, y] of [
      [10, 10],
      [200, 30],
      [120, 150],
      [235, 155],
      [60, 90]
    ] as Point[]) {
      const truth = warp(green, centre, [x, y]);
      // Ours keeps scale 1 in the middle: the corrected picture is larger by the first coefficient.
      const upright: Point = [
        (ox + (x - ox) * green[0] - WIDTH / 2) / UNIT,
        (oy + (y - oy) * green[0] - HEIGHT / 2) / UNIT
      ];
      const [u, v] = distort(upright, model);
      expect(Math.hypot(u * UNIT + WIDTH / 2 - truth[0], v * UNIT + HEIGHT / 2 - truth[1])).toBeLessThan(
        0.01
      );
      const place = warp([...green.slice(0, 4), 0, 0], centre, [x, y]);
      const redPlace = warp([...red.slice(0, 4), 0, 0], centre, [x, y]);
      const d = Math.hypot(place[0] - ox, place[1] - oy);
      const ratio = Math.hypot(redPlace[0] - ox, redPlace[1] - oy) / d - 1;
      expect(Math.abs(lateralShift(terms.lateral!.red, d / UNIT) - ratio) * d).toBeLessThan(0.01);
    }
  });

  it('apply by themselves when nothing better is known, and only then', async () => {
    const facts = await decodeWith([{ id: 1, words: [1], doubles: [...green, ...centre] }]);
    const lens = completeRecipe().lens;
    expect(setupFrame(facts, lens, { auto: null, known: [] }).profile?.id).toBe('file');
    const better = { ...facts.corrections!, id: 'better' };
    expect(setupFrame(facts, lens, { auto: better, known: [better] }).profile?.id).toBe('better');
    expect(setupFrame(facts, { ...lens, profile: 'file' }, { auto: better, known: [] }).profile?.id).toBe(
      'file'
    );
    expect(setupFrame(facts, { ...lens, profile: 'none' }, { auto: better, known: [] }).profile).toBeNull();
  });

  it('know fisheyes, with the focal length that they take for granted', async () => {
    const k = [0.98, -0.03, 0.004, 0];
    const facts = await decodeWith([{ id: 2, words: [1], doubles: [...k, 0.5, 0.5] }]);
    const profile = facts.corrections!;
    expect(profile.projection).toBe('equidistant');
    const { optics, terms } = setupFrame(facts, completeRecipe().lens, { auto: null, known: [] });
    const model = lensModel({ projection: terms!.projection, focal: optics.focal, ...terms!.distortion });
    for (const r of [0.2, 0.6, 1.1, 2]) {
      const theta = Math.atan(r);
      const truth = k[0] * theta + k[1] * theta ** 3 + k[2] * theta ** 5;
      // The flat picture's focal length is the lens's own here, and one half diagonal there.
      expect(distort([r * optics.focal, 0], model)[0]).toBeCloseTo(truth, 6);
    }
  });

  it('give radial gains and gain maps as one map, relative to the middle, turned with the picture', async () => {
    const radial = { id: 3, doubles: [0.4, 0.1, 0, 0, 0, 0.5, 0.5] };
    // Brighter by half towards the right edge of the stored picture, in all colours.
    const map = {
      id: 9,
      words: [0, 0, HEIGHT, WIDTH, 0, 3, 1, 1, 1, 2],
      doubles: [1, 1, 0, 0],
      after: [1],
      floats: [1, 1.5]
    };
    const facts = await decodeWith([radial]);
    const corner = mapGain(facts.corrections!.gainMap!, 1, 1, 1);
    expect(corner).toBeCloseTo(1.5, 3);
    const upright = (await decodeWith([map])).corrections!.gainMap!;
    expect(mapGain(upright, 1, 0, 0) / mapGain(upright, -1, 0, 0)).toBeCloseTo(1.5, 3);
    const turned = (await decodeWith([map], 1)).corrections!.gainMap!;
    expect(mapGain(turned, 0, 1, 2) / mapGain(turned, 0, -1, 2)).toBeCloseTo(1.5, 3);
  });

  it('shift what is decentred as the stored picture does, whichever way it is set upright', async () => {
    const k = [1, -0.02, 0, 0, 0.012, -0.02];
    const off: Point = [0.53, 0.46];
    // A place of the stored picture once the picture stands upright, turned by so many quarters to the right.
    const standing = ([x, y]: Point, turns: number): Point =>
      (
        [
          [x, y],
          [HEIGHT - y, x],
          [WIDTH - x, HEIGHT - y],
          [y, WIDTH - x]
        ] as Point[]
      )[turns];
    for (const turns of [0, 1, 2, 3] as const) {
      const facts = await decodeWith([{ id: 1, words: [1], doubles: [...k, ...off] }], turns);
      const profile = facts.corrections!;
      const terms = profileTerms(profile, {
        focalLength: 24,
        sensorHalfDiagonal: profile.sensorHalfDiagonal
      });
      const model = lensModel(terms.distortion!, 1, terms.lateral);
      const { width, height } = facts.size;
      for (const place of [
        [10, 10],
        [200, 30],
        [120, 150],
        [60, 90]
      ] as Point[]) {
        const [x, y] = standing(place, turns);
        const [u, v] = distort([(x - width / 2) / UNIT, (y - height / 2) / UNIT], model);
        const [tx, ty] = standing(warp(k, off, place), turns);
        const away = Math.hypot(u * UNIT + width / 2 - tx, v * UNIT + height / 2 - ty);
        expect(away, `turned ${turns} times, at ${place.join()}`).toBeLessThan(0.01);
      }
    }
  });

  it('take both greens’ own maps as one, maps from where they begin, and the last term of a radial gain', async () => {
    const mapFor = (top: number, left: number, gain: number) => ({
      id: 9,
      words: [top, left, HEIGHT, WIDTH, 0, 1, 2, 2, 1, 2],
      // From the middle of the picture on, over half of it.
      doubles: [1, 0.5, 0, 0.5],
      after: [1],
      floats: [1, gain]
    });
    const { gainMap } = (await decodeWith([mapFor(0, 1, 2), mapFor(1, 0, 2)])).corrections!;
    // The left border, the middle, between, and the right border.
    const green = [-1, 0, 0.5, 1].map((share) => mapGain(gainMap!, share, 0, 1));
    [1, 1, 1.5, 2].forEach((gain, i) => expect(green[i]).toBeCloseTo(gain, 2));
    expect(mapGain(gainMap!, 1, 0, 0)).toBeCloseTo(1, 3);
    const last = (await decodeWith([{ id: 3, doubles: [0, 0, 0, 0, 0.5, 0.5, 0.5] }])).corrections!.gainMap!;
    expect(mapGain(last, 1, 1, 1)).toBeCloseTo(1.5, 3);
    expect(mapGain(last, 0, 0, 1)).toBeCloseTo(1, 3);
  });

  it('are left alone where they are damaged or make no sense', async () => {
    const fold = await decodeWith([{ id: 1, words: [1], doubles: [1, -0.9, 0, 0, 0, 0, 0.5, 0.5] }]);
    expect(fold.corrections).toBeNull();
    expect((await decodeWith([{ id: 1, words: [7], doubles: [1] }])).corrections).toBeNull();
    expect((await decodeWith([{ id: 77, words: [1] }])).corrections).toBeNull();
    expect(readOpcodes(new Uint8Array([0, 0, 0, 9, 0, 0]))).toEqual([]);
    expect(readOpcodes(new Uint8Array(2))).toEqual([]);
  });
});
