/** Finished files against truth: absolute tone, the places of colours, and every angle and stretch of the correction. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter } from 'culori';
import sharp from 'sharp';
import { afterAll, describe, expect, inject, it } from 'vitest';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import { planesSource } from '../../core/measure/lateral/colour-source.ts';
import { measureEdges } from '../../core/measure/lateral/measure-edges.ts';
import { fitLateral } from '../../core/measure/lateral/fit-lateral.ts';
import { lateralShift } from '../../core/optics/lens-model.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { allocatePlanes } from '../../core/picture/tile/planes.ts';
import { ALL_TONE } from '../../bench/all-tone.ts';
import { BLACK, WHITE, setupLens } from '../../scenes/camera/capture.ts';
import { CAMERA_FROM_SRGB } from '../../scenes/camera/colour.ts';
import { LENSES } from '../../scenes/camera/lenses.ts';
import { writeDng } from '../../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts, setupAt } from '../../scenes/demo-frames.ts';
import { exportFrame } from '../render/export-frame.ts';
import { createPool } from '../render/pool.ts';

const pool = createPool();
const folder = mkdtempSync(join(tmpdir(), 'line-true-truth-'));
afterAll(() => pool.destroy());

interface Deep {
  width: number;
  height: number;
  values: Uint16Array;
}

/** Values of a finished file of 16 or 8 bits, read by another program. */
async function exported(
  name: string,
  bytes: Uint8Array,
  recipe: PartialRecipe,
  profile: LensProfile | null = null,
  depth: 8 | 16 = 16
): Promise<Deep> {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  const { bytes: tiff } = await exportFrame(
    {
      path,
      name,
      recipe,
      choose: () => (profile ? { auto: profile, known: [profile] } : NO_CHOICE),
      encoding: { format: 'tiff', quality: 90, ppi: 300, keepPosition: false },
      depth,
      longEdge: null
    },
    pool
  );
  const picture = sharp(tiff, { ignoreIcc: true });
  if (depth === 8) {
    const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
    return { ...info, values: Uint16Array.from(data) };
  }
  const { data, info } = await picture
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  return { ...info, values: new Uint16Array(data.buffer, data.byteOffset, data.length / 2) };
}

const decoded = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

describe('a raw patch', () => {
  it('leaves with the tone of the plain rendering, absolutely, in red, green and blue', async () => {
    const patches = [
      [0.02, 0.02, 0.02],
      [0.18, 0.18, 0.18],
      [0.36, 0.135, 0.08],
      [0.12, 0.2, 0.38]
    ];
    const side = 64;
    const width = side * patches.length;
    const data = new Uint16Array(width * side);
    const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = CAMERA_FROM_SRGB;
    for (let y = 0; y < side; y++)
      for (let x = 0; x < width; x++) {
        const [r, g, b] = patches[Math.floor(x / side)];
        const camera = [m0 * r + m1 * g + m2 * b, m3 * r + m4 * g + m5 * b, m6 * r + m7 * g + m8 * b];
        data[y * width + x] = Math.round(BLACK + camera[(x & 1) + (y & 1)] * (WHITE - BLACK));
      }
    const { values } = await exported(
      'patches.dng',
      writeDng({ data, width, height: side, turns: 0 }, dngFacts(DEMO_FRAMES[0])),
      { lens: { enabled: false } }
    );
    // White balance leaves the strongest colour as it is: of white, the camera's largest response.
    const white = Math.max(m0 + m1 + m2, m3 + m4 + m5, m6 + m7 + m8);
    const plain = (light: number): number =>
      (light ** 1.15 * (1 + 0.8 ** 1.15)) / (light ** 1.15 + 0.8 ** 1.15);
    patches.forEach((truth, patch) => {
      const at = ((side / 2) * width + patch * side + side / 2) * 3;
      // All three are multiplied by what the response makes of their norm.
      const sum = (power: number): number => truth.reduce((all, light) => all + (light * white) ** power, 0);
      const norm = sum(3) / sum(2);
      truth.forEach((light, c) => {
        const wanted = (light * white * plain(norm)) / norm;
        expect(Math.abs(decoded(values[at + c] / 65535) - wanted), `${patch} ${c}`).toBeLessThan(
          0.015 * plain(norm)
        );
      });
    });
  });
});

describe('grey light beyond the clipping of single colours', () => {
  it('comes back in the finished file, as light as it was and neutral', async () => {
    // Green clips at 0.94, blue at 1.28, red at 2.34.
    const lights = [0.4, 0.8, 1, 1.2, 1.5, 1.8, 2.1];
    const side = 64;
    const width = side * lights.length;
    const response = [0, 1, 2].map(
      (c) => CAMERA_FROM_SRGB[c * 3] + CAMERA_FROM_SRGB[c * 3 + 1] + CAMERA_FROM_SRGB[c * 3 + 2]
    );
    const data = new Uint16Array(width * side);
    for (let y = 0; y < side; y++)
      for (let x = 0; x < width; x++) {
        const sensor = Math.min(1, lights[Math.floor(x / side)] * response[(x & 1) + (y & 1)]);
        data[y * width + x] = Math.round(BLACK + sensor * (WHITE - BLACK));
      }
    const stops = 1.5;
    const bytes = writeDng({ data, width, height: side, turns: 0 }, dngFacts(DEMO_FRAMES[0]));
    const { values } = await exported('beyond.dng', bytes, {
      lens: { enabled: false },
      tone: { exposure: -stops }
    });
    const toLab = converter('lab65');
    lights.forEach((light, i) => {
      const at = ((side / 2) * width + i * side + side / 2) * 3;
      const [r, g, b] = [0, 1, 2].map((c) => values[at + c] / 65535);
      // The light that the plain rendering shows so.
      const pivot = 0.8 ** 1.15;
      const exposed = ((decoded(g) * pivot) / (1 + pivot - decoded(g))) ** (1 / 1.15);
      expect(Math.abs(exposed / (light * response[1] * 2 ** -stops) - 1)).toBeLessThan(0.05);
      const shown = toLab({ mode: 'rgb', r, g, b });
      expect(Math.hypot(shown.a, shown.b)).toBeLessThan(1);
    });
  });
});

describe('a large picture of 8 bits', () => {
  it('is the one of 16 bits, dithered by less than a code and right in the mean', async () => {
    const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
    const recipe = { ...ALL_TONE, lens: { enabled: false } };
    const exact = await exported('exact.dng', bytes, recipe);
    const shallow = await exported('shallow.dng', bytes, recipe, null, 8);
    let [worst, sum] = [0, 0];
    for (let i = 0; i < exact.values.length; i++) {
      const apart = exact.values[i] / 257 - shallow.values[i];
      worst = Math.max(worst, Math.abs(apart));
      sum += apart;
    }
    expect(worst).toBeLessThan(1.51);
    expect(Math.abs(sum / exact.values.length)).toBeLessThan(0.01);
  });
});

describe('red and blue edges of a photograph', () => {
  it('lie where the lens put them without a correction, and on the green ones with it', async () => {
    const name = 'CPR_0014.dng';
    const bytes = readFileSync(join(inject('photographs'), name));
    const { model } = setupLens(
      setupAt(
        DEMO_FRAMES.find(({ file }) => file === name)!,
        1500
      )
    );
    const unit = Math.hypot(1500, 1000) / 2;
    const sizes = async (lateral: number): Promise<{ red: number[]; blue: number[] }> => {
      // Distortion stays, so that radii are those of the glass.
      const { width, height, values } = await exported(
        name,
        bytes,
        { lens: { lateral, distortion: 0 } },
        LENSES.manual.profile
      );
      const planes = allocatePlanes(width, height);
      for (let i = 0; i < width * height; i++) {
        planes.r[i] = decoded(values[i * 3] / 65535);
        planes.g[i] = decoded(values[i * 3 + 1] / 65535);
        planes.b[i] = decoded(values[i * 3 + 2] / 65535);
      }
      const fit = fitLateral(measureEdges(planesSource(planes)), unit);
      if (!fit.ok) throw new Error(fit.reason);
      return { red: [...fit.lateral.red], blue: [...fit.lateral.blue] };
    };
    const [off, on] = [await sizes(0), await sizes(100)];
    for (const colour of ['red', 'blue'] as const) {
      const place = (of: readonly number[], r: number): number => lateralShift(of, r) * r * unit;
      expect(Math.abs(place(model.lateral![colour], 0.85))).toBeGreaterThan(0.3);
      const radii = [0.65, 0.7, 0.75, 0.8, 0.85, 0.9];
      const rms = (of: (r: number) => number): number =>
        Math.sqrt(radii.reduce((sum, r) => sum + of(r) ** 2, 0) / radii.length);
      const truth = (r: number): number => place(model.lateral![colour], r);
      // The kitchen has but a hundred edges out there: a fit to them scatters by a quarter of a pixel, in both alike.
      expect(rms((r) => place(off[colour], r) - place(on[colour], r) - truth(r))).toBeLessThan(0.2);
      expect(rms((r) => place(on[colour], r))).toBeLessThan(0.25);
    }
  });
});

describe('the correction in a finished picture', () => {
  const [WIDTH, HEIGHT] = [900, 600];
  const UNIT = Math.hypot(WIDTH, HEIGHT) / 2;
  const DOTS = [-0.35, 0, 0.35].flatMap((y) => [-0.45, 0, 0.45].map((x): [number, number] => [x, y]));

  /** Soft dots on grey, at field positions. */
  async function dotted(): Promise<Buffer> {
    const pixels = Buffer.alloc(WIDTH * HEIGHT * 3, 60);
    for (const [x, y] of DOTS)
      for (let dy = -8; dy <= 8; dy++)
        for (let dx = -8; dx <= 8; dx++) {
          const [px, py] = [Math.floor(x * UNIT + WIDTH / 2) + dx, Math.floor(y * UNIT + HEIGHT / 2) + dy];
          const away = Math.hypot(px + 0.5 - (x * UNIT + WIDTH / 2), py + 0.5 - (y * UNIT + HEIGHT / 2));
          pixels.fill(
            60 + 190 * Math.exp(-((away / 3) ** 2)),
            (py * WIDTH + px) * 3,
            (py * WIDTH + px) * 3 + 3
          );
        }
    return sharp(pixels, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
      .png()
      .toBuffer();
  }

  /** Brightness-weighted middle of the dot about a place. */
  function dotAt({ width, values }: Deep, [x, y]: [number, number]): [number, number] {
    let [sum, sx, sy] = [0, 0, 0];
    for (let py = Math.round(y) - 9; py <= y + 9; py++)
      for (let px = Math.round(x) - 9; px <= x + 9; px++) {
        const weight = Math.max(0, values[(py * width + px) * 3 + 1] / 65535 - 0.3);
        sum += weight;
        sx += weight * (px + 0.5);
        sy += weight * (py + 0.5);
      }
    return [sx / sum, sy / sum];
  }

  /** Focal length taken for a file that tells none: 28 mm on 36 x 24. */
  const FOCAL = 28 / (Math.hypot(36, 24) / 2);
  const turn = (roll: number, pitch: number, yaw: number) => {
    const [r, p, y] = [roll, pitch, yaw].map((degrees) => (degrees * Math.PI) / 180);
    return ([a, b]: [number, number]): [number, number] => {
      // Roll about the view, then pitch about the horizontal, then yaw about the plumb line.
      const [x1, y1] = [a * Math.cos(r) - b * Math.sin(r), a * Math.sin(r) + b * Math.cos(r)];
      const [y2, z2] = [y1 * Math.cos(p) - FOCAL * Math.sin(p), y1 * Math.sin(p) + FOCAL * Math.cos(p)];
      const [x3, z3] = [x1 * Math.cos(y) - z2 * Math.sin(y), x1 * Math.sin(y) + z2 * Math.cos(y)];
      return [(FOCAL * x3) / z3, (FOCAL * y2) / z3];
    };
  };

  it.each([
    ['roll, a half of it held back', { roll: 6, holdBackRoll: 50 }, turn(3, 0, 0), 1],
    ['pitch, a quarter held back', { pitch: 8, holdBackPitch: 25 }, turn(0, 6, 0), 1],
    ['yaw, three quarters held back', { yaw: -12, holdBackYaw: 75 }, turn(0, 0, -3), 1],
    ['all angles, none held back', { roll: 2, pitch: 5, yaw: 4 }, turn(2, 5, 4), 1],
    ['height stretched', { stretch: 6 }, turn(0, 0, 0), 1.06]
  ] as const)('puts what was photographed where geometry says: %s', async (_, lines, moved, stretch) => {
    const rectangle = { x: 0, y: 0, width: 1.2, height: 0.8 };
    const picture = await exported('dots.png', await dotted(), {
      lines,
      crop: { ratio: 'free', rectangle, blank: true }
    });
    expect(picture.width).toBe(Math.floor(1.2 * UNIT));
    const pixel = Math.min(1.2 / picture.width, 0.8 / picture.height);
    for (const dot of DOTS) {
      const [x, y] = moved(dot);
      const wanted: [number, number] = [
        x / pixel + picture.width / 2,
        (y * stretch) / pixel + picture.height / 2
      ];
      if (wanted.some((at, i) => at < 12 || at > [picture.width, picture.height][i] - 12)) continue;
      const found = dotAt(picture, wanted);
      expect(Math.hypot(found[0] - wanted[0], found[1] - wanted[1])).toBeLessThan(0.15);
    }
  });
});
