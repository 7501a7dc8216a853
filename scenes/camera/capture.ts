/**
 * The demo camera: casts a ray through the lens for every sensor site and makes the values a Bayer sensor
 * would give, with photon and read noise, dust and a few hot pixels.
 */
import { type FrameSize, type Point, fieldToSensor, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { type LensModel, distort, lateralShift, lensModel, undistort } from '../../core/optics/lens-model.ts';
import { transmission, type LensShading } from '../../core/optics/falloff.ts';
import { profileTerms } from '../../core/optics/profile.ts';
import { type Angles, rotationFromAngles } from '../../core/math/rotation.ts';
import { type Matrix3, apply, transpose } from '../../core/math/matrix3.ts';
import type { QuarterTurns } from '../../core/picture/raw/mosaic.ts';
import { gaussian, seededRandom } from '../../core/math/random.ts';
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
  /** Sensitivity (100): at twice as much, white is half as many electrons. */
  iso?: number;
  /** Whether there is dust on the sensor (true). */
  dust?: boolean;
}

export const BLACK = 512;
export const WHITE = 15871;
const FULL_WELL = 60000;
const READ_NOISE = 4;
const HOT_PIXELS = 18;
const DUST_SPECKS = 12;
const DUST_SEED = 143;
/** From this f-number on dust is as sharp as it gets. */
const DUST_SHARP = 8;

/**
 * Places in the pixel of which it is the mean: seven queens, so that rows and columns are all different, each with one opposite,
 * so that no edge is moved.
 */
const PATTERN: Point[] = [
  [0, 4],
  [1, 0],
  [2, 5],
  [3, 3],
  [4, 1],
  [5, 6],
  [6, 2]
].map(([x, y]): Point => [(x + 0.5) / 7 - 0.5, (y + 0.5) / 7 - 0.5]);

export interface Lens {
  model: LensModel;
  shading: LensShading;
  /** Focal length in field units. */
  focal: number;
}

export function setupLens(setup: Pick<CameraSetup, 'lens' | 'focalLength'>): Lens {
  const { lens, focalLength } = setup;
  const terms = profileTerms(lens.profile, {
    focalLength,
    aperture: lens.aperture,
    sensorHalfDiagonal: SENSOR_HALF_DIAGONAL
  });
  const focal = focalLength / SENSOR_HALF_DIAGONAL;
  return {
    model: lensModel({ projection: terms.projection, focal, ...terms.distortion }, 1, terms.lateral),
    shading: terms.shading ?? { terms: [] },
    focal
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

/** Undistorted positions over a grid of distorted ones, since inverting the lens for every sample would take long. */
interface InverseGrid {
  at(x: number, y: number, out: Float64Array): void;
}

/** Grid cells across the half diagonal: bilinear between them errs by under a thousandth of a pixel. */
const GRID_CELLS = 700;
const GRID_REACH = 1.02;

function inverseGrid(model: LensModel, { width, height }: FrameSize): InverseGrid {
  const unit = halfDiagonal({ width, height });
  const [halfX, halfY] = [(width / 2 / unit) * GRID_REACH, (height / 2 / unit) * GRID_REACH];
  const columns = Math.ceil(halfX * GRID_CELLS) + 1;
  const rows = Math.ceil(halfY * GRID_CELLS) + 1;
  const values = new Float64Array((columns + 1) * (rows + 1) * 2);
  for (let row = 0; row <= rows; row++) {
    for (let column = 0; column <= columns; column++) {
      const point: Point = [-halfX + (2 * halfX * column) / columns, -halfY + (2 * halfY * row) / rows];
      values.set(undistort(point, model), (row * (columns + 1) + column) * 2);
    }
  }
  return {
    at(x, y, out) {
      const px = Math.min(Math.max(((x + halfX) / (2 * halfX)) * columns, 0), columns - 1e-9);
      const py = Math.min(Math.max(((y + halfY) / (2 * halfY)) * rows, 0), rows - 1e-9);
      const ix = px | 0;
      const iy = py | 0;
      const fx = px - ix;
      const fy = py - iy;
      const at = (iy * (columns + 1) + ix) * 2;
      const below = at + (columns + 1) * 2;
      for (let c = 0; c < 2; c++) {
        out[c] =
          (values[at + c] * (1 - fx) + values[at + 2 + c] * fx) * (1 - fy) +
          (values[below + c] * (1 - fx) + values[below + 2 + c] * fx) * fy;
      }
    }
  };
}

/** Position of green light for a position of a colour's: the lateral error undone by a fixed point. */
function greenScale(coefficients: readonly number[], r: number): number {
  let green = r;
  for (let i = 0; i < 5; i++) green = r / (1 + lateralShift(coefficients, green));
  return r === 0 ? 1 : green / r;
}

/** Picture of scene radiance in the camera's own colours (1 is white), one colour a site. */
function expose(
  lit: LitScene,
  setup: CameraSetup,
  siteColour: (x: number, y: number) => 0 | 1 | 2
): Float32Array {
  const { size } = setup;
  const { middle, corners } = setup.lens.blur ?? { middle: 0, corners: 0 };
  const [ox, oy, oz] = setup.position;
  const { model, shading, focal } = setupLens(setup);
  const unit = halfDiagonal(size);
  const grid = inverseGrid(model, size);
  const undistorted = new Float64Array(2);
  const [cx, cy] = model.centre;
  const lateral = [model.lateral?.red ?? [], [], model.lateral?.blue ?? []];
  const tints = [shading.red ?? [], [], shading.blue ?? []];
  const toWorld: Matrix3 = rotationFromAngles(setup.angles);
  const pixelAngle = 1 / (focal * unit);
  const colour: Colour = [0, 0, 0];
  let seen = 0;
  const sample = (px: number, py: number, channel: 0 | 1 | 2): number => {
    const fx = (px - size.width / 2) / unit;
    const fy = (py - size.height / 2) / unit;
    const dx0 = fx - cx;
    const dy0 = fy - cy;
    const r2 = dx0 * dx0 + dy0 * dy0;
    const k = lateral[channel].length === 0 ? 1 : greenScale(lateral[channel], Math.sqrt(r2));
    grid.at(cx + dx0 * k, cy + dy0 * k, undistorted);
    const u = undistorted[0] / focal;
    const v = undistorted[1] / focal;
    const l = 1 / Math.sqrt(u * u + v * v + 1);
    const dx = (toWorld[0] * u + toWorld[1] * v + toWorld[2]) * l;
    const dy = (toWorld[3] * u + toWorld[4] * v + toWorld[5]) * l;
    const dz = (toWorld[6] * u + toWorld[7] * v + toWorld[8]) * l;
    seen = radiance(lit, ox, oy, oz, dx, -dy, dz, pixelAngle, colour);
    const m = CAMERA_FROM_SRGB;
    const value =
      m[channel * 3] * colour[0] + m[channel * 3 + 1] * colour[1] + m[channel * 3 + 2] * colour[2];
    const tint = tints[channel].length === 0 ? 1 : transmission(tints[channel], r2);
    return Math.max(0, value) * transmission(shading.terms, r2) * tint;
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
      const r2 = ((x + 0.5 - width / 2) ** 2 + (y + 0.5 - height / 2) ** 2) / unit ** 2;
      const blur = 1 + middle + (corners - middle) * r2;
      for (const [dx, dy] of PATTERN) sum += sample(x + 0.5 + dx * blur, y + 0.5 + dy * blur, channel);
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

/** However bright a lamp is, it glares no more than this (1 is the sensor's white). */
const MOST_GLARING = 8;
/** Light from this level on (1 is the sensor's white) spills over its edges. */
const SPILLS_FROM = 0.9;
/** However bright a window is, its glass spills no more than this. */
const MOST_SPILL = 1.5;

/** Adds red and blue light about very bright parts: the fringe of a lens that is not corrected along its axis. */
function addSpill(
  values: Float32Array,
  size: FrameSize,
  siteColour: (x: number, y: number) => 0 | 1 | 2,
  gain: number,
  spill: NonNullable<DemoLens['spill']>
): void {
  const { width, height } = size;
  const reach = Math.max(1, Math.round(spill.reach * halfDiagonal(size)));
  let light = values.map((value) => Math.min(MOST_SPILL, Math.max(0, value * gain - SPILLS_FROM)));
  // Two passes of a mean in each direction: a soft, short tail.
  for (let pass = 0; pass < 4; pass++) {
    const out = new Float32Array(light.length);
    const step = pass % 2 === 0 ? 1 : width;
    const last = pass % 2 === 0 ? width : height;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const along = pass % 2 === 0 ? x : y;
        const at = y * width + x;
        let sum = 0;
        for (let d = -reach; d <= reach; d++)
          sum += light[at + Math.min(last - 1 - along, Math.max(-along, d)) * step];
        out[at] = sum / (2 * reach + 1);
      }
    }
    light = out;
  }
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const colour = siteColour(x, y);
      if (colour !== 1) values[at] += ((colour === 0 ? spill.red : spill.blue) * light[at]) / gain;
    }
  }
}

/** Veiling glare: a share of all light is spread over the picture by the faces of the lens. */
function addGlare(
  values: Float32Array,
  size: FrameSize,
  siteColour: (x: number, y: number) => 0 | 1 | 2,
  share: number,
  most: number
): void {
  const { width, height } = size;
  const [sums, counts] = [
    [0, 0, 0],
    [0, 0, 0]
  ];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const colour = siteColour(x, y);
      sums[colour] += Math.min(most, values[at]);
      counts[colour]++;
    }
  const glare = sums.map((sum, c) => (share * sum) / counts[c]);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) values[at] = values[at] * (1 - share) + glare[siteColour(x, y)];
}

/** A speck on the sensor. */
export interface DustSpeck {
  /** On the upright picture, in pixels. */
  x: number;
  y: number;
  /** Pixels, where its shade has fallen to 1/e. */
  radius: number;
  /** Share of light that it takes in its middle. */
  depth: number;
}

/** The dust of the demo camera as it lies on a frame: at one place of the sensor on all of them, fainter and wider when the lens is open. */
export function dustOn({ size, turns = 0, lens, dust = true }: CameraSetup): DustSpeck[] {
  if (!dust) return [];
  const unit = halfDiagonal(size);
  const random = seededRandom(DUST_SEED);
  const open = Math.max(1, DUST_SHARP / (lens.aperture ?? DUST_SHARP));
  return Array.from({ length: DUST_SPECKS }, () => {
    const [across, down] = [0.04 + 0.92 * random(), 0.04 + 0.92 * random()];
    const radius = unit * (0.003 + 0.004 * random()) * open ** 0.5;
    const depth = (0.05 + 0.08 * random()) / open;
    // Upright from stored, as the camera was turned.
    const [x, y] = [
      [across, down],
      [1 - down, across],
      [1 - across, 1 - down],
      [down, 1 - across]
    ][turns];
    return { x: x * size.width, y: y * size.height, radius, depth };
  });
}

function addDust(values: Float32Array, setup: CameraSetup): void {
  const { width, height } = setup.size;
  for (const { x: cx, y: cy, radius, depth } of dustOn(setup))
    for (let y = Math.max(0, Math.floor(cy - radius * 3)); y < Math.min(height, cy + radius * 3); y++)
      for (let x = Math.max(0, Math.floor(cx - radius * 3)); x < Math.min(width, cx + radius * 3); x++)
        values[y * width + x] *=
          1 - depth * Math.exp(-(((x + 0.5 - cx) ** 2 + (y + 0.5 - cy) ** 2) / radius ** 2));
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
  if (setup.lens.glare) addGlare(values, size, siteColour, setup.lens.glare, MOST_GLARING / gain);
  if (setup.lens.spill) addSpill(values, size, siteColour, gain, setup.lens.spill);
  addDust(values, setup);
  const well = (FULL_WELL * 100) / (setup.iso ?? 100);
  const data = new Uint16Array(stored.width * stored.height);
  for (let y = 0, at = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++, at++) {
      const electrons = Math.min(1.2, values[at] * gain) * well;
      const noisy = electrons + gaussian(random) * Math.sqrt(electrons + READ_NOISE ** 2);
      const value = BLACK + Math.round((noisy / well) * (WHITE - BLACK));
      const [sx, sy] = storedAt(x, y);
      data[sy * stored.width + sx] = Math.max(0, Math.min(WHITE, value));
    }
  }
  for (let n = 0; n < HOT_PIXELS; n++) data[Math.floor(random() * data.length)] = WHITE;
  return { data, width: stored.width, height: stored.height, turns };
}
