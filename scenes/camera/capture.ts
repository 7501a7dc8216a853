/**
 * The demo camera: casts a ray through the lens for every sensor site and makes the values a Bayer sensor
 * would give, with photon and read noise, dust and a few hot pixels.
 */
import { type FrameSize, type Point, fieldToSensor, halfDiagonal } from '../../core/camera/frame-geometry.ts';
import { distort, radialModel, undistortRadius, type RadialModel } from '../../core/lens/brown.ts';
import { transmission, type FalloffTerms } from '../../core/lens/falloff.ts';
import { profileTerms } from '../../core/lens/profile.ts';
import {
  type Angles,
  type Matrix3,
  apply,
  rotationFromAngles,
  transpose
} from '../../core/lines/rotation.ts';
import type { QuarterTurns } from '../../core/raw/mosaic.ts';
import { type Random, seededRandom } from '../random.ts';
import type { Colour } from '../trace/materials.ts';
import type { Vector } from '../trace/scene.ts';
import { type LitScene, radiance } from '../trace/shade.ts';
import { CAMERA_FROM_SRGB } from './colour.ts';
import { type DemoLens, SENSOR_HALF_DIAGONAL } from './lenses.ts';

export interface CameraSetup {
  position: Vector;
  /** The correction that makes the picture true (its yaw squares it to the world's z axis). */
  angles: Angles;
  lens: DemoLens;
  /** Millimetres. */
  focalLength: number;
  /** Size of the picture as seen, upright. */
  size: FrameSize;
  /** Clockwise quarter turns that set the stored picture upright. */
  turns?: QuarterTurns;
  seed: number;
  /** Exposure against the automatic one, in EV. */
  compensation?: number;
}

export const BLACK = 512;
export const WHITE = 15871;
const FULL_WELL = 60000;
const READ_NOISE = 4;
const HOT_PIXELS = 18;
const DUST_SPOTS = 4;

/** Places in the supersampled pixel: five queens, so that rows and columns are all different. */
const PATTERN: Point[] = [
  [0, 1],
  [1, 3],
  [2, 0],
  [3, 2],
  [4, 4]
].map(([x, y]): Point => [(x + 0.5) / 5 - 0.5, (y + 0.5) / 5 - 0.5]);

export interface Lens {
  model: RadialModel;
  falloff: FalloffTerms;
  /** Focal length in field units. */
  focal: number;
}

export function setupLens(setup: Pick<CameraSetup, 'lens' | 'focalLength'>): Lens {
  const terms = profileTerms(setup.lens.profile, setup.focalLength, SENSOR_HALF_DIAGONAL);
  return {
    model: radialModel(terms.distortion),
    falloff: terms.falloff,
    focal: setup.focalLength / SENSOR_HALF_DIAGONAL
  };
}

/** Where a point of the world appears in the (upright) sensor picture; null behind the camera. */
export function projectPoint(point: Vector, setup: CameraSetup): Point | null {
  const { focal, model } = setupLens(setup);
  const rotation = rotationFromAngles(setup.angles);
  const [x, y, z] = [0, 1, 2].map((i) => point[i] - setup.position[i]);
  const ray = apply(transpose(rotation), [x, -y, z]);
  if (ray[2] <= 0.01) return null;
  return fieldToSensor(distort([(focal * ray[0]) / ray[2], (focal * ray[1]) / ray[2]], model), setup.size);
}

/** Undistorted over distorted radius, tabulated over the squared distorted radius. */
function inverseTable(model: RadialModel): Float64Array {
  const steps = 4096;
  const table = new Float64Array(steps + 2);
  table[0] = 1;
  for (let i = 1; i < table.length; i++) {
    const r = Math.sqrt((i / steps) * 1.1);
    table[i] = undistortRadius(r, model) / r;
  }
  return table;
}

const gaussian = (random: Random): number => {
  const u = Math.max(1e-12, random());
  return Math.sqrt(-2 * Math.log(u)) * Math.cos(2 * Math.PI * random());
};

/** Picture of scene radiance in the camera's own colours (1 is white), one colour a site. */
function expose(
  lit: LitScene,
  setup: CameraSetup,
  siteColour: (x: number, y: number) => 0 | 1 | 2
): Float32Array {
  const { size, lens } = setup;
  const [ox, oy, oz] = setup.position;
  const { model, falloff, focal } = setupLens(setup);
  const unit = halfDiagonal(size);
  const table = inverseTable(model);
  const toWorld: Matrix3 = rotationFromAngles(setup.angles);
  const pixelAngle = 1 / (focal * unit);
  const scales = [1 / (1 + lens.lateral.red), 1, 1 / (1 + lens.lateral.blue)];
  const colour: Colour = [0, 0, 0];
  let seen = 0;
  const sample = (px: number, py: number, channel: 0 | 1 | 2): number => {
    const fx = (px - size.width / 2) / unit;
    const fy = (py - size.height / 2) / unit;
    const k = scales[channel];
    const x = fx * k;
    const y = fy * k;
    const position2 = ((x * x + y * y) / 1.1) * 4096;
    const i = position2 | 0;
    const factor = table[i] + (table[i + 1] - table[i]) * (position2 - i);
    const u = (x * factor) / focal;
    const v = (y * factor) / focal;
    const l = 1 / Math.sqrt(u * u + v * v + 1);
    const dx = (toWorld[0] * u + toWorld[1] * v + toWorld[2]) * l;
    const dy = (toWorld[3] * u + toWorld[4] * v + toWorld[5]) * l;
    const dz = (toWorld[6] * u + toWorld[7] * v + toWorld[8]) * l;
    seen = radiance(lit, ox, oy, oz, dx, -dy, dz, pixelAngle, colour);
    const m = CAMERA_FROM_SRGB;
    const value =
      m[channel * 3] * colour[0] + m[channel * 3 + 1] * colour[1] + m[channel * 3 + 2] * colour[2];
    return Math.max(0, value) * transmission(falloff, fx * fx + fy * fy);
  };
  const { width, height } = size;
  const values = new Float32Array(width * height);
  const quads = new Int32Array(width * height);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      values[at] = sample(x + 0.5, y + 0.5, siteColour(x, y));
      quads[at] = seen;
    }
  }
  // Where a pixel differs from the next of its own colour, one ray is not enough. Within a surface only shadow edges
  // count: textures fade below their footprint by themselves.
  const rough = new Uint8Array(width * height);
  const differ = (a: number, b: number): boolean => {
    const contrast = Math.abs(values[a] - values[b]) / (values[a] + values[b] + 0.01);
    return contrast > (quads[a] === quads[b] ? 0.45 : 0.03);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      for (const other of [x + 2 < width ? at + 2 : -1, y + 2 < height ? at + 2 * width : -1]) {
        if (other < 0 || !differ(at, other)) continue;
        rough[at] = rough[other] = rough[(at + other) >> 1] = 1;
      }
    }
  }
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      if (!rough[at]) continue;
      const channel = siteColour(x, y);
      let sum = 0;
      for (const [dx, dy] of PATTERN) sum += sample(x + 0.5 + dx, y + 0.5 + dy, channel);
      values[at] = sum / PATTERN.length;
    }
  }
  return values;
}

/** The value below which the given share of a sample of the picture lies. */
function percentile(values: Float32Array, share: number): number {
  const some = values.filter((_, i) => i % 997 === 0).sort();
  return some[Math.floor(share * (some.length - 1))];
}

function addDust(values: Float32Array, size: FrameSize, random: Random): void {
  const unit = halfDiagonal(size);
  for (let n = 0; n < DUST_SPOTS; n++) {
    const cx = random() * size.width;
    const cy = random() * size.height;
    const radius = unit * (0.003 + 0.004 * random());
    const depth = 0.05 + 0.08 * random();
    for (let y = Math.max(0, Math.floor(cy - radius * 2)); y < Math.min(size.height, cy + radius * 2); y++) {
      for (let x = Math.max(0, Math.floor(cx - radius * 2)); x < Math.min(size.width, cx + radius * 2); x++) {
        values[y * size.width + x] *= 1 - depth * Math.exp(-(((x - cx) ** 2 + (y - cy) ** 2) / radius ** 2));
      }
    }
  }
}

export interface Capture {
  /** Stored picture, row by row, RGGB. */
  data: Uint16Array;
  width: number;
  height: number;
  turns: QuarterTurns;
}

/** Takes the picture. */
export function capture(lit: LitScene, setup: CameraSetup): Capture {
  const { size, turns = 0 } = setup;
  const stored = turns % 2 === 0 ? size : { width: size.height, height: size.width };
  // Stored position of an upright one.
  const storedAt = (x: number, y: number): Point => {
    if (turns === 1) return [y, size.width - 1 - x];
    if (turns === 2) return [size.width - 1 - x, size.height - 1 - y];
    if (turns === 3) return [size.height - 1 - y, x];
    return [x, y];
  };
  const siteColour = (x: number, y: number): 0 | 1 | 2 => {
    const [sx, sy] = storedAt(x, y);
    return ((sx & 1) + (sy & 1)) as 0 | 1 | 2;
  };
  const values = expose(lit, setup, siteColour);
  const random = seededRandom(setup.seed);
  const gain = (0.92 / percentile(values, 0.97)) * 2 ** (setup.compensation ?? 0);
  addDust(values, size, random);
  const data = new Uint16Array(stored.width * stored.height);
  for (let y = 0, at = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++, at++) {
      const electrons = Math.min(1.2, values[at] * gain) * FULL_WELL;
      const noisy = electrons + gaussian(random) * Math.sqrt(electrons + READ_NOISE ** 2);
      const value = BLACK + Math.round((noisy / FULL_WELL) * (WHITE - BLACK));
      const [sx, sy] = storedAt(x, y);
      data[sy * stored.width + sx] = Math.max(0, Math.min(WHITE, value));
    }
  }
  for (let n = 0; n < HOT_PIXELS; n++) data[Math.floor(random() * data.length)] = WHITE;
  return { data, width: stored.width, height: stored.height, turns };
}
