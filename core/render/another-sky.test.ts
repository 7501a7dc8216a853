/** Another sky behind a demo frame, against the same scene taken under that sky: the building lit as it was. */
import { converter, differenceCiede2000 } from 'culori';
import { beforeAll, describe, expect, it } from 'vitest';
import { setupLens } from '../../scenes/camera/capture.ts';
import { SKY, seenMask } from '../../scenes/seen-mask.ts';
import { SKY_VIEWS } from '../../scenes/sky-pictures.ts';
import type { Colour } from '../../scenes/trace/materials.ts';
import type { Light } from '../../scenes/trace/scene.ts';
import { skyRadiance } from '../../scenes/trace/sky.ts';
import { srgbDecode, srgbEncode } from '../colour/srgb-transfer.ts';
import { type Point, halfDiagonal } from '../math/frame-geometry.ts';
import { invert3, multiply } from '../math/matrix3.ts';
import { rotationFromAngles } from '../math/rotation.ts';
import { transmission } from '../optics/falloff.ts';
import { undistort } from '../optics/lens-model.ts';
import { type PlacedPlanes, givePlanesBack } from '../picture/tile/planes.ts';
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import { storeSky } from '../steps/areas/another-sky/stored-sky.ts';
import { paint } from './painted-frame.ts';
import { type DemoShot, TO_WORKING, demoShot, developShot, renderShot } from './demo-frame.oracle.ts';

const EDGE = 900;
/** The file's own colours from linear sRGB. */
const FROM_SRGB = multiply(invert3(TO_WORKING), SRGB_TO_REC2020);

const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];

/** Light of a sky in sRGB at each pixel, as the lens lays it. */
function skyOver({ setup }: DemoShot, light: Light): Float32Array {
  const { width, height } = setup.size;
  const { model, focal, shading } = setupLens(setup);
  const m = rotationFromAngles(setup.angles);
  const unit = halfDiagonal(setup.size);
  const out = new Float32Array(3 * width * height);
  const seen: Colour = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 3) {
      const field: Point = [(x + 0.5 - width / 2) / unit, (y + 0.5 - height / 2) / unit];
      const [u, v] = undistort(field, model).map((each) => each / focal);
      const [dx, dy, dz] = [0, 3, 6].map((i) => m[i] * u + m[i + 1] * v + m[i + 2]);
      skyRadiance(light, dx, -dy, dz, seen, true);
      const dimmed = transmission(shading.terms, field[0] ** 2 + field[1] ** 2);
      seen.forEach((value, c) => (out[at + c] = value * dimmed));
    }
  return out;
}

/** Means over 3 x 3 pixels: grain is not what is looked at. */
function softened(codes: Uint16Array, width: number): Float64Array {
  const out = new Float64Array(codes.length);
  const height = codes.length / 3 / width;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++)
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) sum += codes[((y + dy) * width + x + dx) * 3 + c];
        out[(y * width + x) * 3 + c] = sum / 9 / 65535;
      }
  return out;
}

interface Compared {
  /** Mean ΔE of what is all sky, and within three pixels of what stands before it. */
  inside: number;
  near: number;
}

interface Trial {
  composed: Compared;
  /** The same with the shares that the camera truly sees, and both skies known: what no mask can do better. */
  known: Compared;
  /** As it was, without another sky. */
  before: Compared;
}

function tryOn(name: string, sky: string): Trial {
  const shot = demoShot(name, EDGE);
  shot.setup = { ...shot.setup, dust: false };
  const { size } = shot.setup;
  const { width } = size;
  const old = shot.lit.scene.light;
  const { zenith, horizon, cloud } = SKY_VIEWS[sky].light;
  const light = { ...old, zenith, horizon, cloud };
  const under = { ...shot, lit: { ...shot.lit, scene: { ...shot.lit.scene, light } } };
  const truth = seenMask(shot.lit, shot.setup, size, (seen) => seen === SKY);
  const [own, other] = [developShot(shot), developShot(under)];
  const all = Array.from(truth, (_, i) => i);
  const [front, back] = [0, 1].map((share) => all.filter((i) => truth[i] === share && i % 3 === 0));
  // Both are exposed by what they show: the building is to be as light in one as in the other.
  const even = front.filter((i) => Math.min(own.g[i], other.g[i]) > 0.02 && own.g[i] < 0.9);
  const gain = middle(even.map((i) => own.g[i] / other.g[i]));
  for (const plane of [other.r, other.g, other.b])
    for (let i = 0; i < plane.length; i++) if (plane[i] < 1) plane[i] *= gain;
  const inFile = (over: Float32Array, i: number): number[] =>
    [0, 3, 6].map(
      (row) =>
        FROM_SRGB[row] * over[3 * i] +
        FROM_SRGB[row + 1] * over[3 * i + 1] +
        FROM_SRGB[row + 2] * over[3 * i + 2]
    );
  const exposed = (planes: PlacedPlanes, over: Float32Array): Float32Array => {
    const by = middle(back.map((i) => planes.g[i] / inFile(over, i)[1]));
    return over.map((value) => value * by);
  };
  const [before, after] = [exposed(own, skyOver(shot, old)), exposed(other, skyOver(shot, light))];
  const codes = Uint16Array.from(after, (value) => 65535 * srgbEncode(Math.min(1, value)) + 0.5);
  const areas = {
    shapes: [{ id: 's', parts: [{ id: 'f', kind: 'found', meets: 'add', what: 'sky' }], radius: 12 }],
    // Its foot at the foot of the frame, and as wide: the picture is laid pixel on pixel.
    list: [{ id: 'a', shape: 's', sky: { picture: 'x', up: -50, scale: 100, match: 0 } }]
  };
  const plain = renderShot(own, shot, {});
  const composed = renderShot(own, shot, { areas } as never, storeSky({ ...size, codes }));
  const wanted = renderShot(other, under, {});
  for (const i of all) {
    if (truth[i] === 0) continue;
    const [was, is] = [inFile(before, i), inFile(after, i)];
    [own.r, own.g, own.b].forEach(
      (plane, c) => (plane[i] = Math.max(0, plane[i] + truth[i] * (is[c] - was[c])))
    );
  }
  const known = renderShot(own, shot, {});
  givePlanesBack(own);
  givePlanesBack(other);
  const lab = converter('lab65');
  const away = differenceCiede2000();
  const target = softened(wanted, width);
  const colourAt = (of: Float64Array, i: number) =>
    lab({ mode: 'rgb', r: of[3 * i], g: of[3 * i + 1], b: of[3 * i + 2] });
  const nearEdge = (i: number): boolean => {
    for (let dy = -3; dy <= 3; dy++)
      for (let dx = -3; dx <= 3; dx++) if ((truth[i + dy * width + dx] ?? truth[i]) !== truth[i]) return true;
    return false;
  };
  const compared = (of: Uint16Array): Compared => {
    const soft = softened(of, width);
    const mean = (some: number[]): number =>
      some.reduce((sum, i) => sum + away(colourAt(soft, i), colourAt(target, i)), 0) / some.length;
    const inner = all.filter((i) => i % width > 3 && i % width < width - 4 && i > 4 * width);
    const [inside, near] = [false, true].map((wants) =>
      inner.filter((i) => truth[i] > 0 && i % 2 === 0 && nearEdge(i) === wants)
    );
    return { inside: mean(inside), near: mean(near) };
  };
  return { composed: compared(composed), known: compared(known), before: compared(plain) };
}

describe('another sky', () => {
  // A light cornice before a blue sky; leaves with sky between them.
  describe.each([
    ['SML_0101', 'first-light'],
    ['SML_0107', 'first-light']
  ])('behind %s', (name, sky) => {
    let trial: Trial;
    beforeAll(() => {
      trial = tryOn(name, sky);
    });

    it('is what the camera would have seen', () => {
      expect(trial.before.inside).toBeGreaterThan(5);
      expect(trial.composed.inside).toBeLessThan(0.8);
    });

    it('leaves no rim of the old one that knowing all shares and colours would not', () => {
      expect(trial.before.near).toBeGreaterThan(2 * trial.composed.near);
      expect(trial.composed.near).toBeLessThan(trial.known.near + 0.6);
    });
  });
});

describe('a sky in a shape that nothing is whole of', () => {
  it('is mixed in as it is, and not made black', () => {
    const size = { width: 90, height: 60 };
    const planes = paint(() => [0.5, 0.5, 0.5], size);
    const codes = new Uint16Array(3 * 500 * 400).fill(65535 * srgbEncode(0.25));
    const brush = {
      id: 'b',
      kind: 'brush',
      meets: 'add',
      strokes: [
        {
          id: 's',
          size: 2,
          softness: 0,
          flow: 50,
          erases: false,
          keepsEdges: false,
          points: [-1, 0, 1, 1, 0, 1]
        }
      ]
    };
    const areas = {
      shapes: [{ id: 's', parts: [brush] }],
      list: [{ id: 'a', shape: 's', sky: { picture: 'x', match: 100 } }]
    };
    const shot = { setup: { size } } as DemoShot;
    const bytes = storeSky({ width: 500, height: 400, codes });
    // Finished colours: codes are light by sRGB's curve.
    const picture = renderShot(planes, shot, { areas } as never, bytes, ({ stages }) => ({
      ...stages,
      tone: null
    }));
    givePlanesBack(planes);
    const light = srgbDecode(picture[3 * (30 * 90 + 45) + 1] / 65535);
    // Half of what was there, and half of the sky.
    expect(light).toBeCloseTo((0.5 + 0.25) / 2, 2);
  });
});
