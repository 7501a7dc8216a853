/**
 * Dust on the sensor, as it shows on skies and plain walls: small, round, soft shades that take the same share of every colour.
 * Blobs are found as extremes over place and size of differences of means (Lindeberg 1998, with box means), and each is then
 * judged by its own ring, profile and colours.
 */
import { type FrameSize, type Point, halfDiagonal, sensorToField } from '../../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { type Reader, readerOf } from '../reader.ts';

export interface Dust {
  /** Field position. */
  at: Point;
  /** Field units: where the shade has fallen to 1/e. */
  radius: number;
  /** Share of light that it takes in its middle, 0..1. */
  depth: number;
}

/** Radii that are looked for, in field units: smaller ones are noise, larger ones cannot be told from light and shade. */
const RADII = [0.0025, 0.0035, 0.005, 0.007, 0.0095];
/** Share of light that dust takes: least and most. */
const SHALLOWEST = 0.02;
const DEEPEST = 0.35;
/** Another aperture draws the same dust larger or smaller. */
const ALIKE = [1, 0.75, 1.35];
/** How much the ring may vary, as a share of the depth, beside its noise. */
const RING = 0.14;
/** How unlike the depths of the colours, of the sides and of the profile may be, as shares of the depth. */
const COLOUR = 0.2;
const SIDE = 0.4;
const PROFILE = 0.13;
const SIDES = 8;
const SECTORS = 12;
/** How much of what is not grain the bell has to explain. */
const EXPLAINED = 0.6;
/** How noisy the ring may be, as a share of the depth: what is more is texture. */
const NOISE = 0.4;
/** Logarithms may differ so much, as a deviation from their mean, on what is plain: noise and slow light, but no texture. */
const PLAIN = 0.04;
/** Directions and distances, in radii, in which the wider surroundings are looked at. */
const DIRECTIONS = 16;
const WIDER = [2.6, 4.2, 6];
/** Of the wider surroundings so many may be something else: dust beside a frame's edge or a cable is dust. */
const ELSE = 0.25;
/** How much a speck stands out from what is of its size about it: in texture, others are nearly as dark or as bright. */
const STANDS_OUT = 4;
const ABOUT = [4, 6, 9, 13];
/** More than so many are not dust but texture. */
const MOST = 120;

/** The sums over the picture up to each pixel (Crow 1984), of logarithms. */
function summed(log: Float32Array, width: number, height: number): Float64Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += log[y * width + x];
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1] + row;
    }
  }
  return sums;
}

/** How much darker the square of `half` about each pixel is than the larger one about it. */
function darker(sums: Float64Array, width: number, height: number, half: number): Float32Array {
  const out = new Float32Array(width * height);
  const outer = Math.round(half * 2.6);
  const [inside, all] = [(2 * half + 1) ** 2, (2 * outer + 1) ** 2];
  const [line, own, wide] = [width + 1, 2 * half + 1, 2 * outer + 1];
  for (let y = outer; y < height - outer; y++) {
    // Corners of the two squares about the first pixel; those of the next lie one further on.
    let [low, high] = [(y - half) * line + outer - half, (y - outer) * line];
    let [under, below] = [low + own * line, high + wide * line];
    for (let x = outer; x < width - outer; x++, low++, high++, under++, below++) {
      const middle = sums[under + own] - sums[low + own] - sums[under] + sums[low];
      const larger = sums[below + wide] - sums[high + wide] - sums[below] + sums[high];
      out[y * width + x] = (larger - middle) / (all - inside) - middle / inside;
    }
  }
  return out;
}

const floorOf = (value: number): number => Math.log(Math.max(1e-4, value));

/** What is asked of a speck, and of its surroundings: how far most of them may lie from their middle, as logarithms. */
interface Least {
  shallowest: number;
  alike: number;
}
const SOUGHT: Least = { shallowest: SHALLOWEST, alike: 0.06 };
/** Where it is known from another frame, half as much is enough. */
const KNOWN: Least = { shallowest: SHALLOWEST / 2, alike: 0.12 };

interface Judged {
  depth: number;
  /** Pixels. */
  radius: number;
}

const median = (values: number[]): number => {
  const sorted = [...values].sort((one, other) => one - other);
  return sorted[sorted.length >> 1];
};

/** Whether the wider surroundings of a place are plain: most of them are alike. */
function isPlain(
  read: Reader,
  { width, height }: PlacedPlanes,
  x: number,
  y: number,
  radius: number,
  within: number
): boolean {
  const values: number[] = [];
  for (const by of WIDER)
    for (let i = 0; i < DIRECTIONS; i++) {
      const turn = ((i + by) / DIRECTIONS) * 2 * Math.PI;
      const [px, py] = [
        Math.round(x + Math.cos(turn) * by * radius),
        Math.round(y + Math.sin(turn) * by * radius)
      ];
      if (px >= 0 && py >= 0 && px < width && py < height) values.push(floorOf(read(1, px, py)));
    }
  const middle = median(values);
  return values.filter((value) => Math.abs(value - middle) > within).length < ELSE * values.length;
}

/** The standard deviation of values about 0, told by their middle one: 1.48 times the median of a bell's is its own. */
const deviationOf = (values: readonly number[]): number => 1.48 * median(values.map(Math.abs));

/** Whether the sectors of a ring deviate by little: noise averages out in them, structure does not. */
function isEven(
  ring: readonly (readonly [number, number, ...unknown[]])[],
  deviations: readonly number[],
  depth: number
): boolean {
  const sectors = Array.from({ length: SECTORS }, () => [0, 0]);
  ring.forEach(([i, j], n) => {
    const sector = sectors[Math.floor(((Math.atan2(j, i) / Math.PI + 1) * (SECTORS / 2)) % SECTORS)];
    sector[0] += deviations[n];
    sector[1]++;
  });
  const uneven = Math.max(...sectors.map(([total, count]) => Math.abs(total / Math.max(1, count))));
  const grain = (3 * deviationOf(deviations)) / Math.sqrt(ring.length / SECTORS);
  return uneven <= RING * depth + grain;
}

/** Judges whether there is dust of about a radius at a place, in pixels; null: there is none. */
function judge(
  read: Reader,
  planes: PlacedPlanes,
  x: number,
  y: number,
  radius: number,
  { shallowest, alike }: Least
): Judged | null {
  const { width, height } = planes;
  const reach = Math.ceil(radius * 3.4);
  if (x < reach || y < reach || x >= width - reach || y >= height - reach) return null;
  if (!isPlain(read, planes, x, y, radius, alike)) return null;
  // A plane through the ring: light that changes over the place is no dust.
  const ring: [number, number, number[]][] = [];
  const from = 2.2 * radius;
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const away = Math.hypot(i, j);
      if (away < from || away > reach) continue;
      ring.push([i, j, [0, 1, 2].map((c) => floorOf(read(c as 0, x + i, y + j)))]);
    }
  const fits = [0, 1, 2].map((c) => {
    let [sum, alongX, alongY, xx, yy] = [0, 0, 0, 0, 0];
    for (const [i, j, logs] of ring) {
      sum += logs[c];
      alongX += i * logs[c];
      alongY += j * logs[c];
      xx += i * i;
      yy += j * j;
    }
    return { mean: sum / ring.length, dx: alongX / xx, dy: alongY / yy };
  });
  const dip = (i: number, j: number): number[] =>
    fits.map(({ mean, dx, dy }, c) => mean + dx * i + dy * j - floorOf(read(c as 0, x + i, y + j)));
  const byRingColour = fits.map(({ mean, dx, dy }, c) =>
    ring.map(([i, j, logs]) => logs[c] - mean - dx * i - dy * j)
  );
  // The noise of the ring, which everything is told against.
  const deviations = ring.map((_, n) => byRingColour.reduce((sum, each) => sum + each[n], 0) / 3);
  // Robust: what crosses the ring is no noise.
  const noise = deviationOf(deviations);
  if (noise > PLAIN) return null;
  const inside: { away: number; side: number; dips: number[] }[] = [];
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const away = Math.hypot(i, j) / radius;
      if (away > 2.2) continue;
      inside.push({
        away,
        side: Math.floor(((Math.atan2(j, i) / Math.PI + 1) * (SIDES / 2)) % SIDES),
        dips: dip(i, j)
      });
    }
  const meanOf = (of: typeof inside): number =>
    of.reduce((sum, { dips }) => sum + (dips[0] + dips[1] + dips[2]) / 3, 0) / Math.max(1, of.length);
  const between = (low: number, high: number): typeof inside =>
    inside.filter(({ away }) => away >= low && away < high);
  // A bell: its mean out to 0.6 radii is 0.84 of its height.
  const depth = meanOf(between(0, 0.6)) / 0.84;
  if (depth < shallowest || depth > -Math.log(1 - DEEPEST)) return null;
  if (noise > NOISE * depth) return null;
  // Out to where it falls to 1/e, from its area: the integral of the bell is π times the square of its radius.
  const sum = inside.reduce((total, { dips }) => total + (dips[0] + dips[1] + dips[2]) / 3, 0);
  const own = Math.sqrt(Math.max(0, sum / depth / Math.PI));
  if (own < 0.6 * radius || own > 1.5 * radius) return null;
  // In each colour, too: what is as light as its surroundings and of another colour is no more plain.
  if (![deviations, ...byRingColour].every((each) => isEven(ring, each, depth))) return null;
  for (const [at, low, high] of [
    [0.5, 0.35, 0.65],
    [1, 0.85, 1.15],
    [1.5, 1.35, 1.65]
  ]) {
    const wanted = depth * Math.exp(-((at * radius) ** 2) / own ** 2);
    const pixels = between(low, high);
    if (Math.abs(meanOf(pixels) - wanted) > PROFILE * depth + (3 * noise) / Math.sqrt(pixels.length))
      return null;
  }
  const core = between(0, 1);
  const tolerance = (share: number, count: number): number => share * depth + (3 * noise) / Math.sqrt(count);
  const byColour = [0, 1, 2].map((c) => core.reduce((total, { dips }) => total + dips[c], 0) / core.length);
  if (Math.max(...byColour) - Math.min(...byColour) > tolerance(COLOUR, core.length / 2)) return null;
  // Alike on all sides, within and on the slope: a line or a corner is not.
  for (const band of [core, between(0.8, 1.8)]) {
    const bySide = Array.from({ length: SIDES }, (_, side) => band.filter((pixel) => pixel.side === side));
    const sides = bySide.map(meanOf);
    const middle = sides.reduce((total, each) => total + each, 0) / SIDES;
    if (sides.some((each, i) => Math.abs(each - middle) > tolerance(SIDE, Math.max(1, bySide[i].length))))
      return null;
  }
  // What is left beside the bell is grain: a corner of a shadow leaves more.
  let [left, all, count] = [0, 0, 0];
  const steps: number[] = [];
  for (let j = -reach; j <= reach; j++) {
    let before = NaN;
    for (let i = -reach; i <= reach; i++) {
      const square = i * i + j * j;
      if (square > reach * reach) continue;
      const [r, g, b] = dip(i, j);
      const dark = (r + g + b) / 3;
      const beside = dark - depth * Math.exp(-square / own ** 2);
      left += beside * beside;
      all += dark * dark;
      count++;
      if (!Number.isNaN(before)) steps.push(Math.abs(beside - before));
      before = beside;
    }
  }
  const grainy = (1.48 * median(steps)) / Math.SQRT2;
  if (all - left < EXPLAINED * (all - count * grainy ** 2)) return null;
  return { depth: 1 - Math.exp(-depth), radius: own };
}

const toField = (planes: PlacedPlanes, x: number, y: number, frame: FrameSize): Point =>
  sensorToField(
    [(x + 0.5) / planes.scaleX + planes.originX, (y + 0.5) / planes.scaleY + planes.originY],
    frame
  );

/** Dust that shows on a picture, the deepest first. */
export function findDust(planes: PlacedPlanes, frame: FrameSize): Dust[] {
  const { width, height } = planes;
  const unit = halfDiagonal(frame) * planes.scaleX;
  const log = new Float32Array(width * height);
  for (let i = 0; i < log.length; i++)
    log[i] = Math.log(Math.max(1e-3, 0.25 * planes.r[i] + 0.5 * planes.g[i] + 0.25 * planes.b[i]));
  const sums = summed(log, width, height);
  const read = readerOf(planes, planes);
  const found: (Dust & { x: number; y: number })[] = [];
  for (const radius of RADII) {
    const half = Math.max(1, Math.round(radius * unit * 0.8));
    const by = darker(sums, width, height, half);
    const reach = Math.max(2, half);
    const about = placesAbout(radius * unit);
    for (let y = reach; y < height - reach; y++)
      for (let x = reach; x < width - reach; x++) {
        const value = by[y * width + x];
        // A bell's middle square is darker by half of its depth and more.
        if (value < SHALLOWEST * 0.4 || value > DEEPEST || !isPeak(by, x, y, width, reach)) continue;
        if (!standsOut(by, planes, x, y, about)) continue;
        const judged = judge(read, planes, x, y, radius * unit, SOUGHT);
        if (judged)
          found.push({
            at: toField(planes, x, y, frame),
            radius: judged.radius / unit,
            depth: judged.depth,
            x,
            y
          });
      }
  }
  found.sort((one, other) => other.depth - one.depth);
  const kept: typeof found = [];
  for (const each of found)
    if (
      !kept.some(({ x, y, radius }) => Math.hypot(x - each.x, y - each.y) < 2 * unit * (radius + each.radius))
    )
      kept.push(each);
  return kept.slice(0, MOST).map(({ at, radius, depth }) => ({ at, radius, depth }));
}

/** Steps to places about one, across and down. */
const placesAbout = (radius: number): Point[] =>
  ABOUT.flatMap((away) =>
    Array.from({ length: DIRECTIONS }, (_, i): Point => {
      const turn = ((i + away / 3) / DIRECTIONS) * 2 * Math.PI;
      return [Math.round(Math.cos(turn) * away * radius), Math.round(Math.sin(turn) * away * radius)];
    })
  );

/** Whether a blob is several times as dark as three quarters of what is of its size about it. */
function standsOut(
  by: Float32Array,
  { width, height }: PlacedPlanes,
  x: number,
  y: number,
  about: readonly Point[]
): boolean {
  const most = by[y * width + x] / STANDS_OUT;
  let [there, fainter] = [0, 0];
  for (const [i, j] of about) {
    const [px, py] = [x + i, y + j];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    there++;
    if (Math.abs(by[py * width + px]) < most) fainter++;
  }
  return fainter > Math.floor(there * 0.75);
}

/** Whether a value is the greatest about it; of equal ones, the first. */
function isPeak(values: Float32Array, x: number, y: number, width: number, reach: number): boolean {
  const at = y * width + x;
  const own = values[at];
  // Nearly all that are none are told by those beside them.
  if (values[at - 1] >= own || values[at - width] >= own || values[at + 1] > own || values[at + width] > own)
    return false;
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const other = values[at + j * width + i];
      if (other > own || (other === own && (j < 0 || (j === 0 && i < 0)))) return false;
    }
  return true;
}

/** Those of known specks that show on another picture of the same sensor, where they lie on something plain. */
export function dustThatShows(planes: PlacedPlanes, frame: FrameSize, known: readonly Dust[]): Dust[] {
  const unit = halfDiagonal(frame) * planes.scaleX;
  const read = readerOf(planes, planes);
  return known.flatMap((each) => {
    const x = Math.round(each.at[0] * unit + (frame.width / 2 - planes.originX) * planes.scaleX - 0.5);
    const y = Math.round(each.at[1] * unit + (frame.height / 2 - planes.originY) * planes.scaleY - 0.5);
    let judged: Judged | null = null;
    for (const by of ALIKE) judged ??= judge(read, planes, x, y, each.radius * by * unit, KNOWN);
    return judged ? [{ ...each, depth: judged.depth }] : [];
  });
}
