/**
 * Charts under lamps and daylight, as files of known content, against colours that are reckoned here by the formulas of the DNG
 * specification (1.6, chapter 6), CIE 015:2018 and IEC 61966-2-1.
 */
import { differenceCiede2000 } from 'culori';
import { Matrix, inverse } from 'ml-matrix';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_CHOICE } from '../../core/steps/lens/frame-optics.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { BLACK, WHITE } from '../../scenes/camera/capture.ts';
import { type DngColours, writeDng } from '../../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts } from '../../scenes/demo-frames.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { exportFrame } from '../render/export-frame.ts';
import { type Pool, createPool } from '../render/pool.ts';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

type Nine = [number, number, number, number, number, number, number, number, number];
const matrix = (m: readonly number[]): Matrix =>
  new Matrix([m.slice(0, 3), m.slice(3, 6), m.slice(6, 9)].map((r) => [...r]));
const diagonal = (v: readonly number[]): Matrix => Matrix.diag([...v]);
const times = (m: Matrix, v: readonly number[]): number[] => m.mmul(Matrix.columnVector([...v])).to1DArray();

/** Chromaticities of CIE 015:2018. */
const A = { kelvin: 2856, x: 0.44758, y: 0.40745, code: 17 };
const D65 = { kelvin: 6504, x: 0.31272, y: 0.32903, code: 21 };
const D50 = { kelvin: 5003, x: 0.34567, y: 0.35851, code: 23 };
const D55 = { kelvin: 5503, x: 0.33243, y: 0.34744 };
/** Daylight by its formula, and a lamp between the two lights of the file: Planck's at 3,800 K. */
const D80 = { kelvin: 8000, x: 0.2938, y: 0.3093 };
const P38 = { kelvin: 3800, x: 0.3897, y: 0.3825 };
const xyz = ({ x, y }: { x: number; y: number }): number[] => [x / y, 1, (1 - x - y) / y];

const BRADFORD = matrix([0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296]);
const adapted = (from: readonly number[], to: readonly number[]): Matrix => {
  const [seen, wanted] = [times(BRADFORD, from), times(BRADFORD, to)];
  return inverse(BRADFORD)
    .mmul(diagonal(wanted.map((cone, i) => cone / seen[i])))
    .mmul(BRADFORD);
};
const SRGB_TO_XYZ = matrix([
  0.4123908, 0.3575843, 0.1804808, 0.212639, 0.7151687, 0.0721923, 0.0193308, 0.1191948, 0.9505322
]);
/** The connection space's own white (ICC.1:2022), and that of sRGB. */
const PCS = [0.9642, 1, 0.8249];
const SCREEN = [0.95047, 1, 1.08883];

const COLD: Nine = [0.8189, -0.2563, -0.0874, -0.3817, 1.1822, 0.2259, -0.0582, 0.1604, 0.6215];
const WARM: Nine = [0.9012, -0.3395, -0.0513, -0.3566, 1.1493, 0.2361, -0.0407, 0.1292, 0.5218];
const OWN_COLD: Nine = [1.02, 0, 0, 0, 1, 0, 0, 0, 0.97];
const OWN_WARM: Nine = [0.99, 0.01, 0, 0, 1, 0, 0, 0, 1.03];
const ANALOG = [1.05, 1, 0.96] as [number, number, number];
/** Balanced colours to the connection space: rows that sum to its white. */
const forward = (m: Nine): Nine =>
  m.map(
    (value, i) =>
      (value * PCS[Math.floor(i / 3)]) / (m[i - (i % 3)] + m[i - (i % 3) + 1] + m[i - (i % 3) + 2])
  ) as Nine;
const FORWARD_COLD = forward([0.62, 0.24, 0.1, 0.25, 0.85, -0.1, 0.02, -0.1, 0.9]);
const FORWARD_WARM = forward([0.7, 0.15, 0.12, 0.3, 0.78, -0.08, 0.01, -0.18, 1.0]);

interface Light {
  kelvin: number;
  x: number;
  y: number;
}
type Camera = Omit<DngColours, 'neutral'>;

/** Matrices of a camera at a temperature, by its reciprocal. */
function at({ lights, analogBalance, signatures }: Camera, kelvin: number) {
  const told: Record<number, number> = { 17: 2856, 21: 6504, 23: 5003 };
  const [warm, cold] = [...lights].sort((a, b) => told[a.code] - told[b.code]);
  const share = cold
    ? Math.min(
        1,
        Math.max(0, (1 / kelvin - 1 / told[warm.code]) / (1 / told[cold.code] - 1 / told[warm.code]))
      )
    : 0;
  const mix = (one: readonly number[], other?: readonly number[]): Matrix =>
    matrix(one.map((value, i) => (other ? value * (1 - share) + other[i] * share : value)));
  const none = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  const meant = !signatures || signatures[0] === signatures[1];
  const own = (calibration: Nine | undefined): readonly number[] => (meant && calibration) || none;
  const ab = diagonal(analogBalance ?? [1, 1, 1]).mmul(
    mix(own(warm.calibration), cold && own(cold.calibration))
  );
  const toCamera = ab.mmul(mix(warm.matrix, cold?.matrix));
  const toXyz = warm.forward && mix(warm.forward, cold?.forward);
  return { ab, toCamera, toXyz };
}

/** What the sensor sees of a colour that is to be shown as sRGB's linear one. */
function seen(camera: Camera, light: Light, srgb: readonly number[]): number[] {
  const { ab, toCamera, toXyz } = at(camera, light.kelvin);
  const pcs = times(adapted(SCREEN, PCS), times(SRGB_TO_XYZ, srgb));
  if (!toXyz) return times(toCamera, times(adapted(PCS, xyz(light)), pcs));
  const reference = times(inverse(ab), times(toCamera, xyz(light)));
  const balance = diagonal(reference.map((value) => 1 / value));
  return times(inverse(toXyz.mmul(balance).mmul(inverse(ab))), pcs);
}

/** Twenty-four colours that sRGB holds, with greys among them. */
const CHART = Array.from({ length: 24 }, (_, i): number[] => {
  if (i >= 18) return [0, 1, 2].map(() => 0.02 * 1.9 ** (i - 18));
  const part = (k: number): number => 0.04 + 0.42 * (((i * k + 3 * k) % 19) / 18) ** 1.6;
  return [part(5), part(7), part(11)];
});
const SIDE = 16;
const COLUMNS = 6;

/** The chart as a file; its lightest grey is as light as it is told, whatever the light. */
function fileOf(camera: Camera, light: Light): { bytes: Uint8Array; scale: number } {
  const neutral = seen(camera, light, [1, 1, 1]);
  const most = Math.max(...neutral);
  const [width, height] = [SIDE * COLUMNS, SIDE * 4];
  const data = new Uint16Array(width * height);
  const colours = CHART.map((colour) => seen(camera, light, colour));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const colour = colours[Math.floor(y / SIDE) * COLUMNS + Math.floor(x / SIDE)];
      data[y * width + x] = Math.round(
        BLACK + Math.max(0, (colour[(x & 1) + (y & 1)] / most) * (WHITE - BLACK))
      );
    }
  const facts = {
    ...dngFacts(DEMO_FRAMES[0]),
    colours: { ...camera, neutral: neutral as [number, number, number] }
  };
  return { bytes: writeDng({ data, width, height, turns: 0 }, facts), scale: 1 };
}

/** A colour through the plain rendering: multiplied by what the response makes of its norm. */
function plain(srgb: readonly number[]): number[] {
  const parts = srgb.map((part) => Math.max(0, part));
  const sum = (power: number): number => parts.reduce((all, part) => all + part ** power, 0);
  const light = sum(3) / sum(2);
  const response = (light ** 1.15 * (1 + 0.8 ** 1.15)) / (light ** 1.15 + 0.8 ** 1.15);
  return srgb.map((part) => (part * response) / light);
}

const difference = differenceCiede2000();
let pool: Pool;
let folder: string;
beforeAll(() => {
  pool = createPool(2);
  folder = mkdtempSync(join(tmpdir(), 'line-true-colour-'));
});
afterAll(async () => {
  await pool.destroy();
  rmSync(folder, { recursive: true, force: true });
});

async function shown(bytes: Uint8Array, recipe: PartialRecipe = {}): Promise<number[][]> {
  const path = join(folder, 'chart.dng');
  writeFileSync(path, bytes);
  const encoding = { format: 'tiff', quality: 90, ppi: 300, keepPosition: false } as const;
  const { bytes: file } = await exportFrame(
    {
      path,
      name: 'chart.dng',
      recipe: { lens: { enabled: false }, ...recipe },
      choose: () => NO_CHOICE,
      encoding,
      depth: 16,
      longEdge: null
    },
    pool
  );
  const { data, info } = await sharp(file, { ignoreIcc: true })
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const values = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
  return CHART.map((_, i) => {
    const x = (i % COLUMNS) * SIDE + SIDE / 2;
    const y = Math.floor(i / COLUMNS) * SIDE + SIDE / 2;
    return [0, 1, 2].map((c) => values[(y * info.width + x) * 3 + c] / 65535);
  });
}

/** Mean and largest difference of a chart from what it should be. */
async function apart(camera: Camera, light: Light): Promise<{ mean: number; worst: number }> {
  const out = await shown(fileOf(camera, light).bytes);
  const all = CHART.map((colour, i) => {
    const [r, g, b] = plain(colour);
    const [sr, sg, sb] = out[i];
    return difference({ mode: 'lrgb', r, g, b }, { mode: 'rgb', r: sr, g: sg, b: sb });
  });
  return { mean: all.reduce((sum, value) => sum + value, 0) / all.length, worst: Math.max(...all) };
}

const CAMERAS: Record<string, Camera> = {
  'one matrix': { lights: [{ code: 21, matrix: COLD }] },
  'two matrices': {
    lights: [
      { code: 17, matrix: WARM },
      { code: 21, matrix: COLD }
    ]
  },
  'two matrices, the cold one first': {
    lights: [
      { code: 21, matrix: COLD },
      { code: 17, matrix: WARM }
    ]
  },
  'matrices there and back, calibrated': {
    lights: [
      { code: 17, matrix: WARM, calibration: OWN_WARM, forward: FORWARD_WARM },
      { code: 21, matrix: COLD, calibration: OWN_COLD, forward: FORWARD_COLD }
    ],
    analogBalance: ANALOG,
    signatures: ['made up', 'made up']
  },
  'a calibration that is meant for another profile': {
    lights: [
      { code: 17, matrix: WARM, calibration: OWN_WARM },
      { code: 23, matrix: COLD, calibration: OWN_COLD }
    ],
    signatures: ['made up', 'another']
  }
};

describe('a colour chart', () => {
  for (const [name, camera] of Object.entries(CAMERAS))
    for (const [light, white] of Object.entries({ A, P38, D50, D55, D65, D80 }))
      it(`is right under ${light}: ${name}`, async () => {
        const { mean, worst } = await apart(camera, white);
        expect(mean).toBeLessThan(0.3);
        expect(worst).toBeLessThan(1);
      });

  it('that was shot at the wrong setting is right when the light is named', async () => {
    // Shot as under D65, by lamps.
    const camera = CAMERAS['two matrices'];
    const { bytes } = fileOf(camera, A);
    const wrong = writeWith(bytes, camera);
    const out = await shown(wrong, { colour: { kelvin: A.kelvin, kelvinTint: 0 } });
    const greys = out.slice(18);
    // Neutral: the greys have no colour that could be seen.
    for (const [r, g, b] of greys)
      expect(difference({ mode: 'rgb', r, g, b }, { mode: 'rgb', r: g, g, b: g })).toBeLessThan(1);
    // And as saturated, by their shares of light, as under the right setting.
    const right = await shown(bytes);
    const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
    out.slice(0, 18).forEach((each, i) => {
      const [one, other] = [each, right[i]].map((colour) => {
        const lights = colour.map(linear);
        return lights.map((value) => value / (lights[0] + lights[1] + lights[2]));
      });
      one.forEach((share, c) => expect(Math.abs(share - other[c])).toBeLessThan(0.012));
    });
  });

  it('says of how many matrices its colours are', async () => {
    for (const [name, count] of [
      ['one matrix', 1],
      ['two matrices', 2]
    ] as const) {
      const { facts } = await decodeFile(fileOf(CAMERAS[name], D50).bytes, 'chart.dng');
      expect(facts.white).toMatchObject({ fromFile: true });
      expect(facts.white!.matrices).toHaveLength(count);
    }
  });

  /** The same picture, named to be shot under D65. */
  function writeWith(bytes: Uint8Array, camera: Camera): Uint8Array {
    const [width, height] = [SIDE * COLUMNS, SIDE * 4];
    const neutral = seen(camera, D65, [1, 1, 1]) as [number, number, number];
    const file = new DataView(bytes.buffer);
    const entries = file.getUint16(8, true);
    let strip = 0;
    for (let i = 0; i < entries; i++)
      if (file.getUint16(10 + i * 12, true) === 273) strip = file.getUint32(10 + i * 12 + 8, true);
    const data = new Uint16Array(bytes.slice(strip, strip + width * height * 2).buffer);
    return writeDng(
      { data, width, height, turns: 0 },
      { ...dngFacts(DEMO_FRAMES[0]), colours: { ...camera, neutral } }
    );
  }
});
